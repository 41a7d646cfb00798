// Several processes on one PostgreSQL and one object store, most with a folder of their own: they agree on every change, each
// has the files of all, and a print is made by whoever is left.
import { existsSync, mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { Client } from 'pg';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { DATA_OFFSET } from '@/core/files';
import type { PrintFacts } from '@/core/print';
import type { MediaRef, SessionDoc } from '@/core/session';
import { hearEvents } from '../support/events';
import { startBucket, type Bucket } from '../support/bucket';
import { noiseWav } from '../support/noiseWav';
import { startCluster, type Cluster } from '../support/postgres';
import { acknowledged, freePort, Program, Server } from '../support/server';

const root = mkdtempSync(path.join(tmpdir(), 'wide-room-house-'));
const folder = (of: string) => path.join(root, of);
let bucket: Bucket;
let cluster: Cluster;
let client: Client;
const apps: Server[] = [];
const workers: Program[] = [];
let session = '';

const at = (app: number, to: string) => `http://127.0.0.1:${apps[app]!.port}${to}`;
const env = () => ({ DATABASE_URL: cluster.url, ...bucket.env });

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
  bucket = await startBucket(folder('bucket'));
  client = new Client({ connectionString: cluster.url });
  await client.connect();
  // Both at once: one of them lays out the tables.
  for (let i = 0; i < 2; i++)
    apps.push(
      new Server(await freePort(), folder(`app${i}`), {
        ...{ ...env(), WIDE_ROOM_PRINTS: '0', WIDE_ROOM_SERVER: `app${i}`, WIDE_ROOM_LINKS: 'https://studio.example' },
      }),
    );
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
  await bucket.stop();
  rmSync(root, { recursive: true, force: true });
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

it('a performer’s link leads through the proxy to the server that made it', async () => {
  const { urls } = await ask<{ urls: string[] }>(1, `/api/sessions/${session}/share`, 'POST', {});
  expect(urls).toEqual([expect.stringMatching(/^https:\/\/studio\.example\/prompt\/shared\/app1-[\w-]{24}$/)]);
  const { pathname } = new URL(urls[0]!);
  expect((await fetch(at(1, pathname.replace('/prompt/', '/api/')))).status).toBe(200);
});

it('what was brought in here is heard there, and two files of one name keep their names apart', async () => {
  const bring = (app: number, seconds: number) =>
    ask<{ media: MediaRef }>(app, `/api/sessions/${session}/media?name=surf.wav`, 'POST', noiseWav(seconds));
  const [here, there] = await Promise.all([bring(0, 1), bring(1, 2)]);
  expect([here.media.name, there.media.name].sort()).toEqual(['surf-2.wav', 'surf.wav']);
  for (const app of [0, 1])
    for (const { media } of [here, there]) {
      const file = new Uint8Array(await (await fetch(at(app, `/api/media/${media.id}/file`))).arrayBuffer());
      expect(Buffer.from(file).equals(noiseWav(media === here.media ? 1 : 2)), `${media.name} at ${app}`).toBe(true);
    }
  const { bytes } = await ask<{ bytes: Record<string, number> }>(1, `/api/sessions/${session}/files`);
  expect(bytes[here.media.id]).toBe(noiseWav(1).length);
});

it('a take that one server began and another goes on with is whole', async () => {
  const frames = 48_000;
  const sound = Buffer.alloc(frames * 3, 7);
  const id = 'take-elsewhere';
  await ask(0, `/api/sessions/${session}/recordings`, 'POST', { id, track: 'voice', start: 0, chains: [[]] });
  const send = (app: number, part: string, from: number, to: number) =>
    fetch(at(app, `/api/recordings/${id}/chunks/${part}?offset=${from}`), {
      method: 'PUT',
      headers: { 'Content-Type': 'application/octet-stream' },
      body: sound.subarray(from, to),
    });
  for (const part of ['processed', 'dry']) {
    expect((await send(0, part, 0, 72_000)).status).toBe(200);
    // The other one has none of it, and says from where it needs it.
    const refused = await send(1, part, 72_000, 144_000);
    expect([refused.status, await refused.json()]).toMatchObject([409, { expected: 0 }]);
    expect((await send(1, part, 0, 144_000)).status).toBe(200);
  }
  await ask(1, `/api/recordings/${id}/finish`, 'POST', { frames });
  const take = (await docAt(0)).tracks[0]!.takes[0]!;
  const file = Buffer.from(await (await fetch(at(1, `/api/media/${take.media}/file`))).arrayBuffer());
  expect(file.subarray(DATA_OFFSET, DATA_OFFSET + sound.length).equals(sound)).toBe(true);
  const there = Buffer.from(await (await fetch(at(0, `/api/media/${take.media}/file`))).arrayBuffer());
  expect(there.equals(file)).toBe(true);
});

it(
  'a print whose worker is killed in the middle is made by another, with the same samples',
  { timeout: 600_000 },
  async () => {
    const seconds = 30;
    const { media } = await ask<{ media: object }>(
      ...([0, `/api/sessions/${session}/media?name=noise.wav`, 'POST', noiseWav(seconds)] as const),
    );
    const clips = Array.from({ length: 3 }, (_, i) => ({
      ...{ type: 'addClip', id: `c${i}`, track: 'voice', start: i * seconds * 48_000, media },
    }));
    await edit(1, 'clips', ...clips, { type: 'setRange', start: 0, end: 3 * seconds * 48_000 });
    const worker = async (of: string) => {
      const made = new Program(['dist/workers/cli.mjs', 'worker'], { ...env(), WIDE_ROOM_DATA: folder(of) });
      workers.push(made);
      await made.until(() => /Waiting for prints as (\S+)\./.test(made.said));
      return { made, name: /as (\S+)\./.exec(made.said)![1]! };
    };
    const three = await Promise.all(['app0', 'worker1', 'worker2'].map(worker));
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
    const printed = (of: string, version = 2) => folder(path.join(of, 'sessions', session, 'prints', `v0${version}`));
    // In the middle: files of it have begun.
    await until(() =>
      ['app0', 'worker1', 'worker2'].some((w) => existsSync(printed(w)) && readdirSync(printed(w)).length > 0),
    );
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

    // It is handed over by a server that made none of it.
    for (const p of [whole, again]) expect((await fetch(at(1, `/api/prints/${p.id}/archive`))).status).toBe(200);
    const samplesOf = (p: PrintFacts) =>
      p.proof!.files.map((f) => readFileSync(path.join(printed('app1', p.version), f.file)).subarray(DATA_OFFSET));
    const [first, second] = [samplesOf(whole), samplesOf(again)];
    expect(first.length).toBeGreaterThan(1);
    first.forEach((bytes, i) => expect(bytes.equals(second[i]!), `file ${i}`).toBe(true));
    expect(again.proof!.files.map((f) => f.facts)).toEqual(whole.proof!.files.map((f) => f.facts));
  },
);
