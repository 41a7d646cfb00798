import { PEAK_BIN } from '@/client';
import type { Painter } from './painter';

/** Bits of i16 peaks. */
export const FULL = 32768;

export interface Wave {
  colour: string;
  /** Smallest and largest sample in turn, per bin; finest first, each level 16 times coarser. */
  levels: readonly ArrayLike<number>[];
  /** Sample of the file at a column. */
  sampleAt: (px: number) => number;
  zoom: number;
  left: number;
  right: number;
  middle: number;
  half: number;
  gain: number;
}

const COARSER = 16;

/** One column a pixel: the smallest and largest sample of what it covers. */
export function drawWave(paint: Painter, wave: Wave): void {
  const { colour, levels, sampleAt, zoom, left, right, middle, half, gain } = wave;
  // The coarsest level that still has a bin for every pixel.
  let level = 0;
  let bin = PEAK_BIN;
  while (level + 1 < levels.length && bin * COARSER <= zoom) {
    level++;
    bin *= COARSER;
  }
  const peaks = levels[level]!;
  const bins = peaks.length / 2;
  for (let px = Math.floor(left); px < right; px++) {
    const at = sampleAt(px);
    const first = Math.max(0, Math.floor(at / bin));
    const last = Math.min(bins - 1, Math.max(first, Math.floor((at + zoom) / bin)));
    let low = 0;
    let high = 0;
    for (let b = first; b <= last; b++) {
      low = Math.min(low, peaks[2 * b]!);
      high = Math.max(high, peaks[2 * b + 1]!);
    }
    const up = lifted((high * gain) / FULL) * half;
    const down = lifted((-low * gain) / FULL) * half;
    paint.fill(colour, px, middle - up, 1, Math.max(1, up + down));
  }
}

// Speech fills a row better when small samples are lifted: a square-root-like law.
const lifted = (level: number): number => Math.pow(Math.min(1, level), 0.6);
