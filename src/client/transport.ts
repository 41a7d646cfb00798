import { create } from 'zustand';
import { toast } from 'sonner';
import { beforeRecording, type Check, type Live } from '@/core/checks';
import { endOf, lineId } from '@/core/session';
import { networkFacts, useDevices } from './devices';
import { useDisk } from './disk';
import { ensurePlayer, listeners, playerNow, setLineSources, setRolling } from './engine';
import { useListening } from './listening';
import { recentLevel } from './meters';
import { edit, settled, useSession } from './session';
import { beginTakes, endTakes } from './takes';

type RollState = 'stopped' | 'starting' | 'playing' | 'recording';

interface Transport {
  state: RollState;
  /** Where it stands, or where rolling began; samples. */
  position: number;
  misses: number;
  /** Findings that keep recording from starting, until mended or overridden. */
  asked: Check[] | null;
}

export const useTransport = create<Transport>(() => ({ state: 'stopped', position: 0, misses: 0, asked: null }));
const { getState: get, setState: set } = useTransport;

let rolled = 0;
let rolledAt = 0;
/** Played past the last clip for this long, rolling ends by itself (s). */
const RUN_OUT = 2;

listeners.meters.add((frame) => {
  if (frame.rolled < 0 || get().state === 'starting') return;
  rolled = frame.rolled;
  rolledAt = performance.now();
  if (frame.misses !== get().misses) set({ misses: frame.misses });
  const { doc } = useSession.getState();
  if (
    get().state === 'playing' &&
    doc &&
    position() > Math.max(endOf(doc), doc.range.end) + RUN_OUT * doc.format.sampleRate
  )
    stop();
});
listeners.stopped.add((frames) => endTakes(frames));
listeners.reshaped.add(() => {
  if (get().state !== 'stopped') stop();
});
setLineSources(() =>
  useDevices
    .getState()
    .list.flatMap((d) =>
      d.slot < 0 ? [] : d.lines.map((_, channel) => ({ line: lineId(d.id, channel), slot: d.slot, channel })),
    ),
);

/** The sample that is heard now. */
export function position(): number {
  const { state, position: from } = get();
  if (state === 'stopped' || state === 'starting') return from;
  const rate = useSession.getState().doc?.format.sampleRate ?? 48000;
  const since = rolled > 0 ? Math.min(0.1, (performance.now() - rolledAt) / 1000) : 0;
  return from + rolled + Math.round(since * rate);
}

export function locate(sample: number): void {
  const rollingNow = get().state === 'playing';
  if (get().state === 'recording') return;
  if (rollingNow) stop();
  set({ position: Math.max(0, Math.round(sample)) });
  if (rollingNow) void play();
}

export async function play(): Promise<void> {
  if (get().state !== 'stopped') return;
  await roll('playing');
}

async function roll(kind: 'playing' | 'recording'): Promise<void> {
  set({ state: 'starting', misses: 0 });
  rolled = 0;
  try {
    const player = await ensurePlayer();
    await settled();
    const { id, doc } = useSession.getState();
    const armed = kind === 'recording' ? doc!.tracks.filter((t) => t.armed && t.inputs.every((l) => l !== null)) : [];
    setRolling(kind);
    const at = get().position;
    const taps = armed.length ? beginTakes(id!, doc!, armed, at) : [];
    // A track that is recorded is not heard from disk at the same time.
    const tracks = doc!.tracks.map((t) => (armed.includes(t) ? { ...t, clips: [] } : t));
    await player.roll(id!, tracks, at, taps);
    if (get().state === 'starting') set({ state: kind });
    else player.stop();
  } catch (error) {
    set({ state: 'stopped' });
    setRolling('no');
    toast.error(`Sound could not start: ${(error as Error).message}`);
  }
}

export function stop(): void {
  const was = get().state;
  if (was === 'stopped') return;
  const at = position();
  playerNow()?.stop();
  set({ state: 'stopped', position: was === 'recording' ? get().position : at });
  setRolling('no');
}

export const toggle = (): void => (get().state === 'stopped' ? void play() : stop());

// A take without its device would go on as silence: it ends where the sound ended.
listeners.vanished.add((device, name) => {
  const { doc } = useSession.getState();
  const hit = doc?.tracks.filter((t) => t.armed && t.inputs.some((l) => l?.startsWith(`${device}/`))) ?? [];
  if (get().state === 'recording' && hit.length > 0) {
    stop();
    toast.error(
      `${name} went away while recording. ${hit.map((t) => t.name).join(', ')}: everything until then is kept as a take.`,
      { duration: 12_000 },
    );
  } else toast.warning(`${name} went away. Its patches are kept and made again when it is back.`);
});

/** Levels of the open lines, for the roll check. */
export function live(): Live {
  const lines = new Map<string, number>();
  const on = useDevices.getState().list.filter((d) => d.slot >= 0);
  for (const d of on)
    d.lines.forEach((_, channel) => lines.set(lineId(d.id, channel), recentLevel(`device/${d.slot}/${channel}`)));
  const networks = on.flatMap((d) => (d.network ? [networkFacts(d, d.network)] : []));
  const rates = new Map(on.flatMap((d) => (d.sampleRate ? [[d.id, d.sampleRate] as const] : [])));
  const { diskFree } = useDisk.getState();
  return { lines, heard: useListening.getState().heard, networks, rates, ...(diskFree === null ? {} : { diskFree }) };
}

/** Records on all armed tracks, after the roll check; `knowingly` passes it by. */
export async function record(knowingly = false): Promise<void> {
  if (get().state !== 'stopped') {
    stop();
    return;
  }
  const { doc } = useSession.getState();
  if (!doc) return;
  await ensurePlayer();
  const found = beforeRecording(doc, live());
  const grave = found.filter((c) => c.grade !== 'note');
  if (grave.length && !knowingly) {
    set({ asked: found });
    return;
  }
  set({ asked: null });
  if (!doc.tracks.some((t) => t.armed && t.inputs.every((l) => l !== null))) {
    toast.error('No armed track is patched, so there is nothing to record.');
    return;
  }
  await roll('recording');
}

export const dismissAsked = (): void => set({ asked: null });

export function arm(track: string): void {
  const t = useSession.getState().doc?.tracks.find((x) => x.id === track);
  if (t) edit({ type: 'setTrack', track, armed: !t.armed });
}
