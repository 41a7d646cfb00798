/** Largest i16 value. */
const FULL = 32_768;
/** So far above its floor something is taken for sound (dB), and the least level for it. */
const ABOVE_FLOOR = 15;
const LEAST_DB = -50;
/** It must have been quiet for so long before (s). */
const QUIET_SECONDS = 0.1;
/** A sound that swells in is followed back for so long (s), and so far down (dB). */
const SWELL_SECONDS = 0.03;
const SWELL_DB = 10;

const levelDb = (low: number, high: number): number => 20 * Math.log10(Math.max(-low, high, 1) / FULL);

/**
 * Where sound begins after quiet, in frames of the file, from its peaks (i16 pairs of smallest and largest sample per
 * `bin` frames); as exact as a bin. The floor is the level that a tenth of the file stays under. Our own rule, made for
 * speech between pauses; it finds beginnings of phrases, not of syllables.
 */
export function onsets(peaks: Int16Array, bin: number, rate: number): number[] {
  const levels = Float32Array.from({ length: peaks.length >> 1 }, (_, i) => levelDb(peaks[2 * i]!, peaks[2 * i + 1]!));
  if (levels.length === 0) return [];
  const floor = Float32Array.from(levels).sort()[Math.floor(levels.length / 10)]!;
  const loud = Math.max(LEAST_DB, floor + ABOVE_FLOOR);
  const rising = Math.max(floor + ABOVE_FLOOR / 2, loud - SWELL_DB);
  const quietBins = (QUIET_SECONDS * rate) / bin;
  const swellBins = Math.round((SWELL_SECONDS * rate) / bin);
  const found: number[] = [];
  // What stands at the very beginning begins there.
  let quiet = Infinity;
  levels.forEach((level, i) => {
    if (level < loud) quiet++;
    else {
      if (quiet >= quietBins) {
        let at = i;
        while (at > Math.max(0, i - swellBins) && levels[at - 1]! > rising) at--;
        found.push(at * bin);
      }
      quiet = 0;
    }
  });
  return found;
}
