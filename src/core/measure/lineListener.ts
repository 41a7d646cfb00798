/** What a line was found to be while it was listened to. Levels in dBFS. */
export interface LineFacts {
  seconds: number;
  peak: number;
  /** Root mean square of the quietest tenth of a second: what remains when nobody speaks. */
  floor: number;
  /** Peak above the root mean square of the loudest second, dB. */
  crest: number;
  /** Times that full scale was reached. */
  overs: number;
  /** Constant part of the signal, share of full scale. */
  offset: number;
  /** Mains hum well above what lies between its harmonics: its frequency and level; null: none. */
  hum: { frequency: 50 | 60; level: number } | null;
  /** Nothing but the last bits of a converter. */
  silent: boolean;
}

/** dB of headroom between the peak and full scale, and the gain change that brings the peak to the zone's middle. */
export const TARGET_PEAK = -8;
export const ZONE = { from: -10, to: -6 } as const;

/** Below it a line carries no microphone (dBFS; common practice, no source). */
const SILENT_BELOW = -84;
/** Hum is told from this level on, and this far above what lies beside it (dB; common practice, no source). */
const HUM_FROM = -75;
const HUM_ABOVE = 12;
const NEVER_ABOVE_FLOOR = 2;
const OVER = 1 - 2 ** -15;
const HARMONICS = [1, 2, 3, 4, 5];

/** dB by which a gain should change so that a peak stands in the middle of the zone; 0 inside the zone. */
export function gainProposal(peak: number): number {
  if (!Number.isFinite(peak) || (peak >= ZONE.from && peak <= ZONE.to)) return 0;
  return Math.round(TARGET_PEAK - peak);
}

/** Highest change that one hearing of a clipped line proposes (dB): further down one listens again. */
const MOST_DOWN = 40;

/**
 * dB by which the gain of a line should change, from what was heard of it. How far a clipped line really went over is not
 * in it; it is estimated from how often it was over: amplitudes of speech are distributed as by Laplace (Davenport 1952,
 * J. Acoust. Soc. Am. 24), so a share s of samples beyond full scale means a scale of -1/ln(s), and among N samples the
 * highest one near scale times ln(N).
 */
export function proposedGain(facts: Pick<LineFacts, 'peak' | 'overs' | 'seconds'>, sampleRate: number): number {
  const samples = facts.seconds * sampleRate;
  if (facts.overs === 0 || samples < 2) return gainProposal(facts.peak);
  const share = Math.min(0.99, facts.overs / samples);
  const over = Math.max(0, db(Math.log(samples) / -Math.log(share)));
  return -Math.min(MOST_DOWN, Math.ceil(over - TARGET_PEAK));
}

/**
 * Listens to one line. Blocks may have any length. Hum is looked for by correlating the quietest second with
 * the mains frequencies and their harmonics (Goertzel's sums at whole hertz, where a second is a whole number of periods).
 */
export class LineListener {
  private frames = 0;
  private peak = 0;
  private overs = 0;
  private sum = 0;
  private readonly tenth: number;
  private tenthAt = 0;
  private tenthPower = 0;
  private quietest = Infinity;
  private readonly second: Float32Array;
  private secondAt = 0;
  private loudestSecond = 0;
  private quietSecond: Float32Array | null = null;
  private quietPower = Infinity;
  /** Of the quietest second; undefined until it is asked for. */
  private hum: LineFacts['hum'] | undefined;

  constructor(private readonly sampleRate: number) {
    this.tenth = Math.round(sampleRate / 10);
    this.second = new Float32Array(sampleRate);
  }

  run(samples: Float32Array): void {
    for (const x of samples) {
      const a = Math.abs(x);
      if (a > this.peak) this.peak = a;
      if (a >= OVER) this.overs++;
      this.sum += x;
      this.tenthPower += x * x;
      if (++this.tenthAt === this.tenth) {
        this.quietest = Math.min(this.quietest, this.tenthPower / this.tenth);
        this.tenthPower = 0;
        this.tenthAt = 0;
      }
      this.second[this.secondAt] = x;
      if (++this.secondAt === this.second.length) this.endSecond();
    }
    this.frames += samples.length;
  }

  private endSecond(): void {
    this.secondAt = 0;
    const mean = this.second.reduce((s, x) => s + x, 0) / this.second.length;
    const power = this.second.reduce((s, x) => s + (x - mean) ** 2, 0) / this.second.length;
    this.loudestSecond = Math.max(this.loudestSecond, power);
    if (power < this.quietPower) {
      this.quietPower = power;
      this.quietSecond = this.second.slice();
      this.hum = undefined;
    }
  }

  facts(): LineFacts {
    const peak = db(this.peak);
    const floor = 10 * Math.log10(this.quietest);
    if (this.hum === undefined) this.hum = this.quietSecond ? humIn(this.quietSecond) : null;
    // Hum never pauses: what stands above the quietest moment is a voice that happens to hold such a pitch.
    const hum = this.hum && this.hum.level < floor + NEVER_ABOVE_FLOOR ? this.hum : null;
    return {
      seconds: this.frames / this.sampleRate,
      peak,
      floor,
      crest: peak - 10 * Math.log10(this.loudestSecond),
      overs: this.overs,
      offset: this.frames ? this.sum / this.frames : 0,
      hum,
      silent: this.frames > 0 && peak < SILENT_BELOW,
    };
  }
}

const db = (x: number): number => 20 * Math.log10(x);

/** Root-mean-square level of the sine of a whole frequency within one second. */
function tone(second: Float32Array, frequency: number): number {
  const step = (2 * Math.PI * frequency) / second.length;
  const c = 2 * Math.cos(step);
  let a = 0;
  let b = 0;
  for (let i = 0; i < second.length; i++) {
    const next = second[i]! + c * a - b;
    b = a;
    a = next;
  }
  const power = a * a + b * b - c * a * b;
  return Math.sqrt(2 * power) / second.length;
}

function humIn(second: Float32Array): LineFacts['hum'] {
  let best: LineFacts['hum'] = null;
  for (const frequency of [50, 60] as const) {
    const power = (shift: number) => HARMONICS.reduce((s, h) => s + tone(second, frequency * h + shift) ** 2, 0);
    const level = 10 * Math.log10(power(0));
    // Seven hertz beside each harmonic is neither of the two mains frequencies nor a harmonic of them.
    const beside = 10 * Math.log10((power(7) + power(-7)) / 2);
    if (level > HUM_FROM && level - beside > HUM_ABOVE && (!best || level > best.level)) best = { frequency, level };
  }
  return best;
}

/** Correlation of two lines over what was heard of both, -1 to 1: well below zero one of them has its poles swapped. */
export class PairListener {
  private ab = 0;
  private aa = 0;
  private bb = 0;

  run(a: Float32Array, b: Float32Array): void {
    for (let i = 0; i < a.length; i++) {
      this.ab += a[i]! * b[i]!;
      this.aa += a[i]! * a[i]!;
      this.bb += b[i]! * b[i]!;
    }
  }

  get correlation(): number {
    return this.aa > 0 && this.bb > 0 ? this.ab / Math.sqrt(this.aa * this.bb) : 0;
  }
}
