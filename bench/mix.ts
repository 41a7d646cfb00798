// One pass: 32 mono tracks of two minutes through chains into eight limited 5.1 stems and a limited
// reference, all written and measured, against the same graph in one ffmpeg run.
import { spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { compilePlan, type PlanNode } from '../src/core/engine';
import { newKernels } from '../src/server/kernels';
import { printInParts } from '../src/server/prints/printParts';
import { monoTracks } from './media';
import { mixSession, STEMS } from './mixSession';
import { peakMemory, race, report } from './timing';

const seconds = Number(process.argv[2] ?? 120);
const files = monoTracks(32, seconds);
const sends = process.argv[3] === 'sends';
const doc = mixSession(seconds, sends);
const k = newKernels();
const dir = mkdtempSync(path.join(tmpdir(), 'wide-room-bench-'));

const media = Object.fromEntries(files.map((f, i) => [`m${i}`, f]));

/** Everything a print does up to the finished samples, with so many threads. */
const ours = (threads: number) => async () => {
  const out = Object.fromEntries(doc.deliverables.map((d) => [d.id, path.join(dir, `${d.id}.wav`)]));
  Object.values(out).forEach((f) => writeFileSync(f, ''));
  const printed = await printInParts(k, { doc, media, range: doc.range, files: out, threads, measure: true }, () => {});
  if (printed.length !== STEMS + 1 || printed.some((f) => f.measured?.integrated === undefined))
    throw new Error('a file is missing');
};

// The same graph for ffmpeg: cookbook filters, compressor, the very pan gains, limiter, ebur128 with peaks.
function graph(): string {
  const plan = compilePlan(k, doc, { mode: 'print' });
  const node = (id: string): PlanNode => plan.nodes.find((n) => n.id === id)!;
  const parts: string[] = [];
  const pan = (layout: string, n: PlanNode, to: string) =>
    `pan=${layout}|${n.links
      .find((l) => l.to === to)!
      .gains.map(([, c, g]) => `c${c}=${(g * n.gain).toFixed(6)}*c0`)
      .join('|')}`;
  doc.tracks.forEach((t, i) => {
    const n = node(t.id);
    const dry = pan('5.1(side)', n, t.destination!);
    const chain = `[${i}:a]highpass=f=70:p=2,equalizer=f=160:t=q:w=1:g=-3,equalizer=f=3000:t=q:w=0.9:g=2.5,acompressor=threshold=-20dB:ratio=2.5:attack=10:release=120:knee=2`;
    if (!sends) parts.push(`${chain},${dry}[t${i}]`);
    else
      parts.push(
        `${chain},asplit[d${i}][x${i}]`,
        `[d${i}]${dry}[t${i}]`,
        `[x${i}]${pan('stereo', n, t.sends[0]!.to)}[w${i}]`,
      );
  });
  if (sends)
    for (const r of [0, 1]) {
      const wet = doc.tracks.flatMap((t, i) => (t.sends[0]!.to === `r${r}` ? [`[w${i}]`] : []));
      parts.push(
        `${wet.join('')}amix=inputs=${wet.length}:normalize=0,highpass=f=70:p=2,pan=5.1(side)|c0=c0|c1=c1[b${r}]`,
      );
    }
  const measured = 'ebur128=peak=true:framelog=verbose';
  for (let s = 0; s < STEMS; s++) {
    const inputs = doc.tracks.flatMap((t, i) => (t.destination === `s${s}` ? [`[t${i}]`] : []));
    if (sends && s === 0) inputs.push('[b0]', '[b1]');
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

for (const threads of [1, 2]) {
  const result = await race(3, ours(threads), theirs);
  report({
    case: `mix 32 tracks x ${seconds} s to 8 stems and reference${sends ? ', 32 sends to two returns' : ''}, ${threads === 1 ? 'one thread' : 'two threads'}`,
    reference: 'ffmpeg, one run of the same graph, one thread',
    ...result,
    aim: sends ? (threads === 1 ? 5 : 8) : threads === 1 ? 8 : 12,
    realTime: Number((seconds / result.ours).toFixed(1)),
    peakMemoryMB: peakMemory(),
  });
}
rmSync(dir, { recursive: true });
