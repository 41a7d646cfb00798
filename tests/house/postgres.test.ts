// Several processes on one PostgreSQL and one folder: they agree on every change, and a print is made by whoever is left.
import { mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { Client } from 'pg';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { DATA_OFFSET } from '@/core/files';
import type { PrintFacts } from '@/core/print';
import type { SessionDoc } from '@/core/session';
import { hearEvents } from '../support/events';
import { noiseWav } from '../support/noiseWav';
import { startCluster, type Cluster } from '../support/postgres';
import { acknowledged, freePort, Program, Server } from '../support/server';

const data = mkdtempSync(path.join(tmpdir(), 'wide-room-house-'));
let cluster: Cluster;
let client: Client;
const apps: Server[] = [];
const workers: Program[] = [];
let session = '';

const at = (app: number, to: string) => `http://127.0.0.1:${apps[app]!.port}${to}`;
const env = () => ({ DATABASE_URL: cluster.url });

async function ask<T>(app: number, to: string, method = 'GET', body?: object | Uint8Array): Promise<T> {
  const answer = await acknowledged<T>(at(app, to), method, body);
  if (answer === null) throw new Error(`${method} ${to} was refused`);
  return answer;
}
const docAt = async (app: number) => (await ask<{ doc: SessionDoc }>(app, `/api/sessions/${session}`)).doc;
const edit = (app: number, id: string, ...edits: object[]) =>
  ask<{ revision: number }>(app, `/api/sessions/${session}/edits`, 'POST', { id, base: 0, edits });

/** What an app's stream of events tells, from now on. */
async function listening(app: number): Promise<{ events: { kind: string; [fact: string]: unknown }[]; end(): void }> {
  const events: { kind: string }[] = [];
  const end = await hearEvents(at(app, ''), (event) => events.push(JSON.parse(event) as { kind: string }));
  await until(() => events.some((e) => e.kind === 'hello'));
  return { events, end };
}

async function until(there: () => boolean | Promise<boolean>): Promise<void> {
  while (!(await there())) await new Promise((resolve) => setTimeout(resolve, 50));
}

beforeAll(async () => {
  cluster = await startCluster();
  client = new Client({ connectionString: cluster.url });
  await client.connect();
  // Both at once: one of them lays out the tables.
  for (let i = 0; i < 2; i++) apps.push(new Server(await freePort(), data, { ...env(), WIDE_ROOM_PRINTS: '0' }));
  await Promise.all(apps.map((a) => a.ready()));
  const made = await ask<{ id: string }>(0, '/api/sessions', 'POST', {
    ...{ name: 'House', code: 'HS', sampleRate: 48_000, wordLength: 24, frameRate: '25', startTimecode: '10:00:00:00' },
    layout: 'stereo',
  });
  session = made.id;
  await edit(0, 'track', { type: 'addTrack', id: 'voice', name: 'Voice', layout: 'mono', destination: 'dia' });
});
afterAll(async () => {
  for (const p of [...apps, ...workers]) await p.kill();
  await client.end();
  cluster.stop();
  rmSync(data, { recursive: true, force: true });
});

it('a change in one is there in the other at once, and its windows are told with what each may undo', async () => {
  const there = await listening(1);
  const { revision } = await edit(0, 'level', { type: 'setTrack', track: 'voice', level: -7 });
  expect((await docAt(1)).tracks[0]!.level).toBe(-7);
  // What was changed just before may still be on its way.
  const told = () => there.events.find((e) => (e.change as { editId: string } | undefined)?.editId === 'level');
  await until(() => told() !== undefined);
  expect(told()).toMatchObject({
    session,
    change: { revision, editId: 'level', patches: [{ path: ['tracks', 0, 'level'], value: -7 }] },
  });
  // It is taken back by the other one.
  await ask(1, `/api/sessions/${session}/history`, 'POST', { direction: 'undo' });
  expect((await docAt(0)).tracks[0]!.level).toBe(0);
  await ask(0, `/api/sessions/${session}/history`, 'POST', { direction: 'redo' });
  expect((await docAt(1)).tracks[0]!.level).toBe(-7);
  there.end();
});

it('eighty changes at once, half here and half there, are all made, one after the other; the same one twice is made once', async () => {
  const before = (await ask<{ revision: number }>(0, `/api/sessions/${session}`)).revision;
  await Promise.all(
    Array.from({ length: 80 }, (_, i) =>
      edit(i % 2, `many-${i}`, { type: 'setMarker', marker: `m${i}`, at: 100 * i, name: `Marker ${i}` }),
    ),
  );
  const [here, there] = [await docAt(0), await docAt(1)];
  expect(here.markers).toHaveLength(80);
  expect(there).toEqual(here);
  const { rows } = await client.query<{ revision: number }>(
    'select revision from edits where session = $1 order by revision',
    [session],
  );
  expect(rows.slice(-80).map((r) => r.revision)).toEqual(Array.from({ length: 80 }, (_, i) => before + 1 + i));
  const twice = await Promise.all(
    [0, 1].map((app) => edit(app, 'twice', { type: 'setTrack', track: 'voice', level: -8 })),
  );
  expect(twice[0]!.revision).toBe(twice[1]!.revision);
});

it('who is here is known to both', async () => {
  const there = await listening(1);
  await fetch(at(0, `/api/sessions/${session}/here`), {
    method: 'POST',
    headers: { 'Content-Type': 'application/json', Cookie: 'wide-room-seat=ada-seat' },
    body: JSON.stringify({ window: 'w1' }),
  });
  await until(() => there.events.some((e) => e.kind === 'here'));
  expect(there.events.find((e) => e.kind === 'here')).toMatchObject({ people: [{ seat: 'ada-seat' }] });
  there.end();
});

it(
  'a print whose worker is killed in the middle is made by another, with the same samples',
  { timeout: 600_000 },
  async () => {
    const seconds = 30;
    const { media } = await ask<{ media: object }>(
      ...([0, `/api/sessions/${session}/media?name=noise.wav`, 'POST', noiseWav(seconds)] as const),
    );
    const clips = Array.from({ length: 8 }, (_, i) => ({
      ...{ type: 'addClip', id: `c${i}`, track: 'voice', start: i * seconds * 48_000, media },
    }));
    await edit(1, 'clips', ...clips, { type: 'setRange', start: 0, end: 8 * seconds * 48_000 });
    const worker = async () => {
      const made = new Program(['dist/workers/cli.mjs', 'worker'], { ...env(), WIDE_ROOM_DATA: data });
      workers.push(made);
      await made.until(() => /Waiting for prints as (\S+)\./.test(made.said));
      return { made, name: /as (\S+)\./.exec(made.said)![1]! };
    };
    const three = await Promise.all([worker(), worker(), worker()]);
    const print = async () =>
      (await ask<PrintFacts>(0, `/api/sessions/${session}/prints`, 'POST', { knowingly: true })).id;
    const facts = (id: string) => ask<PrintFacts>(1, `/api/prints/${id}`);
    const over = async (id: string) => {
      await until(async () => !['waiting', 'running'].includes((await facts(id)).state));
      return facts(id);
    };
    const whole = await over(await print());
    expect(whole).toMatchObject({ state: 'done' });

    const id = await print();
    const told = await listening(1);
    const folder = path.join(data, 'sessions', session, 'prints', 'v02');
    // In the middle: files of it have begun.
    await until(() => {
      try {
        return readdirSync(folder).length > 0;
      } catch {
        return false;
      }
    });
    const { rows } = await client.query<{ worker: string; state: string }>(
      'select worker, state from prints where id = $1',
      [id],
    );
    expect(rows[0]!.state).toBe('running');
    await three.find((w) => w.name === rows[0]!.worker)!.made.kill();
    const again = await over(id);
    expect(again).toMatchObject({ state: 'done', message: null });
    const taken = await client.query<{ worker: string; begun: number }>(
      'select worker, begun from prints where id = $1',
      [id],
    );
    expect(taken.rows[0]!.begun).toBe(2);
    expect(taken.rows[0]!.worker).not.toBe(rows[0]!.worker);
    expect(told.events.some((e) => e.kind === 'print')).toBe(true);
    told.end();

    const samplesOf = (p: PrintFacts) =>
      p.proof!.files.map((f) =>
        readFileSync(path.join(folder.replace('v02', `v0${p.version}`), f.file)).subarray(DATA_OFFSET),
      );
    const [first, second] = [samplesOf(whole), samplesOf(again)];
    expect(first.length).toBeGreaterThan(1);
    first.forEach((bytes, i) => expect(bytes.equals(second[i]!), `file ${i}`).toBe(true));
    expect(again.proof!.files.map((f) => f.facts)).toEqual(whole.proof!.files.map((f) => f.facts));
  },
);
