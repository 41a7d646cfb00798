// A session after many edits beside one after ten: opened by a server that has just started, opened again, and edited.
// After some 1,500 the log is packed and grows no more; the database is tidied every 500.
// `node --import tsx bench/log.ts 10000`
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { freePort, Server } from '../tests/support/server';
import { report } from './timing';

const MANY = Number(process.argv[2] ?? 10_000);
const FEW = 10;
const FORMAT = { sampleRate: 48_000, wordLength: 24, frameRate: '25', startTimecode: '10:00:00:00', layout: '5.1' };
const TRACKS = 32;

const data = mkdtempSync(path.join(tmpdir(), 'wide-room-log-'));
const port = await freePort();

async function ask<T>(to: string, body?: object): Promise<T> {
  const answer = await fetch(`http://127.0.0.1:${port}/api/sessions${to}`, {
    ...(body && {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify(body),
    }),
  });
  if (!answer.ok) throw new Error(await answer.text());
  return (await answer.json()) as T;
}

let sent = 0;
/** A level, a pan and a name in turn; every tenth step is taken back. */
async function step(id: string): Promise<void> {
  const n = ++sent;
  if (n % 10 === 9) {
    await ask(`/${id}/history`, { direction: 'undo' });
    return;
  }
  const what = [{ level: -(n % 240) / 10 }, { name: `Voice ${n % 1000}` }, { muted: n % 2 === 0 }][n % 3]!;
  await ask(`/${id}/edits`, { id: `e${n}`, edits: [{ type: 'setTrack', track: `t${n % TRACKS}`, ...what }] });
}

async function made(name: string, steps: number): Promise<string> {
  const { id } = await ask<{ id: string }>('', { name, code: 'LG', ...FORMAT });
  const edits = Array.from({ length: TRACKS }, (_, t) => ({
    ...{ type: 'addTrack', id: `t${t}`, name: `Track ${t}`, layout: 'mono', destination: 'dia' },
  }));
  await ask(`/${id}/edits`, { id: `${id}-first`, edits });
  for (let i = 1; i < steps; i++) await step(id);
  return id;
}

const median = (v: number[]) => v.sort((a, b) => a - b)[Math.floor(v.length / 2)]!;

async function timed(work: () => Promise<unknown>): Promise<number> {
  const began = performance.now();
  await work();
  return performance.now() - began;
}

let server = new Server(port, data);
await server.ready();
const few = await made('Few', FEW);
const began = performance.now();
const many = await made('Many', MANY);
console.error(`${MANY} edits in ${((performance.now() - began) / 1000).toFixed(0)} s`);

const cases = { few, many };
const kept = { few: [] as number[][], many: [] as number[][] };
for (let run = 0; run < 5; run++) {
  // The server's own first request is not the session's.
  await server.kill('SIGTERM');
  server = new Server(port, data);
  await server.ready();
  await ask('');
  for (const of of run % 2 ? (['many', 'few'] as const) : (['few', 'many'] as const)) {
    const id = cases[of];
    const first = await timed(() => ask(`/${id}`));
    const again: number[] = [];
    const edits: number[] = [];
    for (let i = 0; i < 10; i++) {
      again.push(await timed(() => ask(`/${id}`)));
      edits.push(await timed(() => step(id)));
    }
    kept[of].push([first, median(again), median(edits)]);
  }
}
await server.kill('SIGTERM');
rmSync(data, { recursive: true });

for (const [i, what] of ['opened, the server just started', 'opened again', 'edited and stored'].entries()) {
  const [a, b] = (['few', 'many'] as const).map((of) => median(kept[of].map((run) => run[i]!)));
  report({
    case: `session with ${MANY} edits behind it, ${what}`,
    reference: `one with ${FEW}: ${a!.toFixed(1)} ms`,
    figure: `${b!.toFixed(1)} ms`,
    // What a shared machine moves is not told apart.
    met: b! <= a! * 1.25,
    aim: `as with ${FEW}`,
  });
}
