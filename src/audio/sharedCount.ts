/** Bits of a count's lower word; numbers of JavaScript are exact up to 2^53. */
const LOW_BITS = 30;
const LOW = 1 << LOW_BITS;
/** Stands in the lower word while both are being written. */
const BUSY = -1;

/** Words (i32) that a count takes. */
export const COUNT_WORDS = 2;

/**
 * A count in shared memory that one thread writes and others read, exact far beyond 32 bits: at 192 kHz those would
 * be over after three hours.
 */
export class SharedCount {
  constructor(
    private readonly words: Int32Array,
    private readonly at: number,
  ) {}

  get value(): number {
    for (;;) {
      const high = Atomics.load(this.words, this.at + 1);
      const low = Atomics.load(this.words, this.at);
      // Once in 2^30 counts the two change together; whoever meets that looks again.
      if (low !== BUSY && Atomics.load(this.words, this.at + 1) === high) return high * LOW + low;
    }
  }

  /** Only the thread that owns the count sets it. */
  set value(count: number) {
    const high = Math.floor(count / LOW);
    if (Atomics.load(this.words, this.at + 1) !== high) {
      Atomics.store(this.words, this.at, BUSY);
      Atomics.store(this.words, this.at + 1, high);
    }
    Atomics.store(this.words, this.at, count - high * LOW);
  }
}
