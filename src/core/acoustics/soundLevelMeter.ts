export type Weighting = 'A' | 'C' | 'Z';

/** Time constants of IEC 61672-1: slow 1 s, fast 125 ms. */
const SECONDS = { slow: 1, fast: 0.125 } as const;
export type TimeWeighting = keyof typeof SECONDS;

/** Poles of IEC 61672-1 annex E, Hz. */
const [P1, P2, P3, P4] = [20.598997, 107.65265, 737.86223, 12194.217];
const REFERENCE_HZ = 1000;

interface Section {
  b: readonly [number, number, number];
  a: readonly [number, number];
  z1: number;
  z2: number;
}

/** Two real poles at `p` and `q` Hz, with `zeros` zeros at 0 Hz, by the bilinear transform, each pole warped to its place. */
function section(rate: number, p: number, q: number, zeros: 0 | 2): Section {
  const warp = (f: number) => Math.tan((Math.PI * Math.min(f, rate * 0.49)) / rate);
  const [wp, wq] = [warp(p), warp(q)];
  const norm = (1 + wp) * (1 + wq);
  const a1 = ((wp - 1) * (1 + wq) + (wq - 1) * (1 + wp)) / norm;
  const a2 = ((wp - 1) * (wq - 1)) / norm;
  const b: Section['b'] = zeros === 2 ? [1, -2, 1] : [1, 2, 1];
  return { b, a: [a1, a2], z1: 0, z2: 0 };
}

function magnitude(sections: readonly Section[], f: number, rate: number): number {
  const w = (2 * Math.PI * f) / rate;
  const at = (c: readonly number[]) =>
    Math.hypot(
      c.reduce((s, v, n) => s + v * Math.cos(n * w), 0),
      c.reduce((s, v, n) => s + v * Math.sin(n * w), 0),
    );
  return sections.reduce((m, s) => (m * at(s.b)) / at([1, ...s.a]), 1);
}

function sectionsOf(weighting: Weighting, rate: number): Section[] {
  if (weighting === 'Z') return [];
  const [low, high] = [section(rate, P1, P1, 2), section(rate, P4, P4, 0)];
  return weighting === 'C' ? [low, high] : [low, section(rate, P2, P3, 2), high];
}

/**
 * Sound level meter: frequency weighting of IEC 61672-1 (bilinear, 0 dB at 1 kHz) and exponential time weighting. Levels
 * are dB of the mean square of samples (1.0: 0 dB); what makes SPL of them is the microphone's affair.
 */
export class SoundLevelMeter {
  private readonly sections: Section[];
  private readonly gain: number;
  private readonly share: number;
  private square = 0;
  private sum = 0;
  private frames = 0;

  constructor(rate: number, weighting: Weighting = 'C', time: TimeWeighting = 'slow') {
    this.sections = sectionsOf(weighting, rate);
    this.gain = 1 / magnitude(this.sections, REFERENCE_HZ, rate);
    this.share = 1 - Math.exp(-1 / (SECONDS[time] * rate));
  }

  run(samples: ArrayLike<number>): void {
    for (let i = 0; i < samples.length; i++) {
      let x = samples[i]! * this.gain;
      for (const s of this.sections) {
        const y = s.b[0] * x + s.z1;
        s.z1 = s.b[1] * x - s.a[0] * y + s.z2;
        s.z2 = s.b[2] * x - s.a[1] * y;
        x = y;
      }
      this.square += this.share * (x * x - this.square);
      this.sum += x * x;
    }
    this.frames += samples.length;
  }

  /** What its needle shows, dB; -Infinity in silence. */
  get level(): number {
    return 10 * Math.log10(this.square);
  }

  /** Level of the mean square since the last call (Leq), dB; null where nothing came. */
  takeMean(): number | null {
    const mean = this.frames > 0 ? 10 * Math.log10(this.sum / this.frames) : null;
    this.sum = 0;
    this.frames = 0;
    return mean;
  }
}
