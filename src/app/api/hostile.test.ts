// Whatever a client sends, no route fails: each is asked with values that nobody means well. Routes, their methods, the
// members of their bodies and of their queries are found in the sources; only a good body of each kind is written here.
import { readdirSync, readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { getMetadataStorage } from 'class-validator';
import { describe, expect, it } from 'vitest';
import { withDatabase } from '../../../tests/support/database';
import { FORMAT, mono, monoTrack } from '../../../tests/support/session';
import { newSession, NewSession, SEAT_COOKIE } from '@/core/session';
import * as wire from '@/core/wire';
import * as sessions from '@/server/sessions';
import * as config from '@/server/config';
import * as media from '@/server/media';

withDatabase();

const API = import.meta.dirname;
const METHODS = ['GET', 'HEAD', 'POST', 'PUT', 'PATCH', 'DELETE', 'OPTIONS'];

interface Route {
  file: string;
  source: string;
  params: string[];
  queries: string[];
  /** Class of its body. */
  asks: string[];
}

/** Handlers that stand elsewhere, since the server's listener calls them too. */
const ELSEWHERE = { takeChunk: '../../server/recordings/chunk.ts' };
const handlersOf = (route: string): string =>
  Object.entries(ELSEWHERE)
    .filter(([name]) => route.includes(name))
    .map(([, file]) => readFileSync(path.join(API, file), 'utf8'))
    .join('');

const routes: Route[] = readdirSync(API, { recursive: true, encoding: 'utf8' })
  .filter((file) => path.basename(file) === 'route.ts')
  .map((file) => {
    const own = readFileSync(path.join(API, file), 'utf8');
    const source = own + handlersOf(own);
    return {
      file,
      source,
      params: [...file.matchAll(/\[(\w+)\]/g)].map((m) => m[1]!),
      queries: [...source.matchAll(/\.(?:get|has)\('(\w+)'\)/g)].map((m) => m[1]!).filter((q) => q !== 'range'),
      asks: [...source.matchAll(/(?:asked\(request, |readAs\()(\w+)/g)].map((m) => m[1]!),
    };
  });

const chain = [{ id: 's', type: 'lowCut', on: true, values: { frequency: 80, slope: 12 } }];

/** A body of each class that is good, or nearly. */
const GOOD: Record<string, object> = {
  BeginRecording: {
    ...{ id: 'recording-1', track: 'a', start: 0, chains: [chain], block: 3, keepDry: true },
    ...{ format: { sampleRate: 48_000, wordLength: 24 }, purpose: { cue: 'c1', show: { start: 0 }, passedBy: ['x'] } },
  },
  FinishRecording: {
    ...{ frames: 1, shownEnd: 5, sums: { processed: 1, dry: 1 }, last: true },
    facts: { gaps: [{ at: 0, frames: 1 }], chainChanges: [{ at: 1, chains: [chain] }], faults: ['x'] },
  },
  KeepLayout: { name: 'Dome', speakers: [{ label: 'L', azimuth: 30, elevation: 0 }] },
  SetRoom: { revision: 1, room: { name: 'Booth' } },
  UndoRoom: { revision: 1 },
  SignIn: { name: 'Ada', phrase: 'a lamp in the fog' },
  NamePerson: { name: 'Ada', hue: 1 },
  KeepPreset: { name: 'Warm', category: 'own', stage: 'lowCut', chain },
  KeepTemplate: { session: 'SESSION', name: 'Radio', category: 'own', media: true },
  NewSession: {
    ...{ name: 'New', code: 'N', sampleRate: 48_000, wordLength: 24, frameRate: '25', startTimecode: '10:00:00:00' },
    ...{ layout: '5.1', template: 'nothing' },
  },
  Travel: { direction: 'undo', past: 5 },
  ChangeRate: { sampleRate: 44_100 },
  NoteHere: { window: 'w', going: true, recording: false },
  News: { state: 'playing', position: 0, at: 0, cue: 'c', lineAt: 0 },
  OwnFile: { frames: 100 },
  StartPrint: { knowingly: true, only: ['x'], beside: ['y'] },
  FindTone: { media: 'file', from: 0, to: 48_000, length: 4_800, start: 0, name: 'tone' },
  SendEdits: { id: 'e', base: 0, edits: [{ type: 'setTrack', track: 'a', level: -3 }] },
  Duplicate: { name: 'Copy' },
  ReadPieces: { items: [{ media: 'file', from: 0, frames: 10 }] },
  KeepVersion: { name: 'v' },
};

const LONG = 'x'.repeat(20_000);
const VALUES: unknown[] = [
  ...[null, true, -1, 0, 1.5, 1e308, -1e308, 2 ** 53, 2 ** 31, '', ' ', '\0', 'a\0b', '\ud800', '\u202e', LONG],
  ...['../../etc/passwd', '__proto__', 'constructor', 'toString', 'NaN', '1e999', "'; drop table sessions; --"],
  ...[[], [null], [[[]]], {}, { length: 1e9 }, { then: 'x' }, { toString: null }, { constructor: null }, ['a', 'a']],
];
const IDS = [
  '..',
  '.',
  '',
  ' ',
  '\0',
  'a\0',
  'a/b',
  'a\\b',
  '%2e%2e',
  '__proto__',
  'constructor',
  'CON',
  LONG,
  'Möwe',
  '\ud800',
];
const BODIES: (string | Uint8Array)[] = [
  ...['', 'null', '1', '"x"', '[]', '{}', '{', '{"a":', 'NaN', 'undefined', `${'['.repeat(200_000)}`],
  ...[
    `{"a":${'['.repeat(100_000)}${']'.repeat(100_000)}}`,
    '{"__proto__":{"x":1}}',
    '{"edits":{}}',
    '{"edits":[null]}',
  ],
  ...['{"edits":[{"type":"constructor"}]}', '{"edits":[{"type":"__proto__"}]}', '{"edits":[[]]}', '{"name":"\\u0000"}'],
  ...[Uint8Array.of(0xff, 0xfe, 0x00), Uint8Array.of(0x7b, 0xc3, 0x28, 0x7d), new Uint8Array(1000)],
];

let n = 0;
async function someSession(): Promise<string> {
  const id = await sessions.createSession(newSession('Hostile', 'HO', { ...FORMAT }));
  const file = `file-${n++}`;
  writeFileSync(config.mediaPath(id, `${file}.wav`), Buffer.alloc(4_000, 7));
  await media.addMedia({
    ...{ id: file, session: id, file: `${file}.wav`, kind: 'file', channels: 1, frames: 96_000, sampleRate: 48_000 },
  });
  await sessions.edit(id, `h${n++}`, [
    monoTrack('a', 'Voice'),
    { type: 'addClip', id: 'c', track: 'a', start: 0, media: { ...mono(file, 96_000), name: `${file}.wav` } },
  ]);
  return id;
}

type Handler = (request: Request, context: { params: Promise<Record<string, string>> }) => Promise<Response>;

interface Asked {
  method: string;
  params: Record<string, string>;
  query?: string;
  body?: string | Uint8Array;
  type?: string;
}

/** The answer's status; the body is read as far as it goes by itself. */
async function answer(handler: Handler, { method, params, query = '', body, type }: Asked): Promise<number> {
  const bodied = body !== undefined && method !== 'GET' && method !== 'HEAD';
  const request = new Request(`http://localhost:1/api/x${query}`, {
    method,
    headers: {
      host: 'localhost:1',
      cookie: `${SEAT_COOKIE}=seat-1`,
      ...(bodied ? { 'content-type': type ?? 'application/json' } : {}),
    },
    ...(bodied ? { body: body as BodyInit } : {}),
  });
  const response = await handler(request, { params: Promise.resolve(params) });
  const told = response.headers.get('content-type') ?? '';
  if (response.status >= 400) {
    expect(told).toContain('application/json');
    expect(((await response.json()) as { message: string }).message.length).toBeGreaterThan(8);
  } else await response.body?.cancel();
  return response.status;
}

/** All that a member deep in a body could be instead. */
function* spoiled(good: unknown, whole: (part: unknown) => unknown = (part) => part): Generator<unknown> {
  for (const value of VALUES) yield whole(value);
  if (typeof good !== 'object' || good === null) return;
  for (const [key, value] of Object.entries(good))
    yield* spoiled(value, (part) =>
      whole(
        Array.isArray(good)
          ? good.map((v, i) => (String(i) === key ? part : (v as unknown)))
          : { ...good, [key]: part },
      ),
    );
  if (!Array.isArray(good))
    for (const key of Object.keys(good))
      yield whole(Object.fromEntries(Object.entries(good).filter(([k]) => k !== key)));
}

it('there is a good body for each class that a route asks for, and it names its members', () => {
  const asks = new Set(routes.flatMap((r) => r.asks));
  expect([...asks].filter((name) => !GOOD[name])).toEqual([]);
  const classes = { ...wire, NewSession } as Record<string, unknown>;
  for (const name of asks) {
    const Class = classes[name];
    if (typeof Class !== 'function') continue;
    const members = getMetadataStorage()
      .getTargetValidationMetadatas(Class, '', false, false)
      .map((m) => m.propertyName);
    for (const member of members) expect(Object.keys(GOOD[name]!), name).toContain(member);
  }
  expect(routes.length).toBeGreaterThan(50);
});

describe.each(routes.map((r) => [r.file, r] as const))('%s', (file, { params, queries, asks }) => {
  it('answers whatever it is asked', async () => {
    const found = (await import(path.join(API, file))) as Record<string, Handler | undefined>;
    let session = await someSession();
    const right = () => Object.fromEntries(params.map((p) => [p, p === 'id' ? session : 'a']));
    const failures: string[] = [];
    const ask = async (asked: Asked) => {
      const status = await answer(found[asked.method]!, asked);
      if (status === 500)
        failures.push(
          `${asked.method} ${JSON.stringify(asked.params).slice(0, 80)} ${asked.query ?? ''} ${String(asked.body).slice(0, 300)}`,
        );
      // What takes the session away leaves nothing to ask for.
      if (/bin|duplicate/.test(file) && status < 300) session = await someSession();
    };
    for (const method of METHODS.filter((m) => found[m])) {
      for (const param of params)
        for (const id of IDS) await ask({ method, params: { ...right(), [param]: id }, body: '{}' });
      for (const query of queries)
        for (const value of ['', ' ', '%00', '%ff', '-1', '1e999', 'x', '..%2f..', LONG.slice(0, 2000)])
          await ask({ method, params: right(), query: `?${query}=${value}`, body: '{}' });
      if (method === 'GET' || method === 'HEAD') {
        await ask({ method, params: right() });
        continue;
      }
      for (const body of BODIES) await ask({ method, params: right(), body });
      await ask({ method, params: right(), body: '{}', type: 'application/xml' });
      for (const name of asks)
        for (const body of spoiled(GOOD[name]))
          await ask({ method, params: right(), body: (JSON.stringify(body) ?? '').replaceAll('SESSION', session) });
    }
    expect(failures).toEqual([]);
  });
});
