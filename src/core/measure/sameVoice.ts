/** What two lines have in common: the same voice, heard from two places. */
export interface SameVoice {
  /** Lines, by their places; the later one is told against the earlier. */
  a: number;
  b: number;
  /** Samples by which `b` hears it later; negative: earlier. */
  delay: number;
  /** Of both, once `b` is set back by the delay: -1 to 1; below zero, one of them has its poles swapped. */
  correlation: number;
}

/** What is compared: so much of the latest sound (s), with delays up to this (s): sound goes 12 m. */
const COMPARED = 1.2;
const FARTHEST = 0.035;
/** First at a rate that holds the tones of a voice, then to the sample around what was found, in the loudest part. */
const COARSE = 12;
const FINE_SECONDS = 0.4;
/** Softer than this (mean square of -50 dBFS) a line tells nothing. */
const HEARD_FROM = 1e-5;
/** Microphones of one voice are more alike than this; those of different voices less (common practice, no source). */
export const ONE_VOICE = 0.35;

function coarse(samples: Float32Array): Float32Array {
  const out = new Float32Array(Math.floor(samples.length / COARSE));
  for (let i = 0; i < out.length; i++) {
    let sum = 0;
    for (let k = 0; k < COARSE; k++) sum += samples[i * COARSE + k]!;
    out[i] = sum / COARSE;
  }
  return out;
}

/** A sound with the energy up to each of its samples, so that no lag has to add it up again. */
class Measured {
  private readonly sums: Float64Array;

  constructor(readonly samples: Float32Array) {
    this.sums = new Float64Array(samples.length + 1);
    for (let i = 0; i < samples.length; i++) this.sums[i + 1] = this.sums[i]! + samples[i]! * samples[i]!;
  }

  energy(from: number, to: number): number {
    return this.sums[to]! - this.sums[from]!;
  }

  /** Where `length` samples hold the most energy, by steps of half of them. */
  loudest(length: number): number {
    let best = 0;
    for (let at = 0; at + length <= this.samples.length; at += length >> 1)
      if (this.energy(at, at + length) > this.energy(best, best + length)) best = at;
    return best;
  }
}

/** Correlation of a[i] with b[i + lag] over [from, to) of a, as far as b reaches, -1 to 1. */
function correlationAt(a: Measured, b: Measured, lag: number, from: number, to: number): number {
  const first = Math.max(from, -lag);
  const end = Math.min(to, b.samples.length - lag);
  if (end <= first) return 0;
  const [x, y] = [a.samples, b.samples];
  let sum = 0;
  for (let i = first; i < end; i++) sum += x[i]! * y[i + lag]!;
  const energies = a.energy(first, end) * b.energy(first + lag, end + lag);
  return energies > 0 ? sum / Math.sqrt(energies) : 0;
}

/** The lag within [-most, most] around `centre` at which two sounds are most alike, whichever way the poles are. */
function bestLag(
  a: Measured,
  b: Measured,
  centre: number,
  most: number,
  [from, to] = [0, a.samples.length],
): { lag: number; correlation: number } {
  let best = { lag: centre, correlation: 0 };
  for (let lag = centre - most; lag <= centre + most; lag++) {
    const correlation = correlationAt(a, b, lag, from, to);
    if (Math.abs(correlation) > Math.abs(best.correlation)) best = { lag, correlation };
  }
  return best;
}

const power = (x: Float32Array): number => x.reduce((sum, v) => sum + v * v, 0) / x.length;

/**
 * Finds which of several lines hear the same voice, how much later each, and with which poles: by their cross-correlation,
 * coarse first and then to the sample. Delays in samples at `sampleRate` (Hz).
 */
export class SameVoiceListener {
  private readonly latest: Float32Array[];
  private at = 0;
  private filled = 0;
  private readonly best = new Map<string, SameVoice>();
  /** Pairs that are to be looked at, in turn: with many lines not all at once. */
  private turn = 0;

  constructor(
    private readonly sampleRate: number,
    private readonly lines: number,
  ) {
    const length = Math.round(COMPARED * sampleRate);
    this.latest = Array.from({ length: lines }, () => new Float32Array(length));
  }

  /** Takes the next samples of all lines, as many of each. */
  run(channels: readonly Float32Array[]): void {
    const length = this.latest[0]?.length ?? 0;
    const n = channels[0]?.length ?? 0;
    channels.slice(0, this.lines).forEach((samples, c) => {
      const ring = this.latest[c]!;
      const first = Math.min(n, length - this.at);
      ring.set(samples.subarray(0, first), this.at);
      if (first < n) ring.set(samples.subarray(first), 0);
    });
    this.at = length ? (this.at + n) % length : 0;
    this.filled += n;
  }

  /** The latest sound of a line, oldest first. */
  private sound(line: number): Float32Array {
    const ring = this.latest[line]!;
    const out = new Float32Array(ring.length);
    out.set(ring.subarray(this.at));
    out.set(ring.subarray(0, this.at), ring.length - this.at);
    return out;
  }

  /** Compares up to so many pairs of lines that carry something; what was found best of each pair so far is kept. */
  look(pairs: number): SameVoice[] {
    if (this.filled < (this.latest[0]?.length ?? Infinity)) return this.found();
    const loud = Array.from({ length: this.lines }, (_, line) => ({ line, sound: this.sound(line) })).filter(
      ({ sound }) => power(sound) > HEARD_FROM,
    );
    const all = loud.flatMap((a, i) => loud.slice(i + 1).map((b) => [a, b] as const));
    // Made for the lines of this look's pairs only.
    const kept = new Map<number, { fine: Measured; rough: Measured }>();
    const measured = ({ line, sound }: { line: number; sound: Float32Array }) => {
      const known = kept.get(line) ?? { fine: new Measured(sound), rough: new Measured(coarse(sound)) };
      kept.set(line, known);
      return known;
    };
    const most = Math.ceil((FARTHEST * this.sampleRate) / COARSE);
    const length = Math.round(FINE_SECONDS * this.sampleRate);
    for (let k = 0; k < Math.min(pairs, all.length); k++) {
      const [a, b] = all[this.turn++ % all.length]!;
      const [first, second] = [measured(a), measured(b)];
      const near = bestLag(first.rough, second.rough, 0, most);
      if (Math.abs(near.correlation) < ONE_VOICE / 2) continue;
      const from = first.fine.loudest(length);
      const { lag } = bestLag(first.fine, second.fine, near.lag * COARSE, COARSE, [from, from + length]);
      const correlation = correlationAt(first.fine, second.fine, lag, 0, a.sound.length);
      const key = `${a.line} ${b.line}`;
      const before = this.best.get(key);
      if (!before || Math.abs(correlation) > Math.abs(before.correlation))
        this.best.set(key, { a: a.line, b: b.line, delay: lag, correlation });
    }
    return this.found();
  }

  /** Pairs that hear one voice. */
  found(): SameVoice[] {
    return [...this.best.values()].filter((p) => Math.abs(p.correlation) >= ONE_VOICE);
  }
}
