import type { ChannelSet, Kernels } from '@/core/kernels';
import { laneValue } from '@/core/lanes';
import { gainsBetween } from './gainsBetween';
import { GRID, type LinkLanes } from './plan';
import { stretchesLate, type Now, type Stretch } from './stretch';

/**
 * Gains between the channels of two nodes that follow the lanes of a place: worked out on the grid of the timeline, straight
 * between, a function of the place on the timeline alone.
 */
export class PlacedGains {
  private readonly known = new Map<number, number[]>();

  constructor(
    private readonly k: Kernels,
    private readonly lanes: NonNullable<LinkLanes['place']>,
    private readonly wide: number,
  ) {}

  // Of the two ends of a cell the later one is the next cell's first: kept.
  private knot(place: number): number[] {
    const found = this.known.get(place);
    if (found) return found;
    if (this.known.size > 3) this.known.clear();
    const { base, moves, from, to, onward, level } = this.lanes;
    const stood = { ...base };
    for (const [param, points] of Object.entries(moves))
      (stood as Partial<Record<string, number | string>>)[param] = laneValue(points, place);
    const direct = gainsBetween(this.k, from, stood, to);
    const rows = onward ? direct.map((row) => through(row, onward)) : direct;
    const flat = rows.flatMap((row) => row.map((g) => g * level));
    this.known.set(place, flat);
    return flat;
  }

  /** Gain of every pair, [from * width + to], of sound that lies at `place`. */
  at(place: number): number[] {
    const cell = Math.floor(place / GRID) * GRID;
    const [a, b] = [this.knot(cell), this.knot(cell + GRID)];
    return a.map((g, i) => g + (b[i]! - g) * ((place - cell) / GRID));
  }

  /** Adds `n` frames of `from`, late by `late` samples, to `to`; the first `skip` frames are left out. */
  mix(from: ChannelSet, to: ChannelSet, n: number, skip: number, now: Now, late: number): void {
    for (const s of stretchesLate(now, n, late)) this.part(from, to, s, skip, now.still);
  }

  private part(from: ChannelSet, to: ChannelSet, s: Stretch, skip: number, still: boolean): void {
    for (let b = Math.max(0, skip - s.from); b < s.n;) {
      const place = s.at + (still ? 0 : b);
      const cell = Math.floor(place / GRID) * GRID;
      const m = still ? s.n - b : Math.min(s.n - b, cell + GRID - place);
      const [one, two] = still ? [this.at(place), this.at(place)] : [this.knot(cell), this.knot(cell + GRID)];
      const at = (s.from + b) * 4;
      for (let f = 0; f < from.channels; f++)
        for (let t = 0; t < this.wide; t++) {
          const [g, h] = [one[f * this.wide + t]!, two[f * this.wide + t]!];
          if (g !== 0 || h !== 0) this.k.x.mixLine(from.at(f) + at, to.at(t) + at, m, place - cell, GRID, g, h);
        }
      b += m;
    }
  }
}

const through = (row: readonly number[], onward: readonly (readonly number[])[]): number[] =>
  onward[0]!.map((_, c) => row.reduce((sum, g, b) => sum + g * (onward[b]?.[c] ?? 0), 0));
