import { toast } from 'sonner';
import { Player, type LineSource, type MeterFrame } from '@/audio';
import { compilePlan } from '@/core/engine';
import { Kernels } from '@/core/kernels';
import { resetLoudness, takeMeters } from './meters';
import { useSession } from './session';

// One player per page; the plan follows the document.
let player: Promise<Player> | null = null;
let running: Player | null = null;
let kernels: Kernels | null = null;
let rolling = false;

/** Who wants to know of meters and of the end of rolling. */
export const listeners = {
  meters: new Set<(frame: MeterFrame) => void>(),
  stopped: new Set<(rolled: number) => void>(),
  reshaped: new Set<() => void>(),
};

/** Where each line arrives; the device store fills this in. */
let lineSources: () => LineSource[] = () => [];
export const setLineSources = (source: () => LineSource[]): void => void (lineSources = source);

/** Starts sound on first use; must come from a click or key. */
export function ensurePlayer(): Promise<Player> {
  player ??= (async () => {
    const rate = useSession.getState().doc!.format.sampleRate;
    const made = await Player.start(rate, {
      onMeters: (frame) => {
        takeMeters(frame);
        listeners.meters.forEach((l) => l(frame));
      },
      onStopped: (rolled) => listeners.stopped.forEach((l) => l(rolled)),
      onTrouble: (message) => toast.warning(message, { id: 'feeder' }),
    });
    running = made;
    kernels = new Kernels(made.module);
    // For support and tests: what a node gives, sample by sample, from where rolling begins.
    Object.assign(globalThis, { wideRoom: { capture: (node: string, frames: number) => made.capture(node, frames) } });
    reload();
    return made;
  })();
  player.catch(() => (player = null));
  return player;
}

export const kernelsNow = (): Kernels | null => kernels;
export const playerNow = (): Player | null => running;

export function setRolling(now: boolean): void {
  rolling = now;
  if (now) resetLoudness();
  reload();
}

/** Compiles the session as shown and hands the plan to the engine. */
export function reload(): void {
  const { doc } = useSession.getState();
  if (!running || !kernels || !doc) return;
  if (running.fit(doc.tracks)) listeners.reshaped.forEach((l) => l());
  running.load(compilePlan(kernels, doc, { mode: 'live', rolling }), lineSources());
}

let waiting = false;
useSession.subscribe((state, before) => {
  if (state.doc === before.doc || waiting) return;
  waiting = true;
  requestAnimationFrame(() => {
    waiting = false;
    reload();
  });
  const clips = (s: typeof state) => s.doc?.tracks.map((t) => t.clips);
  const now = clips(state);
  if (rolling && now && clips(before)?.some((c, i) => c !== now[i])) running?.refresh(state.doc!.tracks);
});
