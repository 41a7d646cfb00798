import { createStore } from 'zustand/vanilla';
import { REVERSED_BELOW, type HeardLine } from '@/core/checks';
import { lineId, type SessionDoc } from '@/core/session';
import { ImageListener, imageLikeness, LineListener, PairListener } from '@/core/measure';
import type { SessionAccess } from './access';
import type { Devices } from './devices';
import type { Engine } from './engine';

interface Found {
  device: string | null;
  /** What was found, by line; kept until the device is listened to again. */
  heard: ReadonlyMap<string, HeardLine>;
  /** Stereo tracks that disagree with an earlier one about left and right: that one. */
  swapped: ReadonlyMap<string, string>;
}

/** Neighbours are only compared where both carry something (dBFS). */
const LOUD_ENOUGH = -50;
/** Figures change so often (ms): they must be read. */
const TELL_EVERY = 400;

interface Image {
  track: string;
  /** Channels of the device for left and right. */
  sides: readonly [number, number];
  image: ImageListener;
}

const cords = (doc: SessionDoc | null): string => JSON.stringify(doc?.tracks.map((t) => [t.id, t.inputs]) ?? null);

/** Listening to the lines of a device while the performer gives the loudest passage. */
export class Listening {
  readonly state = createStore<Found>(() => ({ device: null, heard: new Map(), swapped: new Map() }));
  private end: (() => void) | null = null;
  private images: Image[] = [];
  private readonly leave: () => void;

  constructor(
    private readonly session: SessionAccess,
    private readonly engine: Pick<Engine, 'sound'>,
    private readonly devices: Pick<Devices, 'find' | 'state'>,
  ) {
    devices.state.subscribe(() => {
      const { device } = this.state.getState();
      if (device && devices.find(device)?.state !== 'on') this.stop();
    });
    // Cords that were drawn anew make another pair: it must be heard first.
    this.leave = session.subscribe(({ doc }, before) => {
      if (!doc || doc.tracks === before.doc?.tracks || cords(doc) === cords(before.doc)) return;
      const { device, swapped } = this.state.getState();
      this.images = device ? this.imagesOf(device, doc.format.sampleRate) : [];
      if (swapped.size > 0) this.state.setState({ swapped: new Map() });
    });
  }

  /** Listens to all lines of a device until `stop`. Throws when the device is off. */
  async listenTo(device: string): Promise<void> {
    this.stop();
    const player = await this.engine.sound();
    const rate = player.context.sampleRate;
    let lines: LineListener[] = [];
    let pairs: PairListener[] = [];
    this.images = this.imagesOf(device, rate);
    const width = this.devices.find(device)!.lines.length;
    let told = 0;
    this.end = player.listen(device, (given) => {
      const channels = given.slice(0, width);
      if (lines.length !== channels.length) {
        lines = channels.map(() => new LineListener(rate));
        pairs = channels.slice(1).map(() => new PairListener());
      }
      channels.forEach((samples, c) => lines[c]!.run(samples));
      pairs.forEach((p, c) => p.run(channels[c]!, channels[c + 1]!));
      for (const { sides, image } of this.images) image.run(channels[sides[0]]!, channels[sides[1]]!);
      if (performance.now() - told < TELL_EVERY) return;
      told = performance.now();
      this.tell(device, lines, pairs);
    });
    const heard = new Map([...this.state.getState().heard].filter(([line]) => !line.startsWith(`${device}/`)));
    this.state.setState({ device, heard, swapped: new Map() });
  }

  private tell(device: string, lines: readonly LineListener[], pairs: readonly PairListener[]): void {
    const heard = new Map(this.state.getState().heard);
    const facts = lines.map((l) => l.facts());
    facts.forEach((f, c) => {
      // A line is judged against the one before it.
      const correlation = c > 0 ? pairs[c - 1]!.correlation : 0;
      const loud = c > 0 && Math.min(f.peak, facts[c - 1]!.peak) > LOUD_ENOUGH;
      heard.set(lineId(device, c), {
        ...f,
        ...(loud && correlation <= REVERSED_BELOW ? { against: { line: lineId(device, c - 1), correlation } } : {}),
      });
    });
    this.state.setState({ heard, swapped: swappedOf(this.images) });
  }

  /** The stereo tracks that are patched to a device. */
  private imagesOf(device: string, rate: number): Image[] {
    const tracks = this.session.getState().doc?.tracks.filter((t) => t.layout === 'stereo') ?? [];
    return tracks.flatMap((t) => {
      if (!t.inputs.every((l) => l?.startsWith(`${device}/`))) return [];
      const [left, right] = t.inputs.map((l) => Number(l!.split('/').at(-1)) - 1) as [number, number];
      return [{ track: t.id, sides: [left, right] as const, image: new ImageListener(rate) }];
    });
  }

  stop(): void {
    this.end?.();
    this.end = null;
    this.state.setState({ device: null });
  }

  /** A changed gain makes what was heard before worthless. */
  forget(line: string): void {
    this.state.setState((s) => ({ heard: new Map([...s.heard].filter(([id]) => id !== line)), swapped: new Map() }));
  }

  close(): void {
    this.leave();
    this.stop();
  }
}

const swappedOf = (images: readonly Image[]): Map<string, string> =>
  new Map(
    images.flatMap((now, i) => {
      const other = images.slice(0, i).find((o) => imageLikeness(o.image, now.image) <= REVERSED_BELOW);
      return other ? [[now.track, other.track] as const] : [];
    }),
  );
