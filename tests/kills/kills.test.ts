// The server is killed at random moments while everything goes on at once: what was acknowledged is there, documents are
// whole, nothing half made lies about. KILLS sets how often; `npm run kills` does it a hundred times.
import { mkdtempSync, readdirSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { wholeDocument, type SessionDoc } from '@/core/session';
import { eventually } from '../support/eventually';
import { random } from '../support/mutate';
import { noiseWav } from '../support/noiseWav';
import { acknowledged as ask, freePort, Server } from '../support/server';

const KILLS = Number(process.env.KILLS ?? 6);
const FIRST_STARTS = Math.ceil(KILLS / 5);
const SEED = Number(process.env.KILL_SEED ?? 1);
const next = random(SEED);

const data = mkdtempSync(path.join(tmpdir(), 'wide-room-kills-'));
let port = 0;
const at = (to: string) => `http://127.0.0.1:${port}${to}`;

const acknowledged = <T>(to: string, method: string, body?: object | Uint8Array) => ask<T>(at(to), method, body);

/** What the server said that it has. */
interface Promised {
  /** Names that tracks were given, in order. */
  names: string[];
  recordings: Map<string, number>;
  media: Set<string>;
  templates: Set<string>;
  sessions: Set<string>;
}
const promised: Promised = {
  names: [],
  recordings: new Map(),
  media: new Set(),
  templates: new Set(),
  sessions: new Set(),
};
let session = '';
let edits = 0;
let files = 0;

const FORMAT = { sampleRate: 48_000, wordLength: 24, frameRate: '25', startTimecode: '10:00:00:00', layout: 'stereo' };

/** Works until the server is gone: edits, a recording, an import, a print, templates and sessions of them, all at once. */
async function work(sound: Uint8Array): Promise<void> {
  let gone = false;
  const until = async (step: () => Promise<boolean>) => {
    while (!gone) if (!(await step())) gone = true;
  };
  const id = `rec-${Date.now().toString(36)}-${Math.floor(next() * 1e6)}`;
  const begun = await acknowledged(`/api/sessions/${session}/recordings`, 'POST', {
    ...{ id, track: 'voice', start: 0, chains: [[]] },
  });
  let sent = 0;
  const piece = new Uint8Array(3 * 4_800).map((_, i) => (i * 7) % 251);
  await Promise.all([
    until(async () => {
      const name = `Voice ${++edits}`;
      const done = await acknowledged(`/api/sessions/${session}/edits`, 'POST', {
        ...{ id: `kill-${edits}`, base: 0, edits: [{ type: 'setTrack', track: 'voice', name }] },
      });
      if (done) promised.names.push(name);
      return done !== null;
    }),
    until(async () => {
      if (!begun) return false;
      for (const part of ['processed', 'dry'])
        if (!(await acknowledged(`/api/recordings/${id}/chunks/${part}?offset=${sent}`, 'PUT', piece))) return false;
      sent += piece.length;
      promised.recordings.set(id, sent);
      return true;
    }),
    until(async () => {
      const taken = await acknowledged<{ media: { id: string } }>(
        `/api/sessions/${session}/media?name=import-${files++}.wav`,
        'POST',
        sound,
      );
      if (taken) promised.media.add(taken.media.id);
      return taken !== null;
    }),
    until(async () => {
      const kept = await acknowledged<{ id: string }>('/api/templates', 'POST', { session, name: 'Kill', media: true });
      if (kept) promised.templates.add(kept.id);
      if (!kept) return false;
      const made = await acknowledged<{ id: string }>('/api/sessions', 'POST', {
        ...{ name: 'Made', code: 'MD', template: kept.id },
        ...FORMAT,
      });
      if (made) promised.sessions.add(made.id);
      return made !== null;
    }),
    acknowledged(`/api/sessions/${session}/prints`, 'POST', { knowingly: true }),
  ]);
}

/** What lies about that belongs to nothing that is finished. */
const lying = (): string[] =>
  ['sessions', 'templates', 'scratch'].flatMap((dir) => {
    try {
      return readdirSync(path.join(data, dir), { recursive: true, encoding: 'utf8' }).filter(
        (f) => dir === 'scratch' || /\.part|\.unfinished/.test(f),
      );
    } catch {
      return [];
    }
  });

async function looked(): Promise<void> {
  // Before anybody asks for anything again.
  expect(lying()).toEqual([]);
  const all = await acknowledged<{ id: string }[]>('/api/sessions', 'GET');
  for (const id of [session, ...promised.sessions]) expect(all!.map((s) => s.id)).toContain(id);
  for (const { id } of all!) {
    const open = await acknowledged<{ doc: SessionDoc }>(`/api/sessions/${id}`, 'GET');
    wholeDocument(open!.doc, 'session');
    if (id !== session) continue;
    // The last change that was acknowledged, or one behind it that nobody heard the answer of.
    const number = Number(/\d+$/.exec(open!.doc.tracks[0]!.name)?.[0] ?? 0);
    const last = Number(/\d+$/.exec(promised.names.at(-1) ?? '0')![0]);
    expect(number).toBeGreaterThanOrEqual(last);
    expect(number).toBeLessThanOrEqual(edits);
  }
  const templates = await acknowledged<{ id: string }[]>('/api/templates', 'GET');
  for (const id of promised.templates) expect(templates!.map((t) => t.id)).toContain(id);
  const { bytes } = (await acknowledged<{ bytes: Record<string, number> }>(`/api/sessions/${session}/files`, 'GET'))!;
  for (const id of promised.media) expect(bytes[id], id).toBeGreaterThan(0);
  for (const [id, sent] of promised.recordings) {
    const facts = await acknowledged<{ received: Record<string, number>; state: string }>(
      `/api/recordings/${id}`,
      'GET',
    );
    expect(facts!.received.processed, id).toBeGreaterThanOrEqual(sent);
    expect(facts!.received.dry, id).toBeGreaterThanOrEqual(sent);
    expect(facts!.state).toBe('recovered');
  }
}

beforeAll(async () => {
  port = await freePort();
});
afterAll(() => rmSync(data, { recursive: true, force: true }));

it(`${FIRST_STARTS} first starts are killed, and the next one works`, { timeout: 1_800_000 }, async () => {
  for (let i = 0; i < FIRST_STARTS; i++) {
    rmSync(data, { recursive: true, force: true });
    const first = new Server(port, data);
    const after = 200 + next() * 4_000;
    await Promise.race([first.ended, new Promise((resolve) => setTimeout(resolve, after))]);
    await first.kill();
    const second = new Server(port, data);
    await second.ready();
    expect(await acknowledged('/api/sessions', 'GET')).toEqual([]);
    await second.kill();
  }
});

/** Kills in one folder; then the next begins with a new one, so that none is slow because of what the others made. */
const IN_ONE_FOLDER = 10;

const count = { edits: 0, recordings: 0, bytes: 0, files: 0, templates: 0, sessions: 0 };

function begin(): void {
  rmSync(data, { recursive: true, force: true });
  promised.names.length = 0;
  for (const list of [promised.recordings, promised.media, promised.templates, promised.sessions]) list.clear();
}

function summed(): void {
  count.edits += promised.names.length;
  count.recordings += promised.recordings.size;
  for (const bytes of promised.recordings.values()) count.bytes += bytes;
  count.files += promised.media.size;
  count.templates += promised.templates.size;
  count.sessions += promised.sessions.size;
}

it(`${KILLS} kills lose nothing that was acknowledged`, { timeout: 3_600_000 }, async () => {
  const sound = noiseWav(2);
  const starts: number[] = [];
  let server: Server | null = null;
  for (let i = 0; i < KILLS; i++) {
    if (i % IN_ONE_FOLDER === 0) {
      await server?.kill();
      summed();
      begin();
      server = new Server(port, data);
      await server.ready();
      const made = await acknowledged<{ id: string }>('/api/sessions', 'POST', {
        name: 'Kills',
        code: 'KL',
        ...FORMAT,
      });
      session = made!.id;
      const track = { type: 'addTrack', id: 'voice', name: 'Voice 0', layout: 'mono', destination: 'dia' };
      await acknowledged(`/api/sessions/${session}/edits`, 'POST', { id: 'track', base: 0, edits: [track] });
    }
    const busy = work(sound);
    // One of each folder dies after it has promised something, however slow the machine is; the others at any moment.
    if (i % IN_ONE_FOLDER === 1)
      await eventually(() => expect(Math.min(promised.names.length, promised.recordings.size)).toBeGreaterThan(0));
    await new Promise((resolve) => setTimeout(resolve, 100 + next() * 2_500));
    await server!.kill();
    await busy;
    server = new Server(port, data);
    starts.push(await server.ready());
    await looked();
  }
  await server!.kill();
  summed();
  const [least, most] = [Math.min(...starts), Math.max(...starts)].map(Math.round);
  console.log(`${KILLS} kills: ${JSON.stringify(count)}; starts after a kill ${least} to ${most} ms`);
  expect(count.edits).toBeGreaterThan(0);
  expect(count.recordings).toBeGreaterThan(0);
});
