/** Largest departure from a steady tone: x[n] - 2·cos(w)·x[n-1] + x[n-2] is nothing in a sine, whatever its phase. */
export function largestBreak(samples: Float32Array, hz: number, rate = 48_000): number {
  const c = 2 * Math.cos((2 * Math.PI * hz) / rate);
  let most = 0;
  for (let n = 2; n < samples.length; n++)
    most = Math.max(most, Math.abs(samples[n]! - c * samples[n - 1]! + samples[n - 2]!));
  return most;
}
