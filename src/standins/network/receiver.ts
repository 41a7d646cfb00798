import { PACKET_FRAMES, type Packet } from './packet';

/**
 * Receives one stream over any number of links: of each packet the first copy that arrives counts (SMPTE ST
 * 2022-7, seamless protection switching), so that the loss of a link loses no sample. Reads at the receiver's
 * own clock: a sender that runs faster or slower fills or empties the buffer until a piece is skipped or missing.
 */
export class Receiver {
  /** Frames that were missing and are silent, or were thrown away because they came too fast. */
  lost = 0;
  /** How often the stream had to be set right: each is a click. */
  slips = 0;
  private readonly waiting = new Map<number, Packet>();
  /** Next frame of the stream to be read; before the first packet nothing is known. */
  private next: number | null = null;
  private newest = -1;
  /** Whether anything came since the last reading: a dead network is no slip. */
  private fresh = false;

  /** `depth`: frames between writing and reading that the buffer aims at. */
  constructor(
    readonly channels: number,
    readonly depth: number,
  ) {}

  take(packet: Packet): void {
    this.fresh = true;
    if (this.next !== null && (packet.sequence + 1) * PACKET_FRAMES <= this.next) return;
    this.waiting.set(packet.sequence, packet);
    this.newest = Math.max(this.newest, packet.sequence);
    this.next ??= packet.sequence * PACKET_FRAMES - this.depth;
  }

  /** Frames between what is read next and the newest that arrived. */
  get fill(): number {
    return this.next === null ? 0 : (this.newest + 1) * PACKET_FRAMES - this.next;
  }

  /** Writes the next `n` frames of every channel. */
  read(out: readonly Float32Array[], n: number): void {
    out.forEach((o) => o.fill(0, 0, n));
    if (this.next === null) return;
    // Too far from the aim: jump back to it. What is skipped or repeated is heard as a click.
    const off = this.fill - n - this.depth;
    if (this.fresh && (this.fill < n || off > this.depth)) this.slip(n);
    this.fresh = false;
    for (let done = 0; done < n;) {
      const frame = this.next + done;
      const sequence = Math.floor(frame / PACKET_FRAMES);
      const from = frame - sequence * PACKET_FRAMES;
      const part = Math.min(n - done, PACKET_FRAMES - from);
      const packet = this.waiting.get(sequence);
      if (packet) out.forEach((o, c) => o.set(packet.channels[c]!.subarray(from, from + part), done));
      else if (frame >= 0 && this.newest >= 0) this.lost += part;
      done += part;
    }
    this.next += n;
    for (const sequence of this.waiting.keys())
      if ((sequence + 1) * PACKET_FRAMES <= this.next) this.waiting.delete(sequence);
  }

  private slip(n: number): void {
    this.slips++;
    this.next = (this.newest + 1) * PACKET_FRAMES - n - this.depth;
  }
}
