import { toast } from 'sonner';
import { beforeRecording, type Live } from '@/core/checks';
import { auditionsFor } from '@/core/engine';
import type { Player } from '@/audio';
import {
  endOf,
  lineId,
  recordPlan,
  rollBackPlan,
  rolledTo,
  type RecordMode,
  type RecordPlan,
  type SessionDoc,
} from '@/core/session';
import { chosenCue } from './cues';
import { networkFacts, useDevices } from './devices';
import { useDisk } from './disk';
import { ensurePlayer, isThawed, listeners, playerNow, setLineSources, setRolling, tracksHeard } from './engine';
import { useListening } from './listening';
import { recentLevel } from './meters';
import {
  beginRound,
  followRounds,
  HandPunch,
  playedTracks,
  recordable,
  standbyTaps,
  watchSilence,
  type Recorded,
} from './recording';
import { edit, settled, useSession } from './session';
import { useStretch } from './stretch';
import { endByHand, endTakes, noteChains } from './takes';
import { useTransport } from './transportState';
import { forgetConsent, guardRecording } from './whileRecording';

const { getState: get, setState: set } = useTransport;
guardRecording(() => get().state);

let rolled = 0;
let rolledAt = 0;
/** Frame of the sound's clock at `rolled`. */
let rolledFrame = 0;
/** Played past the last clip for this long, rolling ends by itself (s). */
const RUN_OUT = 2;
/** Where rolling really began (before the position when something leads in), and where it goes round. */
let rolledFrom = 0;
let loop: { start: number; end: number } | null = null;
let punch: HandPunch | null = null;
/** Place that sounded when recording was ended by hand. */
let pressedOut = 0;
/** What must be ended with the roll. */
let ends: (() => void)[] = [];

listeners.meters.add((frame) => {
  if (frame.rolled < 0 || get().state === 'starting') return;
  rolled = frame.rolled;
  rolledAt = performance.now();
  rolledFrame = frame.at;
  if (frame.misses !== get().misses) set({ misses: frame.misses });
  const { doc } = useSession.getState();
  if (!doc) return;
  const { state, plan } = get();
  const done =
    plan?.end != null
      ? rolled >= plan.end - plan.from
      : state === 'playing' &&
        !loop &&
        position() > Math.max(endOf(doc), doc.range.end) + RUN_OUT * doc.format.sampleRate;
  if (done) stop();
});
/** Until the engine has told where the roll before ended: that end is not one of the next roll's takes. */
let ending: Promise<void> = Promise.resolve();
let ended = () => {};
/** An engine that was closed meanwhile tells nothing any more (ms). */
const ENDS_WITHIN = 1000;
/** A performer does not wait longer for a server that does not answer (ms). */
const SERVER_ANSWERS_WITHIN = 1500;
listeners.stopped.add((frames) => {
  endTakes(frames);
  ended();
});
listeners.punched.add((way, at, before) => {
  if (way === 'in') punch?.began(at, before);
  else endByHand(at, pressedOut);
});
listeners.loaded.add(noteChains);
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
  if (rolled <= 0) return rolledTo(rolledFrom, 0, loop);
  // What has been computed waits in buffers before it is heard.
  const heard = playerNow()?.heardFrame();
  const since = heard == null ? ((performance.now() - rolledAt) / 1000) * rate : heard - rolledFrame;
  const now = rolled + Math.max(-rate, Math.min(rate / 10, since));
  return rolledTo(rolledFrom, Math.max(0, Math.round(now)), loop);
}

// What follows the timeline is heard as it is where the playhead stands.
useTransport.subscribe((now, before) => {
  if (now.state === 'stopped' && (now.position !== before.position || before.state !== 'stopped'))
    playerNow()?.place(now.position);
});

export function locate(sample: number): void {
  const rollingNow = get().state === 'playing';
  if (get().state === 'recording') return;
  if (rollingNow) stop();
  set({ position: Math.max(0, Math.round(sample)) });
  if (rollingNow) void play();
}

listeners.thawed.add(() => locate(position()));

export const setMode = (mode: RecordMode): void => set({ mode });

export async function play(): Promise<void> {
  if (get().state !== 'stopped') return;
  const from = get().position;
  await roll({ from, in: from, out: null, end: null, loop: false, cue: null, beeps: [] });
}

/** Rolls a plan; with `knowingly`, the checks that were passed by, it is recorded. */
async function roll(plan: RecordPlan, passedBy: string[] | null = null): Promise<void> {
  const recording = passedBy !== null;
  set({ state: 'starting', misses: 0 });
  rolled = 0;
  try {
    const player = await ensurePlayer();
    const there = await settled(SERVER_ANSWERS_WITHIN);
    await ending;
    if (recording && (!there || !useSession.getState().online))
      toast.warning(
        'The server is away. The take is kept in this browser and delivered when it is back; tracks may not be heard meanwhile.',
        { id: 'away', duration: 8000 },
      );
    const { id, doc } = useSession.getState();
    const what: Recorded = {
      session: id!,
      doc: doc!,
      plan,
      armed: recording ? recordable(doc!) : [],
      passedBy: passedBy ?? [],
    };
    setRolling(recording ? 'recording' : 'playing');
    rolledFrom = plan.from;
    loop = plan.loop ? { start: plan.in, end: plan.out! } : null;
    await player.roll({
      session: what.session,
      tracks: recording ? playedTracks(what) : tracksHeard(what.doc),
      position: plan.from,
      taps: recording ? beginRound(what) : [],
      auditions: auditionsFor(what.doc, plan, recording),
      loop,
      unheard: recording,
    });
    if (get().state !== 'starting') {
      player.stop();
      return;
    }
    set({ state: recording ? 'recording' : 'playing', plan: recording ? plan : null });
    if (recording) ends = [followRounds(what), watchSilence(what.doc, what.armed)];
    else {
      ends = [keepStandby(player)];
      // Something may have been frozen or thawed while sound was on its way.
      if (isThawed()) locate(position());
    }
  } catch (error) {
    set({ state: 'stopped', plan: null });
    setRolling('no');
    endTakes(0);
    toast.error(`Sound could not start: ${(error as Error).message}`);
  }
}

// Who may be recorded by hand follows what is armed and patched while playing.
function keepStandby(player: Player): () => void {
  let told = '';
  const look = ({ doc }: { doc: SessionDoc | null }) => {
    if (!doc) return;
    const taps = standbyTaps(doc);
    if (JSON.stringify(taps) === told) return;
    told = JSON.stringify(taps);
    player.standBy(taps);
  };
  look(useSession.getState());
  return useSession.subscribe(look);
}

export function stop(): void {
  const was = get().state;
  if (was === 'stopped') return;
  const at = position();
  // Stopped before it rolled: what was laid out never began, and the engine will not say so.
  if (was === 'starting') endTakes(0);
  else
    ending = Promise.race([
      new Promise<void>((resolve) => (ended = resolve)),
      new Promise<void>((resolve) => setTimeout(resolve, ENDS_WITHIN)),
    ]);
  playerNow()?.stop();
  ends.forEach((end) => end());
  ends = [];
  punch = null;
  // After a take the playhead stands where it began, ready for the next or for listening.
  set({ state: 'stopped', plan: null, position: Math.max(0, was === 'recording' ? (get().plan?.in ?? at) : at) });
  setRolling('no');
  forgetConsent();
  listeners.rolled.forEach((l) => l());
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

/** Levels of the open lines and what else is known of the outside, for the checks. */
export function live(): Live {
  const lines = new Map<string, number>();
  const on = useDevices.getState().list.filter((d) => d.slot >= 0);
  for (const d of on)
    d.lines.forEach((_, channel) => lines.set(lineId(d.id, channel), recentLevel(`device/${d.slot}/${channel}`)));
  const networks = on.flatMap((d) => (d.network ? [networkFacts(d, d.network)] : []));
  const rates = new Map(on.flatMap((d) => (d.sampleRate ? [[d.id, d.sampleRate] as const] : [])));
  const { diskFree, missing } = useDisk.getState();
  return {
    lines,
    heard: useListening.getState().heard,
    swapped: useListening.getState().swapped,
    networks,
    rates,
    ...(diskFree === null ? {} : { diskFree }),
    missing,
  };
}

/** What the present mode would record; null with a word to the user when something is missing for it. */
function planned(): RecordPlan | null {
  const { doc } = useSession.getState();
  const { mode, position: at } = get();
  const { stretch } = useStretch.getState();
  const cue = chosenCue();
  if (mode === 'cue' && !cue) {
    toast.error('There is no cue to record. Bring in a script, or choose another way to record.');
    return null;
  }
  if ((mode === 'range' || mode === 'loop') && !stretch) {
    toast.error('Choose a stretch first: drag along the ruler, or take that of the cue (U).');
    return null;
  }
  return recordPlan(doc!, { mode, position: at, range: stretch ?? { start: at, end: at }, cue });
}

/**
 * The record key: recording as the mode says, after the roll check (`knowingly` passes it by); while playing, in by
 * hand; while recording, an end to it.
 */
export async function record(knowingly = false): Promise<void> {
  if (get().state === 'recording') {
    if (punch) punchOut();
    else stop();
    return;
  }
  const { doc } = useSession.getState();
  if (!doc || get().state === 'starting') return;
  await ensurePlayer();
  const found = beforeRecording(doc, live());
  const grave = found.filter((c) => c.grade !== 'note');
  if (grave.length && !knowingly) {
    // A roll that runs goes on: the performer hears no gap while the question stands.
    set({ asked: found });
    return;
  }
  set({ asked: null });
  if (recordable(doc).length === 0) {
    toast.error('No armed track is patched, so there is nothing to record.');
    return;
  }
  const passedBy = grave.map((c) => c.id);
  if (get().state === 'playing') punchIn(passedBy);
  else {
    const plan = planned();
    if (plan) await roll(plan, passedBy);
  }
}

function punchIn(passedBy: string[]): void {
  const { id, doc } = useSession.getState();
  const at = position();
  const plan: RecordPlan = { from: rolledFrom, in: at, out: null, end: null, loop: false, cue: null, beeps: [] };
  const what: Recorded = { session: id!, doc: doc!, plan, armed: recordable(doc!), passedBy };
  punch = new HandPunch(what);
  punch.begin();
  // What is about to be replaced is not heard from disk any more.
  playerNow()?.refresh(playedTracks(what));
  set({ state: 'recording', plan });
  setRolling('recording');
  ends.push(watchSilence(doc!, what.armed));
}

function punchOut(): void {
  pressedOut = position();
  playerNow()?.punchOut();
  playerNow()?.refresh(tracksHeard(useSession.getState().doc!));
  punch = null;
  // What is held back for the next time goes on.
  ends.splice(1).forEach((end) => end());
  set({ state: 'playing', plan: null });
  setRolling('playing');
}

/** After a mistake: ends the take, goes back a little, and records on from there after a pre-roll. */
export async function rollBack(): Promise<void> {
  const { doc } = useSession.getState();
  const { state, plan } = get();
  if (!doc || state !== 'recording' || !plan) return;
  const next = rollBackPlan(doc, position(), plan.in);
  stop();
  await roll({ ...next, cue: plan.cue }, []);
}

export const dismissAsked = (): void => set({ asked: null });

export function arm(track: string): void {
  const t = useSession.getState().doc?.tracks.find((x) => x.id === track);
  if (t) edit({ type: 'seatTrack', track, armed: !t.armed });
}
