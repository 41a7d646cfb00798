/** What a fold-down does to a mix in a tenth of a second. */
export interface FoldReading {
  /** Correlation of its first two channels, -1 to 1; null where one of them is silent. */
  correlation: number | null;
  /**
   * dB by which each channel is softer (negative) or louder than sounds would be that have nothing to do with each other:
   * what cancels is well below nought. Null where nothing comes to it.
   */
  loss: (number | null)[];
}

/** Seconds over which it looks. */
const STEP = 0.1;
/** Mean square of -70 dBFS: softer than this nothing is told. */
const HEARD = 1e-7;

/** Watches a fold-down: what comes in, channel by channel, and what comes of it. Our own measure, without a source. */
export class FoldWatch {
  private readonly readings: FoldReading[] = [];
  private readonly step: number;
  private at = 0;
  private readonly ins: Float64Array;
  private readonly outs: Float64Array;
  private cross = 0;

  /** `gains`: linear, [from][to]. */
  constructor(
    rate: number,
    private readonly gains: readonly (readonly number[])[],
  ) {
    this.step = Math.round(STEP * rate);
    this.ins = new Float64Array(gains.length);
    this.outs = new Float64Array(gains[0]?.length ?? 0);
  }

  /** Takes `n` samples of each channel of the mix and of the fold-down, which begin at these indices of `heap`. */
  run(heap: Float32Array, mix: readonly number[], folded: readonly number[], n: number): void {
    this.add(this.ins, heap, mix, n);
    this.add(this.outs, heap, folded, n);
    const [left, right] = folded;
    if (left !== undefined && right !== undefined)
      for (let i = 0; i < n; i++) this.cross += heap[left + i]! * heap[right + i]!;
    this.at += n;
    if (this.at >= this.step) this.close();
  }

  private add(sums: Float64Array, heap: Float32Array, channels: readonly number[], n: number): void {
    for (let c = 0; c < sums.length; c++) {
      const from = channels[c]!;
      let sum = 0;
      for (let i = from; i < from + n; i++) sum += heap[i]! * heap[i]!;
      sums[c] = sums[c]! + sum;
    }
  }

  private close(): void {
    const heard = (sum: number) => sum / this.at > HEARD;
    const [l = 0, r = 0] = this.outs;
    const correlation = heard(l) && heard(r) ? this.cross / Math.sqrt(l * r) : null;
    const loss = [...this.outs].map((out, o) => {
      const apart = this.gains.reduce((sum, row, i) => sum + (row[o] ?? 0) ** 2 * this.ins[i]!, 0);
      return heard(apart) ? 10 * Math.log10(Math.max(out, apart * 1e-6) / apart) : null;
    });
    this.readings.push({ correlation, loss });
    this.ins.fill(0);
    this.outs.fill(0);
    this.cross = 0;
    this.at = 0;
  }

  /** What was read since the last call. */
  take(): FoldReading[] {
    return this.readings.splice(0);
  }
}
