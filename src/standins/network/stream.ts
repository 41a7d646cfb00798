import { DriftMeter } from './drift';
import { Link } from './link';
import { PACKET_FRAMES } from './packet';
import { Receiver } from './receiver';

/** What the receiving end knows of a network device. */
export interface NetworkStatus {
  links: { up: boolean }[];
  clock: ClockSource;
  /** Parts per million by which the device's clock is fast; null while too little is known. */
  ppm: number | null;
  /** Frames until the buffer is empty or full. */
  margin: number;
  slips: number;
  lost: number;
  /** Whether the direct feed before the fader is switched on. */
  direct: boolean;
  /** How the console's faders stand, dB per source. */
  faders: readonly number[];
}

/** The network's common clock, or the device's own, free-running one. */
export type ClockSource = 'network' | 'own';

/** Frames between sending and hearing: 8 ms, well over a block and both links' delays. */
export const DEPTH = 384;

/** A sender with its clock, two links and the receiver, run by the receiver's clock. */
export class NetworkStream {
  clock: ClockSource = 'network';
  readonly links = [new Link(12, 5, 7), new Link(60, 9, 11)] as const;
  readonly receiver: Receiver;
  /** One for each link: what is common to a link's packets, its delay, does not count. */
  private readonly drifts = [new DriftMeter(), new DriftMeter()] as const;
  private now = 0;
  /** Sender's samples, with fractions, and packets sent. */
  private senderClock = 0;
  private sequence = 0;

  /** `make` writes the sender's next frames into the given channels; `ownPpm` is its clock's fault when free. */
  constructor(
    channels: number,
    private readonly make: (out: Float32Array[]) => void,
    private readonly ownPpm = 0,
  ) {
    this.receiver = new Receiver(channels, DEPTH);
  }

  setClock(clock: ClockSource): void {
    this.clock = clock;
    this.drifts.forEach((d) => d.forget());
  }

  /** Runs for `n` of the receiver's samples and writes what comes out. */
  run(out: readonly Float32Array[], n: number): void {
    const speed = 1 + (this.clock === 'own' ? this.ownPpm : 0) / 1e6;
    const end = this.senderClock + n * speed;
    while ((this.sequence + 1) * PACKET_FRAMES <= end) {
      const channels = Array.from({ length: this.receiver.channels }, () => new Float32Array(PACKET_FRAMES));
      this.make(channels);
      const sent = (this.sequence + 1) * PACKET_FRAMES;
      const at = this.now + (sent - this.senderClock) / speed;
      const packet = { sequence: this.sequence++, sent, channels };
      this.links.forEach((l) => l.send(packet, at));
    }
    this.senderClock = end;
    this.now += n;
    this.links.forEach((link, i) => {
      for (const { packet, at } of link.take(this.now)) {
        this.drifts[i]!.note(at, packet.sent);
        this.receiver.take(packet);
      }
    });
    this.receiver.read(out, n);
  }

  status(): Omit<NetworkStatus, 'direct' | 'faders'> {
    const { fill, depth, slips, lost } = this.receiver;
    return {
      links: this.links.map(({ up }) => ({ up })),
      clock: this.clock,
      ppm: this.drifts[this.links[0].up ? 0 : 1].ppm,
      margin: Math.max(0, Math.min(fill, 2 * depth - fill)),
      slips,
      lost,
    };
  }
}
