import { create } from 'zustand';
import { REVERSED_BELOW, type HeardLine } from '@/core/checks';
import { lineId } from '@/core/session';
import { ImageListener, imageLikeness, LineListener, PairListener } from '@/core/measure';
import { useDevices } from './devices';
import { ensurePlayer } from './engine';
import { useSession } from './session';

interface Listening {
  device: string | null;
  /** What was found, by line; kept until the device is listened to again. */
  heard: ReadonlyMap<string, HeardLine>;
  /** Stereo tracks that disagree with an earlier one about left and right: that one. */
  swapped: ReadonlyMap<string, string>;
}

/** Listening to the lines of a device while the performer gives the loudest passage. */
export const useListening = create<Listening>(() => ({
  device: null,
  heard: new Map(),
  swapped: new Map(),
}));

let end: (() => void) | null = null;
/** Neighbours are only compared where both carry something (dBFS). */
const LOUD_ENOUGH = -50;
/** Figures change so often (ms): they must be read. */
const TELL_EVERY = 400;

/** Listens to all lines of a device until `stopListening`. Throws when the device is off. */
export async function listenTo(device: string): Promise<void> {
  stopListening();
  const player = await ensurePlayer();
  const rate = player.context.sampleRate;
  let lines: LineListener[] = [];
  let pairs: PairListener[] = [];
  images = imagesOf(device, rate);
  const width = useDevices.getState().list.find((d) => d.id === device)!.lines.length;
  let told = 0;
  end = player.listen(device, (given) => {
    const channels = given.slice(0, width);
    if (lines.length !== channels.length) {
      lines = channels.map(() => new LineListener(rate));
      pairs = channels.slice(1).map(() => new PairListener());
    }
    channels.forEach((samples, c) => lines[c]!.run(samples));
    pairs.forEach((p, c) => p.run(channels[c]!, channels[c + 1]!));
    for (const { sides, image } of images) image.run(channels[sides[0]]!, channels[sides[1]]!);
    if (performance.now() - told < TELL_EVERY) return;
    told = performance.now();
    const heard = new Map(useListening.getState().heard);
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
    useListening.setState({ heard, swapped: swappedOf(images) });
  });
  const heard = new Map([...useListening.getState().heard].filter(([line]) => !line.startsWith(`${device}/`)));
  useListening.setState({ device, heard, swapped: new Map() });
}

let images: Image[] = [];

// Cords that were drawn anew make another pair: it must be heard first.
useSession.subscribe(({ doc }, before) => {
  const cords = (d: typeof doc) => d?.tracks.map((t) => [t.id, t.inputs]);
  if (!doc || doc.tracks === before.doc?.tracks || JSON.stringify(cords(doc)) === JSON.stringify(cords(before.doc)))
    return;
  const { device } = useListening.getState();
  images = device ? imagesOf(device, doc.format.sampleRate) : [];
  if (useListening.getState().swapped.size > 0) useListening.setState({ swapped: new Map() });
});

interface Image {
  track: string;
  /** Channels of the device for left and right. */
  sides: readonly [number, number];
  image: ImageListener;
}

/** The stereo tracks that are patched to a device. */
function imagesOf(device: string, rate: number): Image[] {
  const tracks = useSession.getState().doc?.tracks.filter((t) => t.layout === 'stereo') ?? [];
  return tracks.flatMap((t) => {
    if (!t.inputs.every((l) => l?.startsWith(`${device}/`))) return [];
    const [left, right] = t.inputs.map((l) => Number(l!.split('/').at(-1)) - 1) as [number, number];
    return [{ track: t.id, sides: [left, right] as const, image: new ImageListener(rate) }];
  });
}

const swappedOf = (images: readonly Image[]): Map<string, string> =>
  new Map(
    images.flatMap((now, i) => {
      const other = images.slice(0, i).find((o) => imageLikeness(o.image, now.image) <= REVERSED_BELOW);
      return other ? [[now.track, other.track] as const] : [];
    }),
  );

export function stopListening(): void {
  end?.();
  end = null;
  useListening.setState({ device: null });
}

/** A changed gain makes what was heard before worthless. */
export function forgetHeard(line: string): void {
  useListening.setState((s) => ({ heard: new Map([...s.heard].filter(([id]) => id !== line)), swapped: new Map() }));
}

useDevices.subscribe((s) => {
  const { device } = useListening.getState();
  if (device && s.list.find((d) => d.id === device)?.state !== 'on') stopListening();
});
