// One pass: 32 mono tracks of two minutes through chains into eight limited 5.1 stems and a limited
// reference, all written and measured, against the same graph in one ffmpeg run.
import { spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { open, type FileHandle } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { compilePlan, type PlanNode } from '../src/core/engine';
import { printSession } from '../src/core/print';
import { newKernels } from '../src/server/kernels';
import { WavReader } from '../src/server/media/wavReader';
import { monoTracks } from './media';
import { mixSession, STEMS } from './mixSession';
import { peakMemory, race } from './timing';

const seconds = Number(process.argv[2] ?? 120);
const files = monoTracks(32, seconds);
const doc = mixSession(seconds);
const k = newKernels();
const dir = mkdtempSync(path.join(tmpdir(), 'wide-room-bench-'));

async function ours(): Promise<void> {
  const reader = new WavReader(k, (media) => files[Number(media.slice(1))]!, 16384);
  const handles = new Map<string, FileHandle>();
  for (const d of doc.deliverables) handles.set(d.id, await open(path.join(dir, `${d.id}.wav`), 'w'));
  await printSession(
    k,
    doc,
    reader.read,
    (d) => ({ write: async (at, bytes) => void (await handles.get(d.id)!.write(bytes, 0, bytes.length, at)) }),
    {
      range: doc.range,
      deliverables: doc.deliverables,
      measure: true,
    },
  );
  for (const h of handles.values()) await h.close();
  await reader.close();
}

// The same graph for ffmpeg: cookbook filters, compressor, the very pan gains, limiter, ebur128 with peaks.
function graph(): string {
  const plan = compilePlan(k, doc, { mode: 'print' });
  const node = (id: string): PlanNode => plan.nodes.find((n) => n.id === id)!;
  const parts: string[] = [];
  doc.tracks.forEach((t, i) => {
    const n = node(t.id);
    const pan = n.links[0]!.gains[0]!.map((g, c) => `c${c}=${(g * n.gain).toFixed(6)}*c0`).join('|');
    parts.push(
      `[${i}:a]highpass=f=70:p=2,equalizer=f=160:t=q:w=1:g=-3,equalizer=f=3000:t=q:w=0.9:g=2.5,acompressor=threshold=-20dB:ratio=2.5:attack=10:release=120:knee=2,pan=5.1(side)|${pan}[t${i}]`,
    );
  });
  const measured = 'ebur128=peak=true:framelog=verbose';
  for (let s = 0; s < STEMS; s++) {
    const inputs = doc.tracks.flatMap((t, i) => (t.destination === `s${s}` ? [`[t${i}]`] : []));
    parts.push(
      `${inputs.join('')}amix=inputs=${inputs.length}:normalize=0,alimiter=limit=0.977:attack=1.5:release=80:level=0,asplit[s${s}][r${s}]`,
      `[s${s}]${measured}[o${s}]`,
    );
  }
  parts.push(
    `${Array.from({ length: STEMS }, (_, s) => `[r${s}]`).join('')}amix=inputs=${STEMS}:normalize=0,alimiter=limit=0.977:attack=1.5:release=80:level=0,${measured}[o${STEMS}]`,
  );
  return parts.join(';');
}

const filter = graph();
function theirs(): void {
  const outputs = Array.from({ length: STEMS + 1 }, (_, i) => [
    '-map',
    `[o${i}]`,
    '-c:a',
    'pcm_s24le',
    path.join(dir, `ff-${i}.wav`),
  ]).flat();
  const r = spawnSync(
    'ffmpeg',
    [
      '-v',
      'error',
      '-y',
      '-filter_complex_threads',
      '1',
      '-threads',
      '1',
      ...files.flatMap((f) => ['-i', f]),
      '-filter_complex',
      filter,
      ...outputs,
    ],
    { encoding: 'utf8' },
  );
  if (r.status !== 0) throw new Error(r.stderr);
}

const result = await race(3, ours, theirs);
rmSync(dir, { recursive: true });
console.log(
  JSON.stringify({
    case: `mix 32 tracks x ${seconds} s to 8 stems and reference, one thread`,
    reference: 'ffmpeg, one run of the same graph',
    ...result,
    aim: 6,
    realTime: Number((seconds / result.ours).toFixed(1)),
    peakMemoryMB: peakMemory(),
  }),
);
