import { ChannelSet, type Kernels } from '@/core/kernels';

const gcd = (a: number, b: number): number => (b ? gcd(b, a % b) : a);

/**
 * Taps on the slower of the two rates, share of its band that passes, Kaiser beta: pass band to 95 % of half
 * the slower rate, nothing above half of it; alias and distortion at -125 dB or below (the test measures).
 */
const TAPS = 320;
const CUTOFF = 0.9736;
const BETA = 13.1;
const LARGEST_RATIO = 1000;

/** Whether two rates can be converted into each other. */
export function convertible(from: number, to: number): boolean {
  const d = gcd(from, to);
  return to / d <= LARGEST_RATIO && from / d <= LARGEST_RATIO;
}

/** What a conversion keeps and adds; measured in tests/reference and beside the kernel. */
export const RATE_QUALITY = 'pass band to 95 %, alias and distortion below -125 dB';

/**
 * Rate conversion of a stream, all channels together: polyphase windowed sinc, linear phase, no delay. Output
 * sample m stands at input time m * from / to. Throws RangeError when the ratio of the rates is beyond 1000.
 */
export class Resampler {
  private readonly up: number;
  private readonly down: number;
  private readonly taps: number;
  private readonly coefs: number;
  /** Input kept between blocks: `half` samples before the next output, and what came since. */
  private held: ChannelSet;
  private heldFrames: number;
  /** Input position of the first held sample (starts before zero: silence stands there). */
  private origin: number;
  private taken = 0;
  private made = 0;
  private out: ChannelSet;

  constructor(
    private readonly k: Kernels,
    from: number,
    to: number,
    private readonly channels: number,
    mostFrames: number,
  ) {
    if (!convertible(from, to)) throw new RangeError(`no conversion from ${from} to ${to} Hz`);
    const d = gcd(from, to);
    this.up = to / d;
    this.down = from / d;
    const wide = Math.max(1, this.down / this.up);
    this.taps = Math.ceil((TAPS * wide) / 32) * 32;
    this.coefs = k.x.alloc(this.up * this.taps * 4);
    k.x.resampleDesign(this.coefs, this.up, this.taps, CUTOFF / wide, BETA);
    this.held = new ChannelSet(k, channels, mostFrames + 2 * this.taps);
    this.heldFrames = this.taps / 2;
    this.origin = -this.heldFrames;
    this.held.clear(this.heldFrames);
    this.out = new ChannelSet(k, channels, Math.ceil(((mostFrames + this.taps) * this.up) / this.down) + 1);
  }

  /** Takes `n` frames (at most `mostFrames`); the converted ones stand in `output` until the next call. */
  run(table: number, n: number): number {
    for (let c = 0; c < this.channels; c++)
      this.k.x.copy(this.held.at(c) + this.heldFrames * 4, this.k.heapU32[(table >> 2) + c]!, n);
    this.heldFrames += n;
    this.taken += n;
    return this.make();
  }

  /** Gives what is left when no more input comes: the output is as long as the input, to the sample. */
  finish(): number {
    const half = this.taps / 2;
    for (let c = 0; c < this.channels; c++) this.k.x.clear(this.held.at(c) + this.heldFrames * 4, half);
    this.heldFrames += half;
    return this.make(Math.ceil((this.taken * this.up) / this.down));
  }

  private make(upTo = Infinity): number {
    const { k, up, down, taps } = this;
    const half = taps / 2;
    // Output m touches input floor(m * down / up) - (half - 1) to + half.
    const last = this.origin + this.heldFrames - 1 - half;
    const ready = Math.min(upTo, Math.floor(((last + 1) * up - 1) / down) + 1);
    const n = Math.max(0, ready - this.made);
    const phaseStart = BigInt(this.made);
    for (let c = 0; c < this.channels && n > 0; c++)
      k.x.resampleRun(this.held.at(c) - this.origin * 4, this.coefs, up, down, taps, phaseStart, this.out.at(c), n);
    this.made += n;
    const next = Math.floor((this.made * down) / up) - (half - 1);
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
    this.held.free();
    this.out.free();
  }
}
