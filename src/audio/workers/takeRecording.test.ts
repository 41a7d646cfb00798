// The recorder held up while eight lines play: every sample is compared with what was played.
import { describe, expect, it } from 'vitest';
import { newKernels, noise } from '../../../tests/support/kernels';
import { applied, monoTrack, sessionWith } from '../../../tests/support/session';
import { compilePlan, Engine } from '@/core/engine';
import type { EditJson } from '@/core/session';
import { heldSeconds, newTakeRing } from '../takeRing';
import { LineInputs } from '../worklets/lineInputs';
import { RecordTaps } from '../worklets/recordTaps';
import { TakeRecording } from './takeRecording';
import type { Part } from './takeStore';
import { withChange } from './chainChanges';

const k = newKernels();
const RATE = 48_000;
const BLOCK = 480;
const LINES = 8;

/** A browser's disk in memory; refuses beyond `most` bytes a part. */
class Disk {
  private readonly kept: Record<Part, Uint8Array> = {
    processed: new Uint8Array(1 << 20),
    dry: new Uint8Array(1 << 20),
  };
  private readonly sizes: Record<Part, number> = { processed: 0, dry: 0 };
  most = Infinity;
  write(part: Part, bytes: Uint8Array, at: number): void {
    const end = at + bytes.length;
    if (end > this.most) throw new Error('the disk of this browser is full');
    if (end > this.kept[part].length) {
      const grown = new Uint8Array(2 * end);
      grown.set(this.kept[part]);
      this.kept[part] = grown;
    }
    this.kept[part].set(bytes, at);
    this.sizes[part] = Math.max(this.sizes[part], end);
  }
  samples(part: Part): Float32Array {
    return new Float32Array(this.kept[part].buffer, 0, this.sizes[part] / 4);
  }
}

const lines = Array.from({ length: LINES }, (_, i) => `dev/${i + 1}`);
const doc = applied(
  sessionWith(monoTrack('t')),
  ...lines.flatMap((id, i): EditJson[] => [
    { type: 'addLine', device: 'dev', channel: i, name: `L${i + 1}` },
    { type: 'patch', track: 't', channel: 0, line: id },
    { type: 'setChain', owner: { kind: 'line', id }, chain: [] },
    { type: 'addTrack', id: `t${i}`, name: `T${i}`, layout: 'mono', destination: 'nar' },
    { type: 'patch', track: `t${i}`, channel: 0, line: id },
  ]),
);

/** What the lines play at a block: noise that never repeats, short to make. */
const pool = Array.from({ length: LINES }, (_, i) => noise(RATE, 0.9, 3 + i));
const played = (line: number, at: number): number =>
  Math.fround(pool[line]![at % RATE]! * (1 - (Math.floor(at / RATE) % 90) / 100));

/** Records `seconds` with the recorder held up from `from` for `held` seconds. */
function record(
  seconds: number,
  from: number,
  held: number,
  disk = new Disk(),
  onBlock: (at: number) => void = () => {},
) {
  const engine = new Engine(k, BLOCK);
  engine.load(compilePlan(k, doc, { mode: 'live', rolling: true }));
  const inputs = new LineInputs(k, BLOCK);
  inputs.lines = lines.map((line, channel) => ({ line, slot: 0, channel }));
  const ring = newTakeRing(LINES * 2, RATE);
  const taps = new RecordTaps(k, [{ track: 'wide', lines, ring, delay: 0, from: 0, to: null }], BLOCK);
  const take = new TakeRecording(k, ring, LINES, 32, disk);
  const blocks = (seconds * RATE) / BLOCK;
  const trouble: string[] = [];
  const look = () => {
    try {
      take.drain(null);
    } catch (error) {
      trouble.push((error as Error).message);
    }
  };
  for (let b = 0; b < blocks; b++) {
    const at = b * BLOCK;
    const block = [pool.map((_, l) => Float32Array.from({ length: BLOCK }, (_x, i) => played(l, at + i)))];
    engine.begin(BLOCK);
    inputs.feed(engine, block, BLOCK);
    engine.run(BLOCK);
    taps.write(engine, inputs, at, BLOCK);
    onBlock(at);
    const second = at / RATE;
    // The recorder looks ten times a second, when it is let.
    if (b % 10 === 0 && (second < from || second >= from + held)) look();
  }
  taps.free();
  look();
  return { take, disk, trouble, frames: blocks * BLOCK };
}

/** Frames of the files that are not what was played, outside the gaps; and gaps that are not silent. */
function wrong({ take, disk, frames }: ReturnType<typeof record>): number {
  const lost = (i: number) => take.gaps.some((g) => i >= g.at && i < g.at + g.frames);
  let faults = 0;
  for (const part of ['processed', 'dry'] as const) {
    const samples = disk.samples(part);
    expect(samples.length).toBe(frames * LINES);
    for (let i = 0; i < frames; i++)
      for (let l = 0; l < LINES; l++) if (samples[i * LINES + l] !== (lost(i) ? 0 : played(l, i))) faults++;
  }
  return faults;
}

describe('a recorder that is held up', () => {
  it.each([3, 10])('for %d seconds loses nothing', (held) => {
    const done = record(held + 4, 1, held);
    expect(done.take.gaps).toEqual([]);
    expect(wrong(done)).toBe(0);
    expect([done.take.complete, done.take.same, done.take.frames]).toEqual([true, true, done.frames]);
  });
  it(
    'for sixty seconds tells one gap of the right length, and all the rest is in its place',
    { timeout: 300_000 },
    () => {
      const done = record(66, 2, 60);
      expect(done.take.gaps).toHaveLength(1);
      const [gap] = done.take.gaps;
      // Twelve seconds were held, the rest until it looked again is missing.
      expect(gap!.at / RATE).toBeCloseTo(2 + heldSeconds(LINES * 2, RATE), 0);
      expect((gap!.at + gap!.frames) / RATE).toBeCloseTo(62, 0);
      expect(wrong(done)).toBe(0);
      expect([done.take.complete, done.take.same, done.take.frames]).toEqual([true, true, done.frames]);
    },
  );
  it('at the very end tells the gap there', () => {
    const done = record(30, 2, 100);
    expect(done.take.gaps).toHaveLength(1);
    expect(done.take.gaps[0]!.at + done.take.gaps[0]!.frames).toBe(done.frames);
    expect(wrong(done)).toBe(0);
  });
  it('by a full disk keeps what comes, and goes on where it was when there is room', () => {
    const disk = new Disk();
    const done = record(
      12,
      0,
      0,
      disk,
      (at) => (disk.most = at / RATE > 2 && at / RATE < 9 ? 48_000 * LINES * 4 : Infinity),
    );
    expect(done.trouble.length).toBeGreaterThan(5);
    expect(done.take.gaps).toEqual([]);
    expect(wrong(done)).toBe(0);
  });
});

it('changes of a chain under a dragging hand are one change, where it began', () => {
  const chains = (v: number) => [[{ id: 'x', type: 'trim', on: true, values: { gain: v } }]];
  let all = withChange(undefined, { at: 48_000, chains: chains(1) });
  for (let i = 1; i < 10; i++) all = withChange(all, { at: 48_000 + i * 1000, chains: chains(i) });
  all = withChange(all, { at: 96_000, chains: chains(0) });
  expect(all).toEqual([
    { at: 48_000, chains: chains(9) },
    { at: 96_000, chains: chains(0) },
  ]);
});
