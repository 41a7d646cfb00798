// What the worklet hands to the recorder: processed and dry, aligned.
import { describe, expect, it } from 'vitest';
import { FORMAT } from '../../../tests/support/session';
import { newKernels, noise } from '../../../tests/support/kernels';
import { compilePlan, Engine } from '@/core/engine';
import { applyEdit, newSession, readEdit, type EditJson, type SessionDoc } from '@/core/session';
import { newTakeRing, TakeReader, type TakeMemory } from '../takeRing';
import { LineInputs } from './lineInputs';
import { RecordTaps } from './recordTaps';

const k = newKernels();
const BLOCK = 128;
const apply = (doc: SessionDoc, ...edits: EditJson[]) => edits.reduce((d, e) => applyEdit(d, readEdit(e)).doc, doc);
const session = (...edits: EditJson[]) =>
  apply(
    newSession('Test', 'TS', { ...FORMAT }),
    { type: 'addTrack', id: 't', name: 'T', layout: 'stereo', destination: 'dia' },
    { type: 'addLine', device: 'dev', channel: 0, name: 'One' },
    { type: 'addLine', device: 'dev', channel: 1, name: 'Two' },
    { type: 'patch', track: 't', channel: 0, line: 'dev/1' },
    { type: 'patch', track: 't', channel: 1, line: 'dev/2' },
    // Only what the test looks at is in the chains.
    ...['dev/1', 'dev/2'].flatMap((id) =>
      ['lowCut', 'gate', 'compressor'].map((s): EditJson => ({
        type: 'removeStage',
        owner: { kind: 'line', id },
        stage: `${id}-${s}`,
      })),
    ),
    ...edits,
  );

/** All that a take's ring holds, and whether it is what was written. */
function readAll(memory: TakeMemory): Float32Array[] {
  const reader = new TakeReader(memory);
  const step = reader.next(Infinity);
  const out = Array.from({ length: memory.channels }, (_, c) => {
    const samples = new Float32Array(step?.frames ?? 0);
    if (step) reader.take(c, samples, new Int32Array(samples.buffer), 0, step.frames);
    return samples;
  });
  if (step) reader.took(step);
  expect([reader.ended, reader.same]).toEqual([out[0]!.length, true]);
  return out;
}

/** Runs `blocks` blocks of two lines of noise and returns the four channels that were recorded. */
function record(doc: SessionDoc, delay: number, blocks = 20, open = true, window: [number, number | null] = [0, null]) {
  const engine = new Engine(k, BLOCK);
  engine.load(compilePlan(k, doc, { mode: 'live', rolling: true }));
  const inputs = new LineInputs(k, BLOCK);
  inputs.lines = open
    ? [
        { line: 'dev/1', slot: 0, channel: 0 },
        { line: 'dev/2', slot: 0, channel: 1 },
      ]
    : [];
  const ring = newTakeRing(4, 48000);
  const taps = new RecordTaps(
    k,
    [{ track: 't', lines: ['dev/1', 'dev/2'], ring, delay, from: window[0], to: window[1] }],
    BLOCK,
  );
  const sound = [noise(blocks * BLOCK, 0.9, 3), noise(blocks * BLOCK, 0.9, 5)];
  for (let b = 0; b < blocks; b++) {
    const block = [sound.map((s) => s.subarray(b * BLOCK, (b + 1) * BLOCK))];
    inputs.look(block, BLOCK);
    engine.begin(BLOCK);
    inputs.feed(engine, block, BLOCK);
    engine.run(BLOCK);
    taps.write(engine, inputs, b * BLOCK, BLOCK);
  }
  taps.free();
  const out = readAll(ring);
  return { out, sound, inputs, n: out[0]!.length };
}

describe('recording taps', () => {
  it('give processed and dry channels in order, without a gap', () => {
    const { out, sound, n } = record(session(), 0);
    expect(n).toBe(20 * BLOCK);
    expect(out).toEqual([...sound, ...sound]);
  });
  it('processed passes the chain, dry does not', () => {
    const { out, sound } = record(
      session({ type: 'addStage', owner: { kind: 'line', id: 'dev/1' }, id: 'c', stage: 'lowCut' }),
      0,
    );
    expect(out[0]).not.toEqual(sound[0]);
    expect(out[1]).toEqual(sound[1]);
    expect(out[2]).toEqual(sound[0]);
  });
  it('the dry copy is as late as the chain makes the processed one', () => {
    const limiter = (id: string): EditJson => ({
      type: 'addStage',
      owner: { kind: 'line', id },
      id: `${id}-l`,
      stage: 'limiter',
    });
    const { out, sound } = record(session(limiter('dev/1'), limiter('dev/2')), 71);
    for (const c of [0, 1]) {
      expect(out[c + 2]!.subarray(71)).toEqual(sound[c]!.subarray(0, 20 * BLOCK - 71));
      // The limiter touches peaks only: the two lie on each other in time.
      const same = out[c]!.filter((v, i) => Math.abs(v - out[c + 2]![i]!) < 0.08).length;
      expect(same / out[c]!.length).toBeGreaterThan(0.9);
    }
  });
  it.each([
    [0, 300],
    [77, 1000],
    [128, 256],
    [500, 501],
    [2000, null],
  ] as const)('record exactly the frames from %d to %s of the roll', (from, to) => {
    const { out, sound, n } = record(session(), 0, 20, true, [from, to]);
    const end = to ?? 20 * BLOCK;
    expect(n).toBe(end - from);
    expect(out).toEqual([...sound, ...sound].map((s) => s.slice(from, end)));
  });
  it('a chain that delays moves the stretch, and dry and processed stay on each other', () => {
    const { out, sound } = record(session(), 71, 20, true, [571, 871]);
    // The dry copy waits as long as the processed one: frames 500 to 800 of the line.
    expect(out[2]).toEqual(sound[0]!.slice(500, 800));
  });
  it('more takes begin while others run, and end where they are told', () => {
    const rings = [newTakeRing(2, 48000), newTakeRing(2, 48000)];
    const engine = new Engine(k, BLOCK);
    engine.load(compilePlan(k, session(), { mode: 'live', rolling: true }));
    const inputs = new LineInputs(k, BLOCK);
    inputs.lines = [{ line: 'dev/1', slot: 0, channel: 0 }];
    const tap = { track: 't', lines: ['dev/1'], delay: 0 };
    const taps = new RecordTaps(k, [{ ...tap, ring: rings[0]!, from: 0, to: 1000 }], BLOCK);
    const sound = noise(20 * BLOCK, 0.9, 3);
    for (let b = 0; b < 20; b++) {
      if (b === 4) taps.add([{ ...tap, ring: rings[1]!, from: 1000, to: null }]);
      if (b === 15) taps.end(15 * BLOCK);
      expect(taps.records(b * BLOCK, BLOCK)).toBe(b < 15);
      engine.begin(BLOCK);
      inputs.feed(engine, [[sound.subarray(b * BLOCK, (b + 1) * BLOCK)]], BLOCK);
      engine.run(BLOCK);
      taps.write(engine, inputs, b * BLOCK, BLOCK);
    }
    const got = rings.map((memory) => readAll(memory)[1]);
    // Two rounds of a loop meet to the sample.
    expect(got).toEqual([sound.slice(0, 1000), sound.slice(1000, 15 * BLOCK)]);
    // What has ended costs nothing any more.
    expect(taps.any).toBe(false);
    taps.free();
  });
  it('a device that is gone records silence instead of stopping the others', () => {
    const { out, n } = record(session(), 0, 20, false);
    expect(n).toBe(20 * BLOCK);
    for (const c of out) expect(c.every((v) => v === 0)).toBe(true);
  });
  it('every channel that arrives is metered, patched or not', () => {
    const { inputs, sound } = record(session(), 0);
    const [[left]] = inputs.takePeaks() as [[number]];
    expect(left).toBeCloseTo(
      sound[0]!.reduce((m, v) => Math.max(m, Math.abs(v)), 0),
      6,
    );
    expect(inputs.takePeaks()).toEqual([]);
  });
  describe('by hand', () => {
    /** Two lines; in at block 10 and out at block 15, with `held` frames kept from before. */
    function byHand(held: number, delay = 0) {
      const engine = new Engine(k, BLOCK);
      engine.load(compilePlan(k, session(), { mode: 'live', rolling: true }));
      const inputs = new LineInputs(k, BLOCK);
      inputs.lines = [{ line: 'dev/1', slot: 0, channel: 0 }];
      const tap = { track: 't', lines: ['dev/1'], delay };
      const taps = new RecordTaps(k, [], BLOCK);
      if (held) taps.standBy([{ ...tap, frames: held }]);
      const memory = newTakeRing(2, 48000);
      const sound = noise(20 * BLOCK, 0.9, 3);
      let before = -1;
      for (let b = 0; b < 20; b++) {
        if (b === 10) before = taps.punch([{ ...tap, ring: memory, from: 0, to: null, after: 100 }], 10 * BLOCK).t!;
        if (b === 15) taps.end(15 * BLOCK);
        engine.begin(BLOCK);
        inputs.feed(engine, [[sound.subarray(b * BLOCK, (b + 1) * BLOCK)]], BLOCK);
        engine.run(BLOCK);
        taps.write(engine, inputs, b * BLOCK, BLOCK);
      }
      taps.free();
      const [wet, dry] = readAll(memory);
      return { before, wet, dry, sound };
    }
    it.each([300, 5000])('a take begins with the sound from before, as much as there is of %d', (held) => {
      const { before, wet, dry, sound } = byHand(held);
      expect(before).toBe(Math.min(held, 10 * BLOCK));
      const wanted = sound.slice(10 * BLOCK - before, 15 * BLOCK + 100);
      expect([wet, dry]).toEqual([wanted, wanted]);
    });
    it('without anything held back it begins where it was told', () => {
      const { before, wet, sound } = byHand(0);
      expect(before).toBe(0);
      expect(wet).toEqual(sound.slice(10 * BLOCK, 15 * BLOCK + 100));
    });
    it('what is held back is as late in both copies', () => {
      const { before, dry, sound } = byHand(5000, 71);
      // The first frames, while the delay fills, are not taken for sound.
      expect(before).toBe(10 * BLOCK - 71);
      expect(dry).toEqual(sound.slice(0, 15 * BLOCK + 100 - 71));
    });
  });
});
