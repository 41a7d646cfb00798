// The server while 64 lines are recorded, 24 bit at 48 kHz, processed and untouched: how much of a processor the pieces cost
// that a page sends it. `node --import tsx bench/lines.ts 60 64`
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { request as plain, Agent } from 'node:http';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { crc32 } from 'node:zlib';
import { freePort, Server } from '../tests/support/server';
import { report } from './timing';

const SECONDS = Number(process.argv[2] ?? 60);
const LINES = Number(process.argv[3] ?? 64);
/** A page sends what so many takes have every so often (ms), and the less often the more there are. */
const SEND_EVERY = 400 * Math.max(1, LINES / 4);
const RATE = 48_000;
const FRAME = 3;
const FORMAT = { sampleRate: RATE, wordLength: 24, frameRate: '25', startTimecode: '10:00:00:00', layout: 'stereo' };

const data = mkdtempSync(path.join(tmpdir(), 'wide-room-lines-'));
const port = await freePort();
const server = new Server(port, data);
const agent = new Agent({ keepAlive: true });

function ask<T>(way: string, method: string, body: Uint8Array | string): Promise<T> {
  return new Promise((resolve, reject) => {
    const sent = plain(
      {
        ...{ port, method, agent, path: way },
        headers: {
          'Content-Length': body.length,
          'Content-Type': typeof body === 'string' ? 'application/json' : 'application/octet-stream',
        },
      },
      (answer) => {
        let text = '';
        answer.on('data', (piece: Buffer) => (text += piece.toString()));
        answer.on('end', () => {
          if (answer.statusCode! < 300) resolve(JSON.parse(text) as T);
          else reject(new Error(text));
        });
      },
    );
    sent.on('error', reject);
    sent.end(body);
  });
}

/** Seconds of processor that the server has taken. */
function taken(): number {
  const [, rest] = readFileSync(`/proc/${server.pid}/stat`, 'utf8').split(') ');
  const fields = rest!.split(' ');
  return (Number(fields[11]) + Number(fields[12])) / 100;
}

await server.ready();
const { id: session } = await ask<{ id: string }>(
  '/api/sessions',
  'POST',
  JSON.stringify({ name: 'Lines', code: 'LN', ...FORMAT }),
);
const tracks = Array.from({ length: LINES }, (_, t) => ({
  ...{ type: 'addTrack', id: `t${t}`, name: `Line ${t + 1}`, layout: 'mono', destination: 'dia' },
}));
await ask(`/api/sessions/${session}/edits`, 'POST', JSON.stringify({ id: 'tracks', edits: tracks }));

const begin = (t: number) =>
  ask(
    `/api/sessions/${session}/recordings`,
    'POST',
    JSON.stringify({ id: `recording-${t}`, track: `t${t}`, start: 0, chains: [[]] }),
  );
for (let t = 0; t < LINES; t++) await begin(t);

const piece = new Uint8Array((SEND_EVERY / 1000) * RATE * FRAME).map((_, i) => (i * 7919) >> 3);
const sum = crc32(piece);
let [late, sent] = [0, 0];
async function line(t: number, until: number): Promise<void> {
  const first = performance.now() + (SEND_EVERY * t) / LINES;
  for (let n = 0; first + n * SEND_EVERY < until; n++) {
    const due = first + n * SEND_EVERY;
    await new Promise((resolve) => setTimeout(resolve, Math.max(0, due - performance.now())));
    for (const part of ['processed', 'dry'])
      await ask(`/api/recordings/recording-${t}/chunks/${part}?offset=${n * piece.length}&crc=${sum}`, 'PUT', piece);
    sent += 2 * piece.length;
    late = Math.max(late, performance.now() - due);
  }
}
// What is compiled at first is not what ten minutes cost.
await Promise.all(Array.from({ length: LINES }, (_, t) => line(t, performance.now() + 2 * SEND_EVERY)));
const more = Array.from({ length: LINES }, (_, t) => t + LINES);
await ask(
  `/api/sessions/${session}/edits`,
  'POST',
  JSON.stringify({
    id: 'more',
    edits: tracks.map((one, t) => ({ ...one, id: `t${t + LINES}`, name: `More ${t + 1}` })),
  }),
);
for (const t of more) await begin(t);
sent = late = 0;
const before = taken();
const began = performance.now();
await Promise.all(more.map((t) => line(t, began + 1000 * SECONDS)));
const wall = (performance.now() - began) / 1000;
const share = (taken() - before) / wall;
await server.kill('SIGTERM');
rmSync(data, { recursive: true });
report({
  case: `${LINES} lines of 24 bit recorded, both files of each; the server's share of a processor`,
  reference: `${(sent / 1e6 / wall).toFixed(1)} MB/s, a piece taken at most ${(late / 1000).toFixed(1)} s after it was due`,
  figure: `${(100 * share).toFixed(1)} %`,
  met: share < 0.1,
  aim: '10 %',
});
