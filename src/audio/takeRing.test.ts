import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { heldSeconds, newTakeRing, TakeReader, TakeWriter } from './takeRing';

const BLOCK = 128;
/** Sample i of channel c: each its own number. */
const value = (c: number, i: number) => Math.fround((i + 1) * (c + 1));

/** Takes what is there, as a recorder does: sound and gaps, in order. */
function drain(
  reader: TakeReader,
  out: number[],
  gaps: { at: number; frames: number }[],
  channel = 0,
  most = Infinity,
) {
  for (let step = reader.next(most); step; step = reader.next(most)) {
    if (step.kind === 'gap') {
      const last = gaps.at(-1);
      if (last && last.at + last.frames === out.length) last.frames += step.frames;
      else gaps.push({ at: out.length, frames: step.frames });
      for (let i = 0; i < step.frames; i++) out.push(0);
    } else
      for (let c = 0; c < 2; c++) {
        const samples = new Float32Array(step.frames);
        reader.take(c, samples, new Int32Array(samples.buffer), 0, step.frames);
        if (c === channel) for (const v of samples) out.push(v);
      }
    reader.took(step);
  }
}

describe('the ring of a take', () => {
  it.each([
    [2, 48_000, 30],
    [16, 48_000, 20],
    [128, 96_000, 12],
  ])('of %d channels at %d Hz holds at least %d seconds', (channels, rate, seconds) => {
    expect(heldSeconds(channels, rate)).toBeGreaterThanOrEqual(seconds);
    if (channels > 2) return;
    const writer = new TakeWriter(newTakeRing(channels, rate));
    for (let at = 0; at + BLOCK <= seconds * rate; at += BLOCK) {
      expect(writer.begin(BLOCK)).toBe(true);
      writer.wrote(BLOCK);
    }
    expect(writer.begin(BLOCK)).toBe(false);
  });
  it('whatever the reader does, every sample is in its place or in a gap that is told', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 0, max: 60 }), { minLength: 1, maxLength: 40 }),
        fc.integer({ min: 1, max: 500 }),
        (stalls, most) => {
          const memory = newTakeRing(2, 48_000, 0.05);
          const writer = new TakeWriter(memory);
          const reader = new TakeReader(memory);
          const out: number[] = [];
          const gaps: { at: number; frames: number }[] = [];
          let at = 0;
          for (const blocks of stalls) {
            for (let b = 0; b < blocks; b++, at += BLOCK) {
              writer.begin(BLOCK);
              for (let c = 0; c < 2; c++)
                writer.put(
                  c,
                  Float32Array.from({ length: BLOCK }, (_, i) => value(c, at + i)),
                );
              writer.wrote(BLOCK);
            }
            drain(reader, out, gaps, 1, most);
          }
          writer.end();
          drain(reader, out, gaps, 1, most);
          expect(reader.ended).toBe(at);
          expect(out.length).toBe(at);
          expect(reader.same).toBe(true);
          const lost = (i: number) => gaps.some((g) => i >= g.at && i < g.at + g.frames);
          out.forEach((v, i) => {
            if (v !== (lost(i) ? 0 : value(1, i))) throw new Error(`sample ${i} is ${v}`);
          });
        },
      ),
      { numRuns: 60 },
    );
  });
  it('more gaps than can wait make one long one, and nothing is written over', () => {
    const memory = newTakeRing(2, 48_000, 0.05);
    const writer = new TakeWriter(memory);
    const reader = new TakeReader(memory);
    const out: number[] = [];
    const gaps: { at: number; frames: number }[] = [];
    let at = 0;
    const write = (blocks: number) => {
      for (let b = 0; b < blocks; b++, at += BLOCK) {
        writer.begin(BLOCK);
        for (let c = 0; c < 2; c++)
          writer.put(
            c,
            Float32Array.from({ length: BLOCK }, (_, i) => value(c, at + i)),
          );
        writer.wrote(BLOCK);
      }
    };
    for (let i = 0; i < 300; i++) {
      write(30);
      // Takes sound only as far as the next gap: the list of gaps fills up.
      const step = reader.next(Infinity);
      if (step?.kind === 'samples' && i < 200) {
        const samples = new Float32Array(step.frames);
        for (let c = 0; c < 2; c++) reader.take(c, samples, new Int32Array(samples.buffer), 0, step.frames);
        reader.took(step);
        for (let f = 0; f < step.frames; f++) out.push(value(0, out.length));
      } else if (step) drain(reader, out, gaps);
    }
    writer.end();
    drain(reader, out, gaps);
    expect([out.length, reader.ended, reader.same]).toEqual([at, at, true]);
  });
  it('tells when what was taken is not what was written', () => {
    const memory = newTakeRing(2, 48_000, 0.05);
    const writer = new TakeWriter(memory);
    const reader = new TakeReader(memory);
    writer.begin(BLOCK);
    for (let c = 0; c < 2; c++) writer.put(c, new Float32Array(BLOCK).fill(0.5));
    writer.wrote(BLOCK);
    writer.end();
    // Somebody else writes into the memory.
    new Float32Array(memory.samples)[77] = 0.25;
    drain(reader, [], []);
    expect(reader.same).toBe(false);
  });
});
