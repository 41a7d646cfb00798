import { describe, expect, it } from 'vitest';
import { newKernels } from '../../../tests/support/kernels';
import { monoTrack, sessionWith } from '../../../tests/support/session';
import { compilePlan, Engine } from '@/core/engine';
import { newRing, Ring } from '../ring';
import { TrackRings } from './trackRings';

const k = newKernels();
const BLOCK = 128;

/** One track; `write(b)` says how many blocks the feeder lays in before block `b`. Gives what sounded, block by block. */
function play(blocks: number, write: (b: number) => number): { heard: number[]; silent: number } {
  const engine = new Engine(k, BLOCK);
  engine.load(compilePlan(k, sessionWith(monoTrack('t')), { mode: 'live' }));
  const memory = newRing(1);
  const out = new Ring(memory);
  const rings = new TrackRings(k);
  rings.set([{ track: 't', ring: memory }]);
  rings.restart();
  const heard: number[] = [];
  let [written, silent] = [0, 0];
  for (let b = 0; b < blocks; b++) {
    for (let i = write(b); i > 0; i--, written++) {
      // Each block holds its own number.
      out.put(0, new Float32Array(BLOCK).fill(written + 1));
      out.wrote(BLOCK);
    }
    engine.begin(BLOCK);
    silent += rings.feed(engine, BLOCK);
    heard.push(engine.node('t').buffer.view(0, BLOCK)[0]!);
  }
  return { heard, silent };
}

describe('what the tracks play', () => {
  it('comes in order, each block at its time', () => {
    expect(play(5, () => 1)).toEqual({ heard: [1, 2, 3, 4, 5], silent: 0 });
  });
  it('that comes too late is passed over, and the rest sounds at its time', () => {
    // Nothing for blocks 2 to 4, then all of them at once with what follows.
    const late = play(9, (b) => (b < 2 ? 1 : b < 5 ? 0 : b === 5 ? 4 : 1));
    expect(late).toEqual({ heard: [1, 2, 0, 0, 0, 6, 7, 8, 9], silent: 3 });
  });
  it('that is caught up piece by piece stays silent until it is there', () => {
    const late = play(8, (b) => (b < 1 ? 1 : b < 3 ? 0 : 2));
    expect(late.heard).toEqual([1, 0, 0, 0, 5, 6, 7, 8]);
  });
});
