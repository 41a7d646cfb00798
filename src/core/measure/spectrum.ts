import { ChannelSet, type Kernels } from '@/core/kernels';

/** Nominal frequencies of third-octave bands, IEC 61260-1 (base ten: exact centres are 1000 * 10^(n/10) Hz). */
export const THIRD_OCTAVES = [
  20, 25, 31.5, 40, 50, 63, 80, 100, 125, 160, 200, 250, 315, 400, 500, 630, 800, 1000, 1250, 1600, 2000, 2500, 3150,
  4000, 5000, 6300, 8000, 10000, 12500, 16000, 20000,
] as const;

/** Exact centre and edges of the band with this nominal frequency, in Hz. */
export function thirdOctaveBand(nominal: number): { centre: number; low: number; high: number } {
  const n = Math.round(10 * Math.log10(nominal / 1000));
  const centre = 1000 * 10 ** (n / 10);
  return { centre, low: centre * 10 ** -0.05, high: centre * 10 ** 0.05 };
}

/**
 * Averaged power spectrum: Hann windows overlapping by half (Welch, IEEE Trans. Audio Electroacoust. 15,
 * 1967). Bins hold mean squares: their sum over a band is the power in it.
 */
export class Spectrum {
  private readonly window: number;
  private readonly table: number;
  private readonly scratch: number;
  private readonly power: number;
  private readonly held: ChannelSet;
  private filled = 0;
  private count = 0;
  private readonly scale: number;

  constructor(
    private readonly k: Kernels,
    readonly sampleRate: number,
    /** A power of two. */
    readonly size = 8192,
  ) {
    const hann = Float64Array.from({ length: size }, (_, i) => 0.5 - 0.5 * Math.cos((2 * Math.PI * i) / size));
    this.window = k.putF64(hann);
    this.scale = 1 / (size * hann.reduce((s, v) => s + v * v, 0));
    this.table = k.x.alloc(k.x.fftTableBytes(size));
    k.x.fftTable(this.table, size);
    this.scratch = k.x.alloc(size * 32);
    this.power = k.putF64(new Float64Array(size / 2 + 1));
    this.held = new ChannelSet(k, 1, (size * 3) / 2);
  }

  /** Takes `n` samples at `src`. */
  run(src: number, n: number): void {
    const { k, size } = this;
    const held = this.held.at(0);
    // Two windows that overlap by half go through one transform.
    const most = (size * 3) / 2;
    for (let i = 0; i < n;) {
      const part = Math.min(most - this.filled, n - i);
      k.x.copy(held + this.filled * 4, src + i * 4, part);
      this.filled += part;
      i += part;
      if (this.filled < most) return;
      k.x.powerAdd(held, held + size * 2, this.window, this.scratch, this.table, size, this.power);
      this.count += 2;
      k.x.copy(held, held + size * 4, size / 2);
      this.filled = size / 2;
    }
  }

  /** Width of a bin in Hz. */
  get binWidth(): number {
    return this.sampleRate / this.size;
  }

  /** Mean squares, one-sided: bin i stands for i times `binWidth`. All zero before the first full window. */
  bins(): Float64Array {
    const { k, size } = this;
    const sums = k.f64(this.power, size / 2 + 1).slice();
    let { count } = this;
    // A window that waits for the next one counts already.
    if (this.filled >= size) {
      const one = k.putF64(sums);
      k.x.powerAdd(this.held.at(0), 0, this.window, this.scratch, this.table, size, one);
      sums.set(k.f64(one, size / 2 + 1));
      k.x.release(one);
      count++;
    }
    const twice = (2 * this.scale) / Math.max(1, count);
    return sums.map((p, i) => p * (i === 0 || i === this.size / 2 ? twice / 2 : twice));
  }

  /** Level in dBFS (mean square) of each third-octave band below half the rate; a bin is shared by how much of it lies inside. */
  thirdOctaves(): { frequency: number; level: number }[] {
    const bins = this.bins();
    const width = this.binWidth;
    return THIRD_OCTAVES.filter((f) => thirdOctaveBand(f).high < this.sampleRate / 2).map((frequency) => {
      const { low, high } = thirdOctaveBand(frequency);
      let sum = 0;
      for (let i = Math.floor(low / width - 0.5); i <= Math.ceil(high / width + 0.5); i++) {
        const inside = Math.min(high, (i + 0.5) * width) - Math.max(low, (i - 0.5) * width);
        if (inside > 0) sum += (bins[i] ?? 0) * (inside / width);
      }
      return { frequency, level: 10 * Math.log10(sum) };
    });
  }

  /** Starts a new average; what was heard last still fills the first window. */
  restart(): void {
    this.k.f64(this.power, this.size / 2 + 1).fill(0);
    this.count = 0;
    // Of a window that waits the last half is kept, as of one that went through.
    const over = this.filled - this.size / 2;
    if (this.filled < this.size) return;
    this.k.x.copy(this.held.at(0), this.held.at(0) + over * 4, this.size / 2);
    this.filled = this.size / 2;
  }

  free(): void {
    [this.window, this.table, this.scratch, this.power].forEach((p) => this.k.x.release(p));
    this.held.free();
  }
}
