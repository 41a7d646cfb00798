// Fifty windows on ten sessions: how many edits a second are stored, how late other windows hear of them, how much memory
// the servers take. One server with its embedded database, then two on one PostgreSQL.
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { hearEvents } from '../tests/support/events';
import { startCluster } from '../tests/support/postgres';
import { acknowledged, freePort, Server } from '../tests/support/server';
import { report } from './timing';

const WINDOWS = 50;
const SESSIONS = 10;
const SECONDS = Number(process.argv[2] ?? 30);
/** An edit of each window so often (ms); `fast`: as soon as the one before is stored. */
const EVERY = 2000;

const FORMAT = { sampleRate: 48_000, wordLength: 24, frameRate: '25', startTimecode: '10:00:00:00', layout: '5.1' };

/** Median, 95th percentile and largest, ms. */
function spread(values: number[]): { median: number; p95: number; most: number } {
  const v = [...values].sort((a, b) => a - b);
  const at = (share: number) => Math.round((v[Math.min(v.length - 1, Math.floor(v.length * share))] ?? NaN) * 10) / 10;
  return { median: at(0.5), p95: at(0.95), most: at(1) };
}

const memoryOf = (pid: number): number =>
  Math.round(Number(/VmHWM:\s+(\d+)/.exec(readFileSync(`/proc/${pid}/status`, 'utf8'))![1]) / 1024);

async function run(name: string, urls: string[], pids: number[], fast: boolean): Promise<void> {
  const sessions: string[] = [];
  for (let i = 0; i < SESSIONS; i++) {
    const made = await acknowledged<{ id: string }>(`${urls[0]}/api/sessions`, 'POST', {
      name: `Load ${i}`,
      code: 'LD',
      ...FORMAT,
    });
    sessions.push(made!.id);
    const tracks = Array.from({ length: 16 }, (_, t) => ({
      ...{ type: 'addTrack', id: `t${t}`, name: `Track ${t}`, layout: 'mono', destination: 'dia' },
    }));
    await acknowledged(`${urls[0]}/api/sessions/${made!.id}/edits`, 'POST', {
      id: `first-${name}-${fast}`,
      base: 0,
      edits: tracks,
    });
  }
  const sent = new Map<string, number>();
  const delays: number[] = [];
  const answers: number[] = [];
  const windows = await Promise.all(
    Array.from({ length: WINDOWS }, async (_, w) => {
      const url = urls[w % urls.length]!;
      const end = await hearEvents(url, (event) => {
        const id = /"editId":"([^"]+)"/.exec(event)?.[1] ?? '';
        const at = sent.get(id);
        // Windows hear of all sessions, and of their own changes as well; those of others on theirs count.
        const [, session, window] = id.split(':');
        if (at !== undefined && Number(session) === w % SESSIONS && Number(window) !== w)
          delays.push(performance.now() - at);
      });
      return { url, end, w };
    }),
  );
  const until = performance.now() + SECONDS * 1000;
  let refused = 0;
  await Promise.all(
    windows.map(async ({ url, w }) => {
      // Nobody works in step with all others.
      if (!fast) await new Promise((resolve) => setTimeout(resolve, (EVERY * w) / WINDOWS));
      for (let n = 0; performance.now() < until; n++) {
        const began = performance.now();
        const id = `${name}${fast ? '!' : ''}-${n}:${w % SESSIONS}:${w}`;
        sent.set(id, began);
        const done = await acknowledged(`${url}/api/sessions/${sessions[w % SESSIONS]}/edits`, 'POST', {
          ...{ id, base: 2 ** 31 - 1, edits: [{ type: 'setTrack', track: `t${w % 16}`, level: -((n % 200) / 10) }] },
        });
        if (done) answers.push(performance.now() - began);
        else refused++;
        if (!fast)
          await new Promise((resolve) => setTimeout(resolve, Math.max(0, EVERY - (performance.now() - began))));
      }
    }),
  );
  await new Promise((resolve) => setTimeout(resolve, 1000));
  for (const { end } of windows) end();
  report({
    ...{
      case: `${WINDOWS} windows on ${SESSIONS} sessions, ${fast ? 'as fast as they are stored' : 'an edit every two seconds each'}: ${name}`,
    },
    ...{
      editsPerSecond: Math.round(answers.length / SECONDS),
      refused,
      answerMs: spread(answers),
      otherWindowsMs: spread(delays),
    },
    memoryMB: pids.map(memoryOf),
  });
}

async function on(name: string, count: number, env: Record<string, string>): Promise<void> {
  const data = mkdtempSync(path.join(tmpdir(), 'wide-room-load-'));
  const servers: Server[] = [];
  try {
    for (let i = 0; i < count; i++) {
      servers.push(new Server(await freePort(), data, env));
      await servers[i]!.ready();
    }
    const urls = servers.map((s) => `http://127.0.0.1:${s.port}`);
    const pids = servers.map((s) => s.pid);
    await run(name, urls, pids, false);
    await run(name, urls, pids, true);
  } finally {
    for (const server of servers) await server.kill();
    rmSync(data, { recursive: true, force: true });
  }
}

await on('one server, embedded database', 1, {});
const cluster = await startCluster();
try {
  await on('two servers, one PostgreSQL', 2, { DATABASE_URL: cluster.url });
} finally {
  cluster.stop();
}
