/** Metres a second in air of 20 degrees. */
export const SPEED_OF_SOUND = 343.2;

/** Level in dB of uncorrelated sounds together: 10 log10 of the sum of their powers. */
export const sumOfLevels = (levels: readonly number[]): number =>
  10 * Math.log10(levels.reduce((s, l) => s + 10 ** (l / 10), 0));

/** Level of what remains when a background is taken off, in dB; null when it is not above the background. */
export function withoutBackground(total: number, background: number): number | null {
  const rest = 10 ** (total / 10) - 10 ** (background / 10);
  return rest > 0 ? 10 * Math.log10(rest) : null;
}

/** Level at `metres` from a point source that has `level` dB at `at` metres: 6.02 dB less for each doubling. */
export const levelAtDistance = (level: number, at: number, metres: number): number =>
  level - 20 * Math.log10(metres / at);

/** Sound pressure in pascal to dB SPL (re 20 micropascal) and back. */
export const splOf = (pascal: number): number => 20 * Math.log10(pascal / 20e-6);
export const pascalOf = (spl: number): number => 20e-6 * 10 ** (spl / 20);

/** Seconds sound takes over a distance in metres. */
export const travelTime = (metres: number): number => metres / SPEED_OF_SOUND;

/** Delay in samples of each speaker so that all arrive with the farthest one; distances in metres. */
export function alignmentDelays(distances: readonly number[], rate: number): number[] {
  const farthest = Math.max(...distances);
  return distances.map((d) => Math.round(travelTime(farthest - d) * rate));
}

/** Wanted sound pressure per speaker in dB SPL (C, slow) for -20 dBFS pink noise: SMPTE RP 200 (from memory). */
export const REFERENCE_SPL = { screen: 85, surround: 82, lfe: 95 } as const;

/** Trim in dB per speaker that brings a meter's readings to what is wanted. */
export const trimsFor = (readings: readonly number[], wanted: readonly number[]): number[] =>
  readings.map((r, i) => wanted[i]! - r);
