import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { newRing, Ring, RING_FRAMES } from './ring';

const counting = (from: number, n: number) => Float32Array.from({ length: n }, (_, i) => from + i);

describe('ring', () => {
  it('gives back what was put in, in order, over its seam', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 1, max: 60_000 }), { minLength: 1, maxLength: 40 }), (sizes) => {
        const memory = newRing(2);
        const writer = new Ring(memory);
        const reader = new Ring(memory);
        let put = 0;
        for (const n of sizes) {
          expect(writer.room).toBeGreaterThanOrEqual(n);
          writer.put(0, counting(put, n));
          writer.put(1, counting(-put, n));
          writer.wrote(n);
          expect(reader.available).toBe(n);
          const out = new Float32Array(n + 3);
          reader.take(0, out, 3, n);
          expect([out[3], out[n + 2]]).toEqual([put, put + n - 1].map(Math.fround));
          reader.take(1, out, 0, n);
          expect(out[0]! + put).toBe(0);
          reader.took(n);
          put += n;
        }
        expect(reader.read).toBe(put);
      }),
      { numRuns: 30 },
    );
  });
  // 12.4 hours at 48 kHz are 2^31 frames, 24.8 hours 2^32; the lower word of the count ends at 2^30.
  it.each([2 ** 30, 2 ** 31, 2 ** 32, 24 * 3600 * 192_000])('goes on past %d frames as before', (edge) => {
    const memory = newRing(1, 1000);
    const [writer, reader] = [new Ring(memory), new Ring(memory)];
    writer.restart(edge - 2500);
    const out = new Float32Array(700);
    for (let i = 0; i < 10; i++) {
      expect([writer.room, reader.available]).toEqual([1000, 0]);
      writer.put(0, counting(i * 700, 700));
      writer.wrote(700);
      expect([writer.room, reader.available]).toEqual([300, 700]);
      reader.take(0, out, 0, 700);
      expect(out).toEqual(counting(i * 700, 700));
      reader.took(700);
    }
    expect(reader.written).toBe(edge - 2500 + 7000);
  });
  it('rewinds what has not been read, and starts anew', () => {
    const ring = new Ring(newRing(1));
    ring.put(0, counting(0, 1000));
    ring.wrote(1000);
    ring.rewind(400);
    expect(ring.available).toBe(400);
    ring.rewind(900);
    expect(ring.available).toBe(400);
    ring.restart();
    expect([ring.written, ring.read, ring.room]).toEqual([0, 0, RING_FRAMES]);
  });
});
