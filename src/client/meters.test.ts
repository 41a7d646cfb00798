import { beforeEach, expect, it, vi } from 'vitest';
import type { MeterFrame } from '@/audio';
import { readLevel, readLoudness, readReduction, recentLevel, resetLoudness, takeMeters } from './meters';

let now = 0;
beforeEach(() => {
  vi.spyOn(performance, 'now').mockImplementation(() => now);
  now += 100_000;
  resetLoudness();
});

const frame = (part: Partial<MeterFrame>): MeterFrame => ({
  at: 0,
  rolled: 0,
  misses: 0,
  peaks: {},
  inputs: [],
  reductions: {},
  hops: [],
  measures: 0,
  truePeak: 0,
  ...part,
});
const level = (id: string, linear: number) => frame({ peaks: { [id]: { before: [linear], after: [linear / 2] } } });

it('rises at once, falls slowly, and holds the peak', () => {
  takeMeters(level('a', 0.5));
  expect(readLevel('in/a/0').db).toBeCloseTo(-6.02, 2);
  expect(readLevel('out/a/0').db).toBeCloseTo(-12.04, 2);
  now += 500;
  takeMeters(level('a', 0.001));
  expect(readLevel('in/a/0').db).toBeCloseTo(-6.02 - 12, 1);
  expect(readLevel('in/a/0').hold).toBeCloseTo(-6.02, 2);
  now += 2000;
  expect(readLevel('in/a/0').hold).toBe(-Infinity);
});

it('knows what arrived lately on a line, and forgets it when nothing comes', () => {
  takeMeters(frame({ inputs: [[0.25, 0]] }));
  expect(recentLevel('device/0/0')).toBeCloseTo(-12.04, 2);
  expect(recentLevel('device/0/1')).toBe(-Infinity);
  now += 5000;
  expect(recentLevel('device/0/0')).toBe(-Infinity);
  expect(recentLevel('device/7/0')).toBe(-Infinity);
});

it('keeps the deepest reduction of each stage and the loudness since rolling began', () => {
  takeMeters(frame({ reductions: { gate: -7 }, hops: Array<number>(40).fill(0.01), truePeak: 0.5 }));
  expect(readReduction('gate')).toBe(-7);
  expect(readReduction('other')).toBe(0);
  // -0.691 + 10 log10 0.01, ITU-R BS.1770.
  expect(readLoudness().integrated).toBeCloseTo(-20.691, 3);
  expect(readLoudness().shortTerm).toBeCloseTo(-20.691, 3);
  expect(readLoudness().truePeak).toBeCloseTo(-6.02, 2);
  resetLoudness();
  expect(readLoudness().integrated).toBe(-Infinity);
});
