import { ChannelSet, type Kernels } from '@/core/kernels';
import { SteepDoubler } from './steepDoubler';

const gcd = (a: number, b: number): number => (b ? gcd(b, a % b) : a);

/**
 * Taps of the second step, share of its band that passes, Kaiser beta. What comes to it is at twice the rate and silent
 * above a quarter of that: between there and three quarters, where the images begin, it may fall slowly.
 */
const TAPS = 32;
const CUTOFF = 1;
const BETA = 13.5;
const HALF = TAPS / 2;
const LARGEST_RATIO = 1000;

/** Whether two rates can be converted into each other. */
export function convertible(from: number, to: number): boolean {
  const d = gcd(from, to);
  return to / d <= LARGEST_RATIO && from / d <= LARGEST_RATIO;
}

/** What a conversion keeps and adds; measured in tests/reference and beside the kernel. */
export const RATE_QUALITY = 'pass band to 95 %, alias and distortion below -125 dB';

/**
 * Rate conversion of a stream, all channels together: a steep low pass at twice the rate by transforms, then a short
 * polyphase windowed sinc (in two steps, as Crochiere and Rabiner, Multirate Digital Signal Processing, 5.3). Linear phase,
 * no delay: output sample m stands at input time m * from / to. Throws RangeError when the ratio of the rates is beyond
 * 1000.
 */
export class Resampler {
  private readonly up: number;
  private readonly down: number;
  private readonly coefs: number;
  private readonly steep: SteepDoubler;
  /** Input at twice the rate, kept between calls: `HALF` samples before the next output, and what came since. */
  private held: ChannelSet;
  private heldFrames = 0;
  /** Place of the first held sample at twice the rate (starts before zero: silence stands there, and what rings before). */
  private origin = -2 * HALF;
  private taken = 0;
  private made = 0;
  private out: ChannelSet;
  /** Most frames that one call gives: blocks come whole, however little went in. */
  readonly mostOut: number;

  constructor(
    private readonly k: Kernels,
    from: number,
    to: number,
    private readonly channels: number,
    mostFrames: number,
  ) {
    if (!convertible(from, to)) throw new RangeError(`no conversion from ${from} to ${to} Hz`);
    const d = gcd(2 * from, to);
    this.up = to / d;
    this.down = (2 * from) / d;
    this.coefs = k.x.alloc(this.up * TAPS * 4);
    k.x.resampleDesign(this.coefs, this.up, TAPS, CUTOFF, BETA);
    this.steep = new SteepDoubler(k, channels, Math.max(1, from / to), HALF, mostFrames);
    const doubled = this.steep.mostOut + 2 * TAPS;
    this.held = new ChannelSet(k, channels, doubled);
    this.mostOut = Math.ceil((doubled * this.up) / this.down) + 1;
    this.out = new ChannelSet(k, channels, this.mostOut);
  }

  /** Takes `n` frames (at most `mostFrames`); the converted ones stand in `output` until the next call. */
  run(table: number, n: number): number {
    this.taken += n;
    this.heldFrames += this.steep.run(table, n, (c) => this.held.at(c) + this.heldFrames * 4);
    return this.make();
  }

  /** Gives what is left when no more input comes: the output is as long as the input, to the sample. */
  finish(): number {
    this.heldFrames += this.steep.finish((c) => this.held.at(c) + this.heldFrames * 4);
    return this.make(Math.ceil((2 * this.taken * this.up) / this.down));
  }

  private make(upTo = Infinity): number {
    const { k, up, down } = this;
    // Output m touches input floor(m * down / up) - (HALF - 1) to + HALF.
    const last = this.origin + this.heldFrames - 1 - HALF;
    const ready = Math.min(upTo, Math.floor(((last + 1) * up - 1) / down) + 1);
    const n = Math.max(0, ready - this.made);
    const start = BigInt(this.made);
    for (let c = 0; c < this.channels && n > 0; c++)
      k.x.resampleRun(this.held.at(c) - this.origin * 4, this.coefs, up, down, TAPS, start, this.out.at(c), n);
    this.made += n;
    const next = Math.floor((this.made * down) / up) - (HALF - 1);
    const drop = Math.min(this.heldFrames, Math.max(0, next - this.origin));
    for (let c = 0; c < this.channels; c++)
      k.x.copy(this.held.at(c), this.held.at(c) + drop * 4, this.heldFrames - drop);
    this.heldFrames -= drop;
    this.origin += drop;
    return n;
  }

  /** Channels of the frames that the last call made. */
  get output(): ChannelSet {
    return this.out;
  }

  free(): void {
    this.k.x.release(this.coefs);
    this.steep.free();
    this.held.free();
    this.out.free();
  }
}
