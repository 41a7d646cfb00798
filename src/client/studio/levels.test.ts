import { beforeEach, expect, it, vi } from 'vitest';
import type { MeterFrame } from '@/audio';
import { engineStub, meterFrame } from '../../../tests/support/studio';
import { Levels } from './levels';

let now = 0;
beforeEach(() => {
  vi.spyOn(performance, 'now').mockImplementation(() => now);
});

function fresh() {
  const engine = engineStub();
  return { levels: new Levels(engine), take: (frame: MeterFrame) => engine.events.emit('meters', frame) };
}
const level = (id: string, linear: number) =>
  meterFrame({ peaks: { [id]: { before: [linear], after: [linear / 2] } } });

it('rises at once, falls slowly, and holds the peak', () => {
  const { levels, take } = fresh();
  take(level('a', 0.5));
  expect(levels.level('in/a/0').db).toBeCloseTo(-6.02, 2);
  expect(levels.level('out/a/0').db).toBeCloseTo(-12.04, 2);
  now += 500;
  take(level('a', 0.001));
  expect(levels.level('in/a/0').db).toBeCloseTo(-6.02 - 12, 1);
  expect(levels.level('in/a/0').hold).toBeCloseTo(-6.02, 2);
  now += 2000;
  expect(levels.level('in/a/0').hold).toBe(-Infinity);
});

it('knows what arrived lately on a line, and forgets it when nothing comes', () => {
  const { levels, take } = fresh();
  take(meterFrame({ inputs: [[0.25, 0]] }));
  expect(levels.recent('device/0/0')).toBeCloseTo(-12.04, 2);
  expect(levels.recent('device/0/1')).toBe(-Infinity);
  now += 5000;
  expect(levels.recent('device/0/0')).toBe(-Infinity);
  expect(levels.recent('device/7/0')).toBe(-Infinity);
});

it('keeps the deepest reduction of each stage and the loudness since rolling began', () => {
  const { levels, take } = fresh();
  take(meterFrame({ reductions: { gate: -7 }, hops: Array<number>(40).fill(0.01), truePeak: 0.5 }));
  expect(levels.reduction('gate')).toBe(-7);
  expect(levels.reduction('other')).toBe(0);
  // -0.691 + 10 log10 0.01, ITU-R BS.1770.
  expect(levels.loudnessNow().integrated).toBeCloseTo(-20.691, 3);
  expect(levels.loudnessNow().shortTerm).toBeCloseTo(-20.691, 3);
  expect(levels.loudnessNow().truePeak).toBeCloseTo(-6.02, 2);
  levels.resetLoudness();
  expect(levels.loudnessNow().integrated).toBe(-Infinity);
});
