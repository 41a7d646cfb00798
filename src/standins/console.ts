import type { StandinLine } from './model';
import type { ClockSource } from './network';
import type { LoadedLine } from './voice';

/** Where things stand on the console's sixteen channels, from 0. */
export const MIX_LEFT = 0;
export const MIX_RIGHT = 1;
export const DIRECT = 2;
export const FIRST_SOURCE = 3;

/** What is set at the console. */
export interface ConsoleState {
  /** dB per source, from the first. */
  faders: number[];
  /** Whether the feed before the fader of the first source is switched on. */
  direct: boolean;
}

/** What the console's worklet is told. */
export type ToConsole =
  | { lines: LoadedLine[]; channels: number; ppm: number }
  | { link: number; up: boolean }
  | { clock: ClockSource }
  | { direct: boolean }
  | { fader: number; db: number };

export const consoleAsItStarts = (sources: number): ConsoleState => ({
  faders: Array<number>(sources).fill(0),
  direct: false,
});

/** Gains of a source to the mix: in turn left of centre, centre and right of centre, 6 dB down for headroom. */
export function mixGains(source: number): [left: number, right: number] {
  const [left, right] = [
    [0.5, 0.5],
    [0.62, 0.34],
    [0.34, 0.62],
  ][source % 3] as [number, number];
  return [left, right];
}

/**
 * Makes the sixteen channels of what the sources gave: a mix after the faders on 1 and 2, the first source
 * before its fader on 3 (silence while that is switched off), the sources after their faders from 4 on.
 */
export function throughConsole(
  state: ConsoleState,
  sources: readonly Float32Array[],
  out: readonly Float32Array[],
  n: number,
): void {
  out[MIX_LEFT]!.fill(0, 0, n);
  out[MIX_RIGHT]!.fill(0, 0, n);
  if (state.direct) out[DIRECT]!.set(sources[0]!.subarray(0, n));
  else out[DIRECT]!.fill(0, 0, n);
  sources.forEach((samples, s) => {
    const gain = 10 ** (state.faders[s]! / 20);
    const [left, right] = mixGains(s);
    const post = out[FIRST_SOURCE + s]!;
    for (let i = 0; i < n; i++) {
      const v = samples[i]! * gain;
      post[i] = v;
      // The line-up tone is for the lines, not for the mix.
      if (s === sources.length - 1) continue;
      out[MIX_LEFT]![i] = out[MIX_LEFT]![i]! + v * left;
      out[MIX_RIGHT]![i] = out[MIX_RIGHT]![i]! + v * right;
    }
  });
}

export const sourceLines = (lines: readonly StandinLine[]): StandinLine[] => lines.slice(FIRST_SOURCE);
