import { create } from 'zustand';
import { REVERSED_BELOW, type HeardLine } from '@/core/checks';
import { lineId } from '@/core/session';
import { LineListener, PairListener } from '@/core/measure';
import { useDevices } from './devices';
import { ensurePlayer } from './engine';

interface Listening {
  device: string | null;
  /** What was found, by line; kept until the device is listened to again. */
  heard: ReadonlyMap<string, HeardLine>;
}

/** Listening to the lines of a device while the performer gives the loudest passage. */
export const useListening = create<Listening>(() => ({ device: null, heard: new Map() }));

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
    useListening.setState({ heard });
  });
  const heard = new Map([...useListening.getState().heard].filter(([line]) => !line.startsWith(`${device}/`)));
  useListening.setState({ device, heard });
}

export function stopListening(): void {
  end?.();
  end = null;
  useListening.setState({ device: null });
}

/** A changed gain makes what was heard before worthless. */
export function forgetHeard(line: string): void {
  useListening.setState((s) => ({ heard: new Map([...s.heard].filter(([id]) => id !== line)) }));
}

useDevices.subscribe((s) => {
  const { device } = useListening.getState();
  if (device && s.list.find((d) => d.id === device)?.state !== 'on') stopListening();
});
