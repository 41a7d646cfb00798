/** Speed of sound at 20 degrees Celsius, m/s. */
const SOUND = 343.2;
const LINES = 16;

const isPrime = (n: number): boolean => {
  for (let d = 2; d * d <= n; d++) if (n % d === 0) return false;
  return n > 1;
};

/**
 * Lengths in samples of the sixteen lines of a room whose walls are `size` metres apart: spread evenly in
 * ratio from 0.45 to 1.35 of the way across, moved a little by `seed`, all different primes, so that no two
 * echoes fall together for long.
 */
export function lineLengths(size: number, rate: number, seed: number): number[] {
  const across = (size / SOUND) * rate;
  const found: number[] = [];
  let s = (seed * 2654435761 + 12345) >>> 0 || 1;
  for (let l = 0; l < LINES; l++) {
    s ^= s << 13;
    s >>>= 0;
    s ^= s >>> 17;
    s ^= s << 5;
    s >>>= 0;
    const wander = (s / 2 ** 32 - 0.5) * 0.5;
    let n = Math.max(11, Math.round(across * 0.45 * Math.pow(3, (l + 0.5 + wander) / LINES)));
    while (!isPrime(n) || found.includes(n)) n++;
    found.push(n);
  }
  return found;
}
