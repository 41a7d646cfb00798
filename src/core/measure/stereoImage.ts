/** Length of a step in which left and right are compared (s). */
const STEP_SECONDS = 0.1;
/** Softer than this on both sides a step tells nothing (mean square of -50 dBFS). */
const HEARD_FROM = 1e-5;
/** Steps that two pairs must have heard together, and the least movement (dB) that tells something. */
const ENOUGH = 20;
const MOVES = 1;

/** How far to the left a stereo pair hears what happens, step by step (dB; NaN: too soft to tell). */
export class ImageListener {
  readonly balance: number[] = [];
  private readonly step: number;
  private at = 0;
  private left = 0;
  private right = 0;

  constructor(sampleRate: number) {
    this.step = Math.round(STEP_SECONDS * sampleRate);
  }

  /** Takes the next samples of both sides, as many of each. */
  run(left: Float32Array, right: Float32Array): void {
    for (let i = 0; i < left.length; i++) {
      this.left += left[i]! ** 2;
      this.right += right[i]! ** 2;
      if (++this.at < this.step) continue;
      const heard = Math.max(this.left, this.right) / this.step > HEARD_FROM;
      this.balance.push(heard ? 10 * Math.log10((this.left + 1e-12) / (this.right + 1e-12)) : NaN);
      this.at = this.left = this.right = 0;
    }
  }
}

/**
 * Correlation of what two pairs hear move between left and right, -1 to 1; 0 while they have not heard enough
 * together. Levels are compared, not waves: pairs that stand apart hear the same movement at different times of flight.
 * Well below zero, one of them has left and right swapped. Our own measure, without a source.
 */
export function imageLikeness(a: ImageListener, b: ImageListener): number {
  const both = a.balance.flatMap((x, i) => (Number.isNaN(x + (b.balance[i] ?? NaN)) ? [] : [[x, b.balance[i]!]]));
  if (both.length < ENOUGH) return 0;
  const mean = (side: 0 | 1) => both.reduce((s, v) => s + v[side]!, 0) / both.length;
  const [ma, mb] = [mean(0), mean(1)];
  const sums = both.reduce(
    (s, [x, y]) => [s[0]! + (x! - ma) * (y! - mb), s[1]! + (x! - ma) ** 2, s[2]! + (y! - mb) ** 2],
    [0, 0, 0],
  );
  if (Math.min(sums[1]!, sums[2]!) / both.length < MOVES ** 2) return 0;
  return sums[0]! / Math.sqrt(sums[1]! * sums[2]!);
}
