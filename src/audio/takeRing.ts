import { newRing, Ring, type RingMemory } from './ring';
import { COUNT_WORDS, SharedCount } from './sharedCount';

/** What is recorded is held for at least so long (s) before any of it would be lost, and for up to so long in a narrow take. */
const LEAST_SECONDS = 12;
const MOST_SECONDS = 30;
/** Memory that a take's ring may have for more than the least (bytes). */
const ROOMY = 64e6;
/** Gaps that can wait to be read. One place is always free, for a gap at the end. */
const MOST_GAPS = 64;
/** Of the ring, as much must be free again before sound is taken after a gap: one long gap, not many short ones. */
const FREE_AGAIN = 4;

const GAPS_WRITTEN = 0;
const GAPS_READ = COUNT_WORDS;
const TOTAL = 2 * COUNT_WORDS;
const ENDED = 3 * COUNT_WORDS;
const STATE_WORDS = ENDED + 1;

/** The sound of one take on its way from the sound's thread to the recorder, with all that proves it. */
export interface TakeMemory extends RingMemory {
  state: SharedArrayBuffer;
  /** Place (frames of the ring) and length of each gap. */
  gaps: SharedArrayBuffer;
  /** Running checksum per channel of what was written. */
  sums: SharedArrayBuffer;
}

/** Seconds that the ring of a take of `channels` channels holds. */
export const heldSeconds = (channels: number, sampleRate: number): number =>
  Math.max(LEAST_SECONDS, Math.min(MOST_SECONDS, ROOMY / (channels * sampleRate * 4)));

/** Room for some ten to thirty seconds at `sampleRate` of `channels` channels. */
export function newTakeRing(
  channels: number,
  sampleRate: number,
  seconds = heldSeconds(channels, sampleRate),
): TakeMemory {
  return {
    ...newRing(channels, Math.ceil(seconds * sampleRate)),
    state: new SharedArrayBuffer(STATE_WORDS * 4),
    gaps: new SharedArrayBuffer(MOST_GAPS * 16),
    sums: new SharedArrayBuffer(channels * 4),
  };
}

/** FNV-1a over the words of samples (Fowler, Noll, Vo; draft-eastlake-fnv), a word at a time instead of a byte. */
function runningSum(sum: number, words: ArrayLike<number>, from: number, to: number): number {
  let s = sum;
  for (let i = from; i < to; i++) s = Math.imul(s ^ words[i]!, 0x01000193);
  return s;
}

class Sides {
  protected readonly gapsWritten: SharedCount;
  protected readonly gapsRead: SharedCount;
  protected readonly total: SharedCount;
  protected readonly state: Int32Array;
  protected readonly gaps: Float64Array;
  protected readonly shared: Int32Array;
  protected readonly ring: Ring;

  constructor(memory: TakeMemory) {
    this.ring = new Ring(memory);
    this.state = new Int32Array(memory.state);
    this.gaps = new Float64Array(memory.gaps);
    this.shared = new Int32Array(memory.sums);
    this.gapsWritten = new SharedCount(this.state, GAPS_WRITTEN);
    this.gapsRead = new SharedCount(this.state, GAPS_READ);
    this.total = new SharedCount(this.state, TOTAL);
  }
}

/**
 * The writing side. Nothing that was not read yet is ever written over: what finds no room is left out, and the gap is
 * told with its place and length.
 *
 *   if (writer.begin(n)) { writer.put(0, left); writer.put(1, right); }
 *   writer.wrote(n);
 */
export class TakeWriter extends Sides {
  private readonly words: Int32Array[];
  private readonly frames: number;
  private lost = 0;
  private gone = 0;
  private open = false;

  constructor(memory: TakeMemory) {
    super(memory);
    this.frames = memory.frames;
    this.words = Array.from(
      { length: memory.channels },
      (_, c) => new Int32Array(memory.samples, c * memory.frames * 4, memory.frames),
    );
  }

  /** Whether the next `n` frames find room; they are a part of a gap otherwise. */
  begin(n: number): boolean {
    const { room } = this.ring;
    if (this.lost > 0) {
      const places = MOST_GAPS - (this.gapsWritten.value - this.gapsRead.value);
      this.open = room >= Math.max(n, this.frames / FREE_AGAIN) && places > 1;
      if (this.open) this.tellGap();
    } else this.open = room >= n;
    return this.open;
  }

  put(channel: number, samples: Float32Array): void {
    if (!this.open) return;
    const at = this.ring.written % this.frames;
    this.ring.put(channel, samples);
    const words = this.words[channel]!;
    const first = Math.min(samples.length, this.frames - at);
    const sum = runningSum(this.shared[channel]!, words, at, at + first);
    this.shared[channel] = runningSum(sum, words, 0, samples.length - first);
  }

  /** `n` frames of every channel have passed. */
  wrote(n: number): void {
    if (this.open) this.ring.wrote(n);
    else this.lost += n;
  }

  private tellGap(): void {
    const place = (this.gapsWritten.value % MOST_GAPS) * 2;
    this.gaps[place] = this.ring.written;
    this.gaps[place + 1] = this.lost;
    this.gapsWritten.value++;
    this.gone += this.lost;
    this.lost = 0;
  }

  /** Nothing comes any more. */
  end(): void {
    if (this.lost > 0) this.tellGap();
    this.total.value = this.ring.written + this.gone;
    Atomics.store(this.state, ENDED, 1);
  }
}

export type TakeStep = { kind: 'samples' | 'gap'; frames: number };

/** The reading side. */
export class TakeReader extends Sides {
  private readonly own: Int32Array;
  /** Frames of a gap that are not told yet. */
  private left = 0;

  constructor(memory: TakeMemory) {
    super(memory);
    this.own = new Int32Array(memory.channels);
  }

  /** What comes next, at most `most` frames of it; null while nothing is there. */
  next(most: number): TakeStep | null {
    if (this.left > 0) return { kind: 'gap', frames: Math.min(most, this.left) };
    // In this order: a gap is told before what was written behind it.
    const { available, read } = this.ring;
    let there = Math.min(most, available);
    if (this.gapsWritten.value > this.gapsRead.value) {
      const place = (this.gapsRead.value % MOST_GAPS) * 2;
      const at = this.gaps[place]!;
      if (at === read) {
        this.left = this.gaps[place + 1]!;
        this.gapsRead.value++;
        return { kind: 'gap', frames: Math.min(most, this.left) };
      }
      there = Math.min(there, at - read);
    }
    return there > 0 ? { kind: 'samples', frames: there } : null;
  }

  /** Copies `n` frames of a channel that are there to `target` at `index`; `words`: the same memory as integers. */
  take(channel: number, target: Float32Array, words: ArrayLike<number>, index: number, n: number): void {
    this.ring.take(channel, target, index, n);
    this.own[channel] = runningSum(this.own[channel]!, words, index, index + n);
  }

  /** The step that `next` told was dealt with. */
  took({ kind, frames }: TakeStep): void {
    if (kind === 'gap') this.left -= frames;
    else this.ring.took(frames);
  }

  /** Frames of the whole take, gaps included, once it has ended; null before. */
  get ended(): number | null {
    return Atomics.load(this.state, ENDED) === 1 ? this.total.value : null;
  }

  /** Whether what was taken is what was written; only when the take has ended and all is taken. */
  get same(): boolean {
    return this.own.every((sum, c) => sum === this.shared[c]);
  }
}
