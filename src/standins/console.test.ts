import { describe, expect, it } from 'vitest';
import { consoleAsItStarts, DIRECT, FIRST_SOURCE, MIX_LEFT, MIX_RIGHT, mixGains, throughConsole } from './console';
import { STANDINS } from './model';

const N = 8;
const SOURCES = 13;
const desk = (change: Partial<ReturnType<typeof consoleAsItStarts>> = {}) => {
  const sources = Array.from({ length: SOURCES }, (_, s) => new Float32Array(N).fill((s + 1) / 100));
  const out = Array.from({ length: 16 }, () => new Float32Array(N));
  throughConsole({ ...consoleAsItStarts(SOURCES), ...change }, sources, out, N);
  return { sources, out };
};
const fadersWith = (first: number) => [first, ...Array<number>(SOURCES - 1).fill(0)];

describe('the console', () => {
  it('has sixteen named lines', () => {
    const { lines } = STANDINS.find((s) => s.networked)!;
    expect(lines).toHaveLength(16);
    expect(new Set(lines.map((l) => l.name)).size).toBe(16);
    expect(lines.slice(0, 3).map((l) => l.name)).toEqual(['Mix left', 'Mix right', 'Booth direct']);
  });
  it('sends the mix of all sources but the tone on 1 and 2', () => {
    const { out, sources } = desk();
    const mix = (side: 0 | 1) => sources.slice(0, -1).reduce((sum, s, i) => sum + s[0]! * mixGains(i)[side], 0);
    expect(out[MIX_LEFT]![3]).toBeCloseTo(mix(0), 6);
    expect(out[MIX_RIGHT]![3]).toBeCloseTo(mix(1), 6);
  });
  it('keeps the direct feed silent until it is switched on', () => {
    expect(desk().out[DIRECT]!.every((v) => v === 0)).toBe(true);
    const { out, sources } = desk({ direct: true });
    expect(out[DIRECT]).toEqual(sources[0]);
  });
  it('no fader movement changes the direct feed, while mix and source follow', () => {
    const high = desk({ direct: true });
    const low = desk({ direct: true, faders: fadersWith(-60) });
    expect(low.out[DIRECT]).toEqual(high.out[DIRECT]);
    expect(low.out[FIRST_SOURCE]![0]).toBeCloseTo(0.01 * 0.001, 8);
    expect(low.out[MIX_LEFT]![0]).toBeLessThan(high.out[MIX_LEFT]![0]!);
  });
});
