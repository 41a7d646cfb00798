import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { LookBack } from './lookBack';

describe('the latest samples', () => {
  it('are the last ones written, whatever the blocks', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 60 }), fc.array(fc.nat(40), { maxLength: 20 }), (most, blocks) => {
        const past = new LookBack(2, most);
        const all: number[] = [];
        for (const n of blocks) {
          const fresh = Float32Array.from({ length: n }, (_, i) => all.length + i);
          for (const c of [0, 1]) past.put(c, fresh.map((v) => v + c * 1000)); // prettier-ignore
          past.wrote(n);
          all.push(...fresh);
        }
        const wanted = all.slice(-most);
        expect(past.frames).toBe(Math.min(most, all.length));
        expect([...past.read(0)]).toEqual(all.length ? wanted : []);
        expect([...past.read(1)]).toEqual(all.length ? wanted.map((v) => v + 1000) : []);
      }),
    );
  });
});
