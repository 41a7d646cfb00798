import { toast } from 'sonner';
import { Player, type LineSource, type MeterFrame } from '@/audio';
import { compilePlan } from '@/core/engine';
import { Kernels } from '@/core/kernels';
import { freshOf, hearingOf, playedOf, type FrozenTracks, type SessionDoc, type Track } from '@/core/session';
import { resetLoudness, takeMeters } from './meters';
import { useSession } from './session';
import { useTransport } from './transportState';

// One player per page; the plan follows the document.
let player: Promise<Player> | null = null;
let running: Player | null = null;
let kernels: Kernels | null = null;
let rolling: 'no' | 'playing' | 'recording' = 'no';

/** Who wants to know of meters and of the end of rolling. */
export const listeners = {
  meters: new Set<(frame: MeterFrame) => void>(),
  /** A session is at work in the engine from this frame of the roll on. */
  loaded: new Set<(doc: SessionDoc, rolled: number) => void>(),
  stopped: new Set<(rolled: number) => void>(),
  punched: new Set<(way: 'in' | 'out', at: number, before: Record<string, number>) => void>(),
  reshaped: new Set<() => void>(),
  /** Tracks are frozen or thawed while it plays: what is heard must be laid out anew. */
  thawed: new Set<() => void>(),
  /** The roll stopped. */
  rolled: new Set<() => void>(),
  dropped: new Set<() => void>(),
  vanished: new Set<(device: string, name: string) => void>(),
};

/** Tracks as they are heard from disk, and which of them plays a take; whoever listens to a take fills this in. */
let heardFrom: (doc: SessionDoc) => Track[] = (doc) => doc.tracks;
let heardApart: () => string | null = () => null;
export function setHeardFrom(source: typeof heardFrom, apart: typeof heardApart): void {
  heardFrom = source;
  heardApart = apart;
}
export const tracksHeard = (doc: SessionDoc): Track[] => heardFrom(playedOf(doc, frozen));

/** Tracks that play what they were frozen to. While something is recorded they stay as they were when it began. */
let frozen: FrozenTracks = new Map();
export const frozenNow = (): FrozenTracks => frozen;

// What comes in on a track goes through its chain, and so does a take that is listened to: then it is not frozen.
function freezable(doc: SessionDoc): FrozenTracks {
  const fresh = freshOf(doc);
  if (fresh.size === 0) return fresh;
  const hears = (t: Track) => t.armed || (hearingOf(t) === 'always' && t.inputs.some((l) => l !== null));
  const open = new Set(doc.tracks.filter((t) => hears(t) || t.id === heardApart()).map((t) => t.id));
  return new Map([...fresh].filter(([id]) => !open.has(id)));
}

/** Whether what plays was laid out with other tracks frozen than the session has now. */
export function isThawed(): boolean {
  const { doc } = useSession.getState();
  return rolling === 'playing' && doc !== null && !sameFrozen(frozen, freezable(doc));
}

const sameFrozen = (a: FrozenTracks, b: FrozenTracks): boolean =>
  a.size === b.size && [...a].every(([id, f]) => b.get(id)?.media === f.media);

/** Where each line arrives; the device store fills this in. */
let lineSources: () => LineSource[] = () => [];
export const setLineSources = (source: () => LineSource[]): void => void (lineSources = source);

const LATENCY = { short: 'interactive', middle: 'balanced', long: 'playback' } as const;

/** Starts sound on first use; must come from a click or key. */
export function ensurePlayer(): Promise<Player> {
  player ??= (async () => {
    const { format, settings } = useSession.getState().doc!;
    const events = {
      onMeters: (frame: MeterFrame) => {
        takeMeters(frame);
        listeners.meters.forEach((l) => l(frame));
      },
      onPunched: (way: 'in' | 'out', at: number, before: Record<string, number>) =>
        listeners.punched.forEach((l) => l(way, at, before)),
      onLoaded: (serial: number, rolled: number) => {
        const doc = loading.get(serial);
        loading.delete(serial);
        if (doc && rolled >= 0) listeners.loaded.forEach((l) => l(doc, rolled));
      },
      onStopped: (rolled: number) => listeners.stopped.forEach((l) => l(rolled)),
      onTrouble: (message: string) => toast.warning(message, { id: 'feeder' }),
    };
    const made = await Player.start(format.sampleRate, events, LATENCY[settings.buffer]);
    running = made;
    kernels = new Kernels(made.module);
    // For support and tests: what a node gives, sample by sample, from where rolling begins.
    Object.assign(globalThis, { wideRoom: { capture: (node: string, frames: number) => made.capture(node, frames) } });
    if (watched) made.watch(...watched);
    reload();
    made.place(useTransport.getState().position);
    return made;
  })();
  player.catch(() => (player = null));
  return player;
}

let watched: [node: string, stage: string | null] | null = null;

/** Looks at a chain while it is drawn; returns what ends it. */
export function watchChain(node: string, stage: string | null): () => void {
  const mine: typeof watched = [node, stage];
  watched = mine;
  running?.watch(node, stage);
  return () => {
    if (watched !== mine) return;
    watched = null;
    running?.watch(null, null);
  };
}

export const kernelsNow = (): Kernels | null => kernels;
export const playerNow = (): Player | null => running;

export function setRolling(now: typeof rolling): void {
  rolling = now;
  const { doc } = useSession.getState();
  if (doc) frozen = freezable(doc);
  if (now !== 'no') resetLoudness();
  reload();
}

// The session runs at another rate now: sound starts anew with the next key.
function drop(old: Player): void {
  old.stop();
  void old.context.close();
  running = null;
  player = null;
  loading.clear();
  listeners.reshaped.forEach((l) => l());
  listeners.dropped.forEach((l) => l());
}

/** Plans on their way to the engine, with the session that each was made of. */
const loading = new Map<number, SessionDoc>();
let loads = 0;

/** Compiles the session as shown and hands the plan to the engine. */
export function reload(): void {
  const { doc } = useSession.getState();
  if (!running || !kernels || !doc) return;
  if (doc.format.sampleRate !== running.context.sampleRate) {
    drop(running);
    return;
  }
  if (rolling === 'no') frozen = freezable(doc);
  if (running.fit(doc.tracks)) listeners.reshaped.forEach((l) => l());
  running.load(
    compilePlan(kernels, doc, {
      mode: 'live',
      rolling: rolling !== 'no',
      recording: rolling === 'recording',
      frozen,
    }),
    lineSources(),
    ++loads,
  );
  loading.set(loads, doc);
}

let waiting = false;
useSession.subscribe((state, before) => {
  if (state.doc === before.doc) return;
  // A chain must not change before the clips that go through it: both begin anew.
  if (isThawed()) {
    listeners.thawed.forEach((l) => l());
    return;
  }
  if (waiting) return;
  waiting = true;
  requestAnimationFrame(() => {
    waiting = false;
    reload();
  });
  const clips = (s: typeof state) => s.doc?.tracks.map((t) => t.clips);
  const now = clips(state);
  // While recording the lanes stay as they were laid out: a take that has just ended must not sound under the next.
  if (rolling === 'playing' && now && clips(before)?.some((c, i) => c !== now[i]))
    running?.refresh(tracksHeard(state.doc!));
});
