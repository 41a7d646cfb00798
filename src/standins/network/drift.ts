/** Sums for a straight line through pairs, by least squares, forgetting slowly. */
export class DriftMeter {
  private n = 0;
  private first: { x: number; y: number } | null = null;
  private sums = { x: 0, y: 0, xx: 0, xy: 0 };

  /** `keep`: how many pairs are remembered, about. */
  constructor(private readonly keep = 6000) {}

  /** A packet that the sender stamped `sent` (its samples) arrived at `at` (the receiver's samples). */
  note(at: number, sent: number): void {
    this.first ??= { x: at, y: sent };
    const x = at - this.first.x;
    const y = sent - this.first.y - x;
    const fade = this.n >= this.keep ? 1 - 1 / this.keep : 1;
    const s = this.sums;
    this.n = this.n * fade + 1;
    s.x = s.x * fade + x;
    s.y = s.y * fade + y;
    s.xx = s.xx * fade + x * x;
    s.xy = s.xy * fade + x * y;
  }

  forget(): void {
    this.n = 0;
    this.first = null;
    this.sums = { x: 0, y: 0, xx: 0, xy: 0 };
  }

  /** Parts per million by which the sender's clock is fast; null while too little is known. */
  get ppm(): number | null {
    if (this.n < 500) return null;
    const { x, y, xx, xy } = this.sums;
    const spread = this.n * xx - x * x;
    return spread > 0 ? ((this.n * xy - x * y) / spread) * 1e6 : null;
  }
}
