/** Part of the decay that is read (dB below the start), and what 60 dB of it are. */
const FROM = -5;
const TO = -35;
const WHOLE = 60;

/**
 * Reverberation time (s) of an impulse response at `rate` Hz: T30 of ISO 3382-1 (from memory): the level of the backward
 * integrated energy (Schroeder 1965) between -5 and -35 dB, by a straight line through it, drawn on to 60 dB. Null where
 * the response is too short or too noisy to fall that far.
 */
export function decayTime(response: ArrayLike<number>, rate: number): number | null {
  const n = response.length;
  const energy = new Float64Array(n);
  let sum = 0;
  for (let i = n - 1; i >= 0; i--) energy[i] = sum += response[i]! ** 2;
  if (sum === 0) return null;
  // Sums for the line through level over time.
  let [count, st, sl, stt, stl] = [0, 0, 0, 0, 0];
  let reached = false;
  for (let i = 0; i < n; i++) {
    const level = 10 * Math.log10(energy[i]! / sum);
    if (level < TO) {
      reached = true;
      break;
    }
    if (level > FROM) continue;
    const t = i / rate;
    count++;
    st += t;
    sl += level;
    stt += t * t;
    stl += t * level;
  }
  const slope = (count * stl - st * sl) / (count * stt - st * st);
  return reached && slope < 0 ? -WHOLE / slope : null;
}
