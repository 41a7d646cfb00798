import type { Arrival, Packet } from './packet';

/** One of the two networks between sender and receiver: late by a fixed time and a little more, or cut. */
export class Link {
  up = true;
  private onWay: Arrival[] = [];
  private seed: number;

  /** Delay and jitter in receiver samples. */
  constructor(
    private readonly delay: number,
    private readonly jitter: number,
    seed = 1,
  ) {
    this.seed = seed;
  }

  /** Puts a packet on the way; on a cut link it is lost, as are those that were under way when it was cut. */
  send(packet: Packet, now: number): void {
    if (!this.up) return;
    // xorshift32 (Marsaglia 2003): the same jitter in every run.
    this.seed ^= this.seed << 13;
    this.seed ^= this.seed >>> 17;
    this.seed ^= this.seed << 5;
    this.onWay.push({ packet, at: now + this.delay + ((this.seed >>> 0) / 2 ** 32) * this.jitter });
  }

  cut(): void {
    this.up = false;
    this.onWay = [];
  }

  mend(): void {
    this.up = true;
  }

  /** What has arrived by `now`. */
  take(now: number): Arrival[] {
    const there = this.onWay.filter((a) => a.at <= now);
    if (there.length) this.onWay = this.onWay.filter((a) => a.at > now);
    return there;
  }
}
