// Files that were good and have faults now, through the routes that take them: taken in or refused in a sentence, nothing
// left lying about, and memory that stays flat. FUZZ_RUNS sets how many; `npm run fuzz` makes 20,000.
import { execFileSync } from 'node:child_process';
import { readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { beforeAll, describe, expect, it } from 'vitest';
import { MemorySink } from '../../../tests/support/files';
import { withDatabase } from '../../../tests/support/database';
import { newKernels, noise, put } from '../../../tests/support/kernels';
import { mutate, random } from '../../../tests/support/mutate';
import { FORMAT, monoTrack } from '../../../tests/support/session';
import { AudioWriter, wavHeader, type OutputSpec } from '@/core/files';
import { newSession } from '@/core/session';
import * as sessions from '@/server/sessions';

const RUNS = Number(process.env.FUZZ_RUNS ?? 240);
withDatabase();
const folder = process.env.WIDE_ROOM_DATA!;
/** Files after which the process has what it needs. */
const SETTLED = 50;
/** Of this process with database and kernels, whatever comes (bytes). */
const MOST_MEMORY = 700e6;
const k = newKernels();

type Handler = (request: Request, context: { params: Promise<Record<string, string>> }) => Promise<Response>;
let session = '';
let importFile: Handler;
let template: Handler;
let archive: Handler;
let leaveOut: Handler;
let takeIn: Handler;
const kinds: { name: string; good: Uint8Array; send: (bytes: Uint8Array) => Promise<number> }[] = [];

async function sound(spec: Partial<OutputSpec> & { kind: 'wav' | 'aiff'; channels: number }): Promise<Uint8Array> {
  const frames = 4_800;
  const sink = new MemorySink();
  const set = put(
    k,
    Array.from({ length: spec.channels }, (_, c) => noise(frames, 0.5, c + 1)),
  );
  const writer = new AudioWriter(k, sink, { format: 24, sampleRate: 48_000, mask: 0, ...spec } as OutputSpec, frames);
  await writer.write(set.table, frames);
  await writer.finish();
  set.free();
  return sink.bytes.slice();
}

const bytesOf = async (response: Response): Promise<Uint8Array> => new Uint8Array(await response.arrayBuffer());

/** Asks a route with a file as the body; what it answers is a sentence where it refuses. */
async function send(handler: Handler, method: string, bytes: Uint8Array, params = {}, query = ''): Promise<number> {
  const request = new Request(`http://localhost:1/x${query}`, {
    method,
    headers: { host: 'localhost:1' },
    body: bytes as Uint8Array<ArrayBuffer>,
  });
  const response = await handler(request, { params: Promise.resolve(params) });
  const told = (await response.json()) as { message?: string; asked?: { id: string } };
  if (response.status >= 400) expect(told.message!.length).toBeGreaterThan(10);
  // One at another rate waits for a word: it is left out.
  if (told.asked) {
    const left = new Request('http://localhost:1/x', { method: 'DELETE', headers: { host: 'localhost:1' } });
    expect((await leaveOut(left, { params: Promise.resolve({ ...params, waiting: told.asked.id }) })).status).toBe(200);
  }
  return response.status;
}

beforeAll(async () => {
  session = await sessions.createSession(newSession('Fuzz', 'FZ', { ...FORMAT }));
  const module = async (file: string) =>
    (await import(path.join(import.meta.dirname, file))) as Record<string, Handler>;
  importFile = (await module('sessions/[id]/media/route.ts')).POST!;
  ({ DELETE: leaveOut, POST: takeIn } = (await module('sessions/[id]/media/[waiting]/route.ts')) as {
    DELETE: Handler;
    POST: Handler;
  });
  const templates = await module('templates/route.ts');
  template = templates.PUT!;
  archive = (await module('archives/route.ts')).POST!;

  const wav = await sound({ kind: 'wav', channels: 2 });
  const flac = path.join(tmpdir(), `fuzz-${process.pid}.flac`);
  writeFileSync(`${flac}.wav`, wav);
  execFileSync('flac', ['--silent', '--force', '-o', flac, `${flac}.wav`]);
  const files: [string, Uint8Array][] = [
    ['wav', wav],
    ['six.wav', await sound({ kind: 'wav', channels: 6 })],
    ['float.wav', await sound({ kind: 'wav', channels: 1, format: 132 })],
    ['other.wav', await sound({ kind: 'wav', channels: 1, sampleRate: 44_100 })],
    ['aiff', await sound({ kind: 'aiff', channels: 2 })],
    ['flac', new Uint8Array(readFileSync(flac))],
  ];
  for (const [name, good] of files)
    kinds.push({ name, good, send: (b) => send(importFile, 'POST', b, { id: session }, `?name=a.${name}`) });

  // A template and an archive as this server makes them, with a file of sound.
  const taken = await importFile(
    new Request('http://localhost:1/x?name=voice.wav', {
      method: 'POST',
      headers: { host: 'localhost:1' },
      body: (await sound({ kind: 'wav', channels: 1 })) as Uint8Array<ArrayBuffer>,
    }),
    { params: Promise.resolve({ id: session }) },
  );
  const { media } = (await taken.json()) as { media: object };
  await sessions.edit(session, 'fz', [
    monoTrack('a', 'Voice'),
    { type: 'addClip', id: 'c', track: 'a', start: 0, media },
    {
      type: 'addCues',
      cues: [{ id: 'q', number: '1', start: 0, end: 48_000, character: 'Pilot', text: 'Mind the gauge.' }],
    },
  ]);
  const asked = (method: string, body?: object) =>
    new Request('http://localhost:1/x', {
      method,
      headers: { host: 'localhost:1', 'content-type': 'application/json' },
      ...(body ? { body: JSON.stringify(body) } : {}),
    });
  const none = { params: Promise.resolve({}) };
  const kept = await templates.POST!(asked('POST', { session, name: 'T', media: true }), none);
  const { id } = (await kept.json()) as { id: string };
  const one = (await module('templates/[id]/route.ts')).GET!;
  const of = { params: Promise.resolve({ id }) };
  kinds.push({
    name: 'template',
    good: await bytesOf(await one(asked('GET'), of)),
    send: (b) => send(template, 'PUT', b),
  });
  const whole = (await module('sessions/[id]/archive/route.ts')).GET!;
  const ofSession = { params: Promise.resolve({ id: session }) };
  kinds.push({
    name: 'archive',
    good: await bytesOf(await whole(asked('GET'), ofSession)),
    send: (b) => send(archive, 'POST', b),
  });
});

const lying = (): string[] =>
  ['sessions', 'templates', 'scratch'].flatMap((dir) => {
    try {
      return readdirSync(path.join(folder, dir), { recursive: true, encoding: 'utf8' }).filter(
        (f) => /\.part|\.unfinished/.test(f) || dir === 'scratch',
      );
    } catch {
      return [];
    }
  });

describe('with faults', () => {
  it(`${RUNS} files are taken in or refused, and nothing is left lying about`, { timeout: 3_600_000 }, async () => {
    const count: Record<string, Record<number, number>> = {};
    let most = 0;
    for (let run = 0; run < RUNS; run++) {
      const { name, good, send: to } = kinds[run % kinds.length]!;
      const status = await to(mutate(good, random(run + 1)));
      expect(status === 202 || status < 500, `run ${run}, ${name}: ${status}`).toBe(true);
      const of = (count[name] ??= {});
      of[status] = (of[status] ?? 0) + 1;
      // A database that is laid out for the first time takes more, for a moment.
      if (run >= SETTLED) most = Math.max(most, process.memoryUsage().rss);
    }
    expect(lying()).toEqual([]);
    console.log(`high-water mark ${(most / 1e6).toFixed(0)} MB`, JSON.stringify(count));
    expect(most).toBeLessThan(MOST_MEMORY);
    for (const { name } of kinds) expect(Object.keys(count[name] ?? {}).length, name).toBeGreaterThan(0);
  });
});

describe('with very many channels, or at a rate that nobody uses', () => {
  it.each(
    [1, 32, 63, 64, 65, 96, 128, 255, 256, 1000, 4096].flatMap((channels) =>
      [1_000, 8_000, 48_000, 192_000, 384_000, 999_999].map((sampleRate) => [channels, sampleRate] as const),
    ),
  )('%i channels at %i Hz', async (channels, sampleRate) => {
    const frames = 40;
    const header = wavHeader({ format: 16, channels, sampleRate, frames, mask: 0 });
    const bytes = new Uint8Array(header.length + frames * channels * 2);
    bytes.set(header);
    const status = await send(importFile, 'POST', bytes, { id: session }, '?name=wide.wav');
    expect([201, 202, 422]).toContain(status);
    if (status !== 202) return;
    // Asked for, it is converted or refused as well.
    const asked = await importFile(
      new Request('http://localhost:1/x?name=wide.wav', {
        method: 'POST',
        headers: { host: 'localhost:1' },
        body: bytes,
      }),
      { params: Promise.resolve({ id: session }) },
    );
    const { asked: waits } = (await asked.json()) as { asked: { id: string } };
    const yes = new Request('http://localhost:1/x', { method: 'POST', headers: { host: 'localhost:1' } });
    const taken = await takeIn(yes, { params: Promise.resolve({ id: session, waiting: waits.id }) });
    expect([201, 422]).toContain(taken.status);
    expect(lying()).toEqual([]);
  });
});
