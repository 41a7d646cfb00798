import mitt from 'mitt';
import { toast } from 'sonner';
import { createStore } from 'zustand/vanilla';
import type { MeterFrame, Player } from '@/audio';
import { beforeRecording, type Check, type Live } from '@/core/checks';
import { auditionsFor } from '@/core/engine';
import {
  endOf,
  isLineOf,
  orderedMedia,
  recordPlan,
  rollBackPlan,
  rolledTo,
  type RecordMode,
  type RecordPlan,
} from '@/core/session';
import type { SessionAccess } from './access';
import type { Devices } from './devices';
import type { Engine } from './engine';
import type { Marks } from './marks';
import type { Outside } from './outside';
import { recordable, standbyTaps, type HandPunch, type Recorded, type Recording } from './recording';
import type { Takes } from './takes';

export type RollState = 'stopped' | 'starting' | 'playing' | 'recording';

export interface TransportState {
  state: RollState;
  /** Where it stands, or where rolling began; samples. */
  position: number;
  misses: number;
  /** Findings that keep recording from starting, until mended or overridden. */
  asked: Check[] | null;
  /** What a press of record means. */
  mode: RecordMode;
  /** What is being recorded; null while nothing is. */
  plan: RecordPlan | null;
}

/** Played past the last clip for this long, rolling ends by itself (s). */
const RUN_OUT = 2;
/** An engine that was closed meanwhile tells nothing any more (ms). */
const ENDS_WITHIN = 1000;
/** A performer does not wait longer for a server that does not answer (ms). */
const SERVER_ANSWERS_WITHIN = 1500;

/** What the transport works with. */
export interface TransportParts {
  session: SessionAccess;
  engine: Engine;
  devices: Devices;
  takes: Takes;
  recording: Recording;
  marks: Marks;
  outside: Outside;
}

/** Plays, records, stops and locates. */
export class Transport {
  readonly state = createStore<TransportState>(() => ({
    state: 'stopped',
    position: 0,
    misses: 0,
    asked: null,
    mode: 'free',
    plan: null,
  }));
  /** The roll stopped. */
  readonly events = mitt<{ rolled: undefined }>();
  private rolledFrames = 0;
  private rolledAt = 0;
  /** Frame of the sound's clock at `rolledFrames`. */
  private rolledFrame = 0;
  /** Where rolling really began (before the position when something leads in), and where it goes round. */
  private rolledFrom = 0;
  private loop: { start: number; end: number } | null = null;
  private punch: HandPunch | null = null;
  /** What was passed by knowingly, for as long as one goes back from mistakes and on. */
  private passedBy: string[] = [];
  /** Where playing comes to an end of its own, and what happens then. */
  private until: { at: number; then: () => void } | null = null;
  /** Place that sounded when recording was ended by hand. */
  private pressedOut = 0;
  /** What must be ended with the roll. */
  private ends: (() => void)[] = [];
  /** Until the engine has told where the roll before ended: that end is not one of the next roll's takes. */
  private ending: Promise<void> = Promise.resolve();
  private ended = () => {};

  constructor(private readonly parts: TransportParts) {
    const { engine, devices, takes } = parts;
    engine.events.on('started', (player) => player.place(this.get().position));
    engine.events.on('meters', (frame) => this.follow(frame));
    engine.events.on('stopped', ({ rolled }) => {
      takes.end(rolled);
      this.ended();
    });
    engine.events.on('punched', ({ way, at, before }) => {
      if (way === 'in') this.punch?.began(at, before);
      else takes.endByHand(at, this.pressedOut);
    });
    engine.events.on('loaded', ({ doc, rolled }) => takes.noteChains(doc, rolled));
    engine.events.on('reshaped', () => this.stop());
    engine.events.on('thawed', () => this.locate(this.position()));
    devices.events.on('vanished', ({ device, name }) => this.lose(device, name));
    // What follows the timeline is heard as it is where the playhead stands.
    this.state.subscribe((now, before) => {
      if (now.state === 'stopped' && (now.position !== before.position || before.state !== 'stopped'))
        engine.player?.place(now.position);
    });
  }

  private get(): TransportState {
    return this.state.getState();
  }

  private set(part: Partial<TransportState>): void {
    this.state.setState(part);
  }

  private follow(frame: MeterFrame): void {
    if (frame.rolled < 0 || this.get().state === 'starting') return;
    this.rolledFrames = frame.rolled;
    this.rolledAt = performance.now();
    this.rolledFrame = frame.at;
    if (frame.misses !== this.get().misses) this.set({ misses: frame.misses });
    const { doc } = this.parts.session.getState();
    if (!doc) return;
    const { state, plan } = this.get();
    const done =
      plan?.end != null
        ? this.rolledFrames >= plan.end - plan.from
        : state === 'playing' &&
          !this.loop &&
          this.position() > Math.max(endOf(doc), doc.range.end) + RUN_OUT * doc.format.sampleRate;
    if (done) this.stop();
    else if (this.until && state === 'playing' && this.position() >= this.until.at) {
      const { then } = this.until;
      this.until = null;
      then();
    }
  }

  /** The sample that is heard now. */
  position(): number {
    const { state, position: from } = this.get();
    if (state === 'stopped' || state === 'starting') return from;
    const rate = this.parts.session.getState().doc?.format.sampleRate ?? 48_000;
    if (this.rolledFrames <= 0) return rolledTo(this.rolledFrom, 0, this.loop);
    // What has been computed waits in buffers before it is heard.
    const heard = this.parts.engine.player?.heardFrame() ?? null;
    const since = heard === null ? ((performance.now() - this.rolledAt) / 1000) * rate : heard - this.rolledFrame;
    const now = this.rolledFrames + Math.max(-rate, Math.min(rate / 10, since));
    return rolledTo(this.rolledFrom, Math.max(0, Math.round(now)), this.loop);
  }

  /** The sample that the engine makes now: ahead of the ears by what waits in buffers. */
  ahead(): number {
    const { state, position } = this.get();
    if (state === 'stopped' || state === 'starting') return position;
    const rate = this.parts.session.getState().doc?.format.sampleRate ?? 48_000;
    const since = Math.min(0.1, (performance.now() - this.rolledAt) / 1000) * rate;
    return this.sampleOf(this.rolledFrames > 0 ? this.rolledFrames + since : 0);
  }

  /** The sample of the timeline that stands at a frame of the roll. */
  sampleOf(rolled: number): number {
    return rolledTo(this.rolledFrom, Math.max(0, Math.round(rolled)), this.loop);
  }

  locate(sample: number): void {
    const { state } = this.get();
    if (state === 'recording') return;
    if (state === 'playing') this.stop();
    this.set({ position: Math.max(0, Math.round(sample)) });
    if (state === 'playing') void this.play();
  }

  setMode(mode: RecordMode): void {
    this.set({ mode });
  }

  async play(): Promise<void> {
    const { state, position: from } = this.get();
    if (state !== 'stopped') return;
    await this.roll({ from, in: from, out: null, end: null, loop: false, cue: null, beeps: [] });
  }

  /** Plays a stretch from its start: once, and back to where the playhead stood; or round and round until it is stopped. */
  async playStretch({ start, end }: { start: number; end: number }, round = false): Promise<void> {
    if (this.get().state === 'recording') return;
    this.stop();
    const back = this.get().position;
    this.set({ position: start });
    if (!round)
      this.until = {
        at: end,
        then: () => {
          this.stop();
          this.set({ position: back });
        },
      };
    const { until } = this;
    await this.roll({ from: start, in: start, out: end, end: null, loop: round, cue: null, beeps: [] });
    // A roll that could not begin leaves the playhead where it was.
    if (this.get().state === 'stopped' && this.until === until) {
      this.until = null;
      this.set({ position: back });
    }
  }

  /** What plays does something where it comes to a place, if it is not stopped before. */
  at(place: number, then: () => void): void {
    this.until = { at: place, then };
  }

  /** Rolls a plan; with `passedBy`, the checks that were passed by knowingly, it is recorded. */
  private async roll(plan: RecordPlan, passedBy: string[] | null = null): Promise<void> {
    const { session, engine, takes, recording } = this.parts;
    const records = passedBy !== null;
    this.set({ state: 'starting', misses: 0 });
    this.rolledFrames = 0;
    try {
      const player = await engine.sound();
      const there = await session.settled(SERVER_ANSWERS_WITHIN);
      await this.ending;
      const { id, doc, online } = session.getState();
      if (records && (!there || !online))
        toast.warning(
          'The server is away. The take is kept in this browser and delivered when it is back; tracks may not be heard meanwhile.',
          { id: 'away', duration: 8000 },
        );
      const armed = records ? recordable(doc!) : [];
      const what: Recorded = { session: id!, doc: doc!, plan, armed, passedBy: passedBy ?? [] };
      engine.setRolling(records ? 'recording' : 'playing');
      this.rolledFrom = plan.from;
      this.loop = plan.loop ? { start: plan.in, end: plan.out! } : null;
      await player.roll({
        session: what.session,
        tracks: records ? recording.playedTracks(what) : engine.tracksHeard(what.doc),
        media: orderedMedia(what.doc),
        position: plan.from,
        taps: records ? recording.beginRound(what) : [],
        auditions: auditionsFor(what.doc, plan, records),
        loop: this.loop,
        unheard: records,
      });
      if (this.get().state !== 'starting') {
        player.stop();
        return;
      }
      this.set({ state: records ? 'recording' : 'playing', plan: records ? plan : null });
      if (records) this.ends = [recording.followRounds(what), recording.watchSilence(what.doc, what.armed)];
      else {
        this.ends = [this.keepStandby(player)];
        // Something may have been frozen or thawed while sound was on its way.
        if (engine.isThawed()) this.locate(this.position());
      }
    } catch (error) {
      this.set({ state: 'stopped', plan: null });
      engine.setRolling('no');
      takes.end(0);
      toast.error(`Sound could not start: ${(error as Error).message}`);
    }
  }

  // Who may be recorded by hand follows what is armed and patched while playing.
  private keepStandby(player: Player): () => void {
    const { session } = this.parts;
    let told = '';
    const look = ({ doc }: ReturnType<SessionAccess['getState']>) => {
      if (!doc) return;
      const taps = standbyTaps(doc);
      if (JSON.stringify(taps) === told) return;
      told = JSON.stringify(taps);
      player.standBy(taps);
    };
    look(session.getState());
    return session.subscribe(look);
  }

  stop(): void {
    const { engine, takes } = this.parts;
    const { state: was, plan } = this.get();
    if (was === 'stopped') return;
    this.until = null;
    const at = this.position();
    // Stopped before it rolled: what was laid out never began, and the engine will not say so.
    if (was === 'starting') takes.end(0);
    else
      this.ending = Promise.race([
        new Promise<void>((resolve) => (this.ended = resolve)),
        new Promise<void>((resolve) => setTimeout(resolve, ENDS_WITHIN)),
      ]);
    engine.player?.stop();
    this.ends.forEach((end) => end());
    this.ends = [];
    this.punch = null;
    // After a take the playhead stands where it began, ready for the next or for listening.
    this.set({ state: 'stopped', plan: null, position: Math.max(0, was === 'recording' ? (plan?.in ?? at) : at) });
    engine.setRolling('no');
    this.events.emit('rolled');
  }

  toggle(): void {
    if (this.get().state === 'stopped') void this.play();
    else this.stop();
  }

  // A take without its device would go on as silence: it ends where the sound ended.
  private lose(device: string, name: string): void {
    const { doc } = this.parts.session.getState();
    const hit = doc?.tracks.filter((t) => t.armed && t.inputs.some((l) => isLineOf(device, l))) ?? [];
    if (this.get().state === 'recording' && hit.length > 0) {
      this.stop();
      toast.error(
        `${name} went away while recording. ${hit.map((t) => t.name).join(', ')}: everything until then is kept as a take.`,
        { duration: 12_000 },
      );
    } else toast.warning(`${name} went away. Its patches are kept and made again when it is back.`);
  }

  /** What the present mode would record; null with a word to the user when something is missing for it. */
  private planned(): RecordPlan | null {
    const { session, marks } = this.parts;
    const { mode, position: at } = this.get();
    const { stretch } = marks.stretch.getState();
    const cue = marks.chosenCue(at);
    if (mode === 'cue' && !cue) {
      toast.error('There is no cue to record. Bring in a script, or choose another way to record.');
      return null;
    }
    if ((mode === 'range' || mode === 'loop') && !stretch) {
      toast.error('Choose a stretch first: drag along the ruler, or take that of the cue (U).');
      return null;
    }
    const range = stretch ?? { start: at, end: at };
    return recordPlan(session.getState().doc!, { mode, position: at, range, cue });
  }

  /**
   * The record key: recording as the mode says, after the roll check (`knowingly` passes it by); while playing, in by
   * hand; while recording, an end to it.
   */
  async record(knowingly = false): Promise<void> {
    if (this.get().state === 'recording') {
      if (this.punch) this.punchOut();
      else this.stop();
      return;
    }
    const { session, engine, outside } = this.parts;
    const { doc } = session.getState();
    if (!doc || this.get().state === 'starting') return;
    await engine.sound();
    const found = beforeRecording(doc, this.facing());
    const grave = found.filter((c) => c.grade !== 'note');
    if (grave.length && !knowingly) {
      // A roll that runs goes on: the performer hears no gap while the question stands.
      this.set({ asked: found });
      return;
    }
    this.dismissAsked();
    if (recordable(doc).length === 0) {
      toast.error('No armed track is patched, so there is nothing to record.');
      return;
    }
    const passedBy = grave.map((c) => c.id);
    outside.pass(passedBy);
    this.passedBy = passedBy;
    if (this.get().state === 'playing') this.punchIn(passedBy);
    else {
      const plan = this.planned();
      if (plan) await this.roll(plan, passedBy);
    }
  }

  /** What is known of the outside, and which cue the record key records. */
  facing(): Live {
    const { outside, marks } = this.parts;
    const { mode, position } = this.get();
    const cue = mode === 'cue' ? marks.chosenCue(position)?.id : undefined;
    return { ...outside.live(), ...(cue === undefined ? {} : { cue }) };
  }

  private punchIn(passedBy: string[]): void {
    const { session, engine, recording } = this.parts;
    const { id, doc } = session.getState();
    const at = this.position();
    const plan: RecordPlan = { from: this.rolledFrom, in: at, out: null, end: null, loop: false, cue: null, beeps: [] };
    const what: Recorded = { session: id!, doc: doc!, plan, armed: recordable(doc!), passedBy };
    this.punch = recording.punch(what);
    // What is about to be replaced is not heard from disk any more.
    engine.player?.refresh(recording.playedTracks(what), orderedMedia(doc!));
    this.set({ state: 'recording', plan });
    engine.setRolling('recording');
    this.ends.push(recording.watchSilence(doc!, what.armed));
  }

  private punchOut(): void {
    const { session, engine } = this.parts;
    this.pressedOut = this.position();
    engine.player?.punchOut();
    engine.refresh(session.getState().doc!);
    this.punch = null;
    // What is held back for the next time goes on.
    this.ends.splice(1).forEach((end) => end());
    this.set({ state: 'playing', plan: null });
    engine.setRolling('playing');
  }

  /** After a mistake: ends the take, goes back a little, and records on from there after a pre-roll. */
  async rollBack(): Promise<void> {
    const { doc } = this.parts.session.getState();
    const { state, plan } = this.get();
    if (!doc || state !== 'recording' || !plan) return;
    const next = rollBackPlan(doc, this.position(), plan.in);
    this.stop();
    await this.roll({ ...next, cue: plan.cue }, this.passedBy);
  }

  dismissAsked(): void {
    this.set({ asked: null });
  }

  /** The session is left: what rolls ends, and a take with it. Resolves when the engine has told where. */
  async close(): Promise<void> {
    if (this.get().state === 'recording')
      toast.warning('The session was left while it recorded. The take ends there and is kept.', { duration: 12_000 });
    this.stop();
    await this.ending;
    // An engine that told nothing: what was begun must not stay open.
    this.parts.takes.end(Math.max(0, this.rolledFrames));
  }
}
