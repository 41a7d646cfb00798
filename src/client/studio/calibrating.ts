import { createStore } from 'zustand/vanilla';
import { SoundLevelMeter } from '@/core/acoustics';
import { ChannelSet } from '@/core/kernels';
import {
  arrivalOf,
  bandOf,
  delaysByDistance,
  delaysFor,
  foundIn,
  MIC_PLACES,
  micAt,
  setSpeaker,
  trimFor,
  wantedOf,
  type Bursts,
  type Calibration,
  type Found,
  type MeterWeighting,
  type MicPlace,
  type Reading,
  type Room,
} from '@/core/rooms';
import { generator, type SignalKind } from '@/core/signals';
import { layoutOf } from '@/core/speakers';
import { MIC_FULL_SCALE_SPL, ROOM_STANDIN, type RoomFaults } from '@/standins';
import type { Engine } from './engine';
import type { InRoom } from './inRoom';
import { MeasuringMic } from './measuringMic';

/** What a calibration aims at. */
export interface Aim {
  /** dB SPL (C) of one front speaker for noise of `noise` dBFS; surrounds softer by `surround` dB. */
  level: number;
  noise: number;
  surround: number;
  /** How the meter is set. */
  weighting: MeterWeighting;
}

/** What listens: a line of an input device, and what its full scale stands for. */
export interface Ear {
  device: string;
  /** From 0. */
  line: number;
  /** dB SPL of its full scale; null: nobody said yet. */
  fullScale: number | null;
}

/** The measuring microphone of the simulated room. */
const OWN_EAR: Ear = { device: ROOM_STANDIN, line: 0, fullScale: MIC_FULL_SCALE_SPL };

export type Step =
  /** `speaker`: index of the one that sounds, or null. */
  | { kind: 'none' }
  | { kind: 'looking'; speaker: number }
  | { kind: 'reading'; speaker: number }
  | { kind: 'hand'; speaker: number };

interface CalibrationState {
  aim: Aim;
  ear: Ear;
  step: Step;
  /** The room as it is being set; null: nothing was begun. */
  draft: Room | null;
  found: Found[];
  /** By label: dB SPL when first and when last read. */
  read: Readonly<Record<string, { before: number; after: number | null }>>;
  /** Everything that was found on the way, for the sheet. */
  told: string[];
}

/** A reading is taken over so many seconds, after the meter has settled. */
const SETTLE = 0.3;
const READ = { full: 1, lfe: 2 } as const;
/** Sweeps that are looked for: wide for most, low for an LFE. */
const SWEEP: Record<'full' | 'lfe', SignalKind & { kind: 'sweep' }> = {
  full: { kind: 'sweep', level: -20, from: 200, to: 8000, seconds: 0.1 },
  lfe: { kind: 'sweep', level: -20, from: 25, to: 140, seconds: 0.4 },
};
/** dB within which a speaker is as it should be without another trim. */
const NEAR = 0.1;
/** An answer is waited for so long (s), beside what the output tells of its own delay, out and in again: thirty metres. */
const ANSWER = 0.15;
/** What a microphone that hears nothing gives stays below (dB against full scale). */
const SILENT = -90;

const START: Omit<CalibrationState, 'aim' | 'ear'> = {
  step: { kind: 'none' },
  draft: null,
  found: [],
  read: {},
  told: [],
};

/** A guided calibration: it sounds the speakers one by one, reads or is told what a meter shows, and sets the room. */
export class Calibrating {
  readonly state = createStore<CalibrationState>(() => ({
    ...START,
    aim: { level: 79, noise: -20, surround: 0, weighting: 'C' },
    ear: OWN_EAR,
  }));
  readonly mic: MeasuringMic;
  private turn = 0;
  private bursts: (Bursts | null)[] = [];

  constructor(
    private readonly engine: Engine,
    private readonly inRoom: InRoom,
  ) {
    this.mic = new MeasuringMic(engine);
  }

  private set(part: Partial<CalibrationState>): void {
    this.state.setState(part);
    if (part.draft !== undefined) this.inRoom.preview(part.draft);
  }

  aim(part: Partial<Aim>): void {
    const aim = { ...this.state.getState().aim, ...part };
    this.mic.weigh(aim.weighting);
    this.set({ aim });
  }

  /** Whether a microphone listens by itself: that of the simulated room, or the one that was chosen. */
  get measures(): boolean {
    if (!this.inRoom.state.getState().sounds) return false;
    return this.own ? this.inRoom.room?.output === ROOM_STANDIN : true;
  }

  private get own(): boolean {
    return this.state.getState().ear === OWN_EAR;
  }

  /** The line that was chosen; null: the microphone of the simulated room. */
  get listensOn(): { device: string; line: number } | null {
    return this.own ? null : this.state.getState().ear;
  }

  /** Measures with a line of an input device from now on; null: with the microphone of the simulated room. */
  listenOn(line: { device: string; line: number } | null): void {
    this.rest();
    this.set({ ear: line ? { ...line, fullScale: null } : OWN_EAR });
  }

  private hear(): void {
    const { device, line } = this.state.getState().ear;
    this.mic.begin(device, line);
  }

  /** What a sound level meter shows beside the microphone of the speaker that sounds: it is such a meter from here on. */
  async levelEar(spl: number): Promise<void> {
    const { step } = this.state.getState();
    if (step.kind !== 'hand') return;
    const { turn } = this;
    const level = await this.heardLevel(step.speaker);
    if (turn !== this.turn) return;
    if (level < SILENT)
      throw new Error('The microphone hears nothing of the speaker that sounds. Look at its line, then try again.');
    this.set({ ear: { ...this.state.getState().ear, fullScale: spl - level } });
  }

  private get fullScale(): number {
    const { fullScale } = this.state.getState().ear;
    if (fullScale === null)
      throw new Error(
        'Nobody said yet how loud this microphone hears. Sound one speaker, read a sound level meter beside it, and type what it shows.',
      );
    return fullScale;
  }

  private begin(): Room {
    const { draft } = this.state.getState();
    if (draft) return draft;
    const { room } = this.inRoom;
    if (!room || !this.inRoom.state.getState().sounds)
      throw new Error('No room sounds. Choose one under Ports and let its output sound, then calibrate.');
    this.set({ draft: room, found: [], read: {}, told: [] });
    return room;
  }

  /** What the meter shows, dB SPL; null where none listens. */
  get meter(): number | null {
    const level = this.mic.level;
    const { fullScale } = this.state.getState().ear;
    return level === null || fullScale === null ? null : level + fullScale;
  }

  private isLfe(room: Room, i: number): boolean {
    return layoutOf(room.layout).speakers[i]!.lfe;
  }

  /**
   * Sends bursts through every speaker and tells what is wrong. Only the microphone of the simulated room is moved for it:
   * without that it cannot be told which speakers are swapped.
   */
  async look(): Promise<void> {
    const turn = ++this.turn;
    const room = this.begin();
    const player = this.engine.player!;
    this.hear();
    const { own } = this;
    const all: Record<MicPlace, (Bursts['seat'] | undefined)[]> = { seat: [], front: [], left: [], up: [] };
    try {
      for (const place of own ? MIC_PLACES : (['seat'] as const)) {
        if (own) player.tellRoom(ROOM_STANDIN, { mic: [...micAt(place)] });
        for (const [i, s] of room.speakers.entries()) {
          if (turn !== this.turn) return;
          if (s.port === null || (this.isLfe(room, i) && place !== 'seat')) continue;
          this.set({ step: { kind: 'looking', speaker: i } });
          all[place][i] = await this.burst(room, i);
        }
      }
    } finally {
      if (own) player.tellRoom(ROOM_STANDIN, { mic: [0, 0, 0] });
      if (turn === this.turn) this.rest();
    }
    this.bursts = room.speakers.map((s, i): Bursts | null =>
      s.port === null
        ? null
        : { seat: all.seat[i] ?? null, front: all.front[i] ?? null, left: all.left[i] ?? null, up: all.up[i] ?? null },
    );
    const found = foundIn(room, this.bursts, player.context.sampleRate);
    this.set({ found, told: [...new Set([...this.state.getState().told, ...found.map((f) => f.text)])] });
  }

  private async burst(room: Room, i: number): Promise<Bursts['seat']> {
    const { player, kernels } = this.engine;
    const rate = player!.context.sampleRate;
    const signal = SWEEP[this.isLfe(room, i) ? 'lfe' : 'full'];
    const frames = Math.round(signal.seconds * rate);
    const at = await player!.test({ parts: [{ channel: i, signal }], frames, glides: false });
    const most = Math.round((ANSWER + 2 * player!.outputDelay) * rate);
    const heard = await this.mic.heard(at, frames + most);
    return arrivalOf(kernels!, this.sent(signal, frames), heard, most);
  }

  private sent(signal: SignalKind, frames: number): Float32Array {
    const k = this.engine.kernels!;
    const set = new ChannelSet(k, 1, frames);
    set.clear(frames);
    const made = generator(k, this.engine.player!.context.sampleRate, signal);
    made.run(set.at(0), frames);
    const samples = set.view(0, frames).slice();
    made.free();
    set.free();
    return samples;
  }

  /** Mends one thing that was found, in what is being set. */
  mend(found: Found): void {
    if (!found.mended) return;
    const now = this.begin();
    const mended = new Map(found.mended.speakers.map((s) => [s.label, s]));
    // Only what it names: other things may have been set since.
    const draft = found.speakers.reduce((room, label) => {
      const { port, inverted, distance } = mended.get(label)!;
      return setSpeaker(room, label, { port, inverted, distance });
    }, now);
    this.set({ draft, found: this.state.getState().found.filter((f) => f !== found) });
  }

  private noiseOf(room: Room, i: number): SignalKind {
    return { kind: 'pink', level: this.state.getState().aim.noise, band: bandOf(this.isLfe(room, i)) };
  }

  /** Sounds noise on one speaker, until the next or `rest`: to be read by hand. */
  hand(speaker: number): void {
    this.turn++;
    const room = this.begin();
    this.set({ step: { kind: 'hand', speaker } });
    if (this.measures) this.hear();
    void this.engine.player!.test({ parts: [{ channel: speaker, signal: this.noiseOf(room, speaker) }], glides: true });
  }

  /** What a meter shows of the speaker that sounds, typed or taken: it is trimmed by it. */
  tell(spl: number): void {
    const { step, read, aim } = this.state.getState();
    if (step.kind !== 'hand' && step.kind !== 'reading') return;
    const room = this.begin();
    const s = room.speakers[step.speaker]!;
    const wanted = wantedOf(room, aim.level, aim.surround, aim.weighting)[step.speaker]!;
    const known = read[s.label];
    const next = known ? { ...known, after: spl } : { before: spl, after: null };
    const trim = trimFor(s, spl, wanted);
    if (trim === null)
      throw new Error(
        `${s.label} reads ${spl.toFixed(1)} dB SPL; no trim brings it to ${wanted.toFixed(1)}. Turn it at the amplifier, then read again.`,
      );
    // Near enough is left alone: a meter wanders by so much.
    const near = Math.abs(spl - wanted) <= NEAR;
    this.set({
      read: { ...read, [s.label]: near ? { ...next, after: spl } : next },
      ...(near ? {} : { draft: setSpeaker(room, s.label, { trim }) }),
    });
  }

  /** Reads the speaker with the microphone, dB SPL; null when it was ended. */
  private async read(speaker: number, turn: number): Promise<number | null> {
    this.set({ step: { kind: 'reading', speaker } });
    const level = await this.heardLevel(speaker);
    return turn === this.turn ? level + this.fullScale : null;
  }

  /** How loud the microphone hears noise on a speaker: the mean over a second or two, weighted, dB against full scale. */
  private async heardLevel(speaker: number): Promise<number> {
    const room = this.begin();
    const { player } = this.engine;
    const rate = player!.context.sampleRate;
    const signal = this.noiseOf(room, speaker);
    const [settle, frames] = [SETTLE, READ[this.isLfe(room, speaker) ? 'lfe' : 'full']].map((s) =>
      Math.round(s * rate),
    ) as [number, number];
    const at = await player!.test({ parts: [{ channel: speaker, signal }], glides: true });
    const heard = await this.mic.heard(at, settle + frames);
    const meter = new SoundLevelMeter(rate, this.state.getState().aim.weighting);
    meter.run(heard.subarray(0, settle));
    meter.takeMean();
    meter.run(heard.subarray(settle));
    // A stretch of noise is a little louder or softer than noise is on the mean.
    const sent = this.sent(signal, settle + frames).subarray(settle);
    const own = 10 * Math.log10(sent.reduce((sum, x) => sum + x * x, 0) / sent.length);
    return meter.takeMean()! - (own - this.state.getState().aim.noise);
  }

  /** Reads and trims every speaker, reads it again, then brings all in time. Needs a microphone. */
  async all(): Promise<void> {
    const turn = ++this.turn;
    void this.fullScale;
    const { speakers } = this.begin();
    this.hear();
    const troubles: string[] = [];
    try {
      for (const [i, s] of speakers.entries()) {
        if (s.port === null || this.isDead(s.label)) continue;
        for (let round = 0; round < 2; round++) {
          const spl = await this.read(i, turn);
          if (spl === null) return;
          try {
            this.tell(spl);
          } catch (error) {
            troubles.push((error as Error).message);
            break;
          }
        }
      }
      await this.align(turn);
    } finally {
      if (turn === this.turn) this.rest();
    }
    if (troubles.length > 0) throw new Error(troubles.join(' '));
  }

  private isDead(label: string): boolean {
    return this.state.getState().found.some((f) => f.kind === 'dead' && f.speakers.includes(label));
  }

  private async align(turn: number): Promise<void> {
    const room = this.begin();
    const arrivals: (number | null)[] = [];
    for (const [i, s] of room.speakers.entries()) {
      if (turn !== this.turn) return;
      this.set({ step: { kind: 'looking', speaker: i } });
      arrivals[i] = s.port === null ? null : ((await this.burst(room, i))?.delay ?? null);
    }
    if (arrivals.every((a) => a === null)) return;
    this.delays(delaysFor(room, arrivals, this.engine.player!.context.sampleRate));
  }

  private delays(ms: readonly number[]): void {
    const room = this.begin();
    this.set({ draft: { ...room, speakers: room.speakers.map((s, i) => ({ ...s, delay: ms[i]! })) } });
  }

  /** Delays from the distances that are written down. */
  delayByDistance(): void {
    this.delays(delaysByDistance(this.begin()));
  }

  /** Ends what sounds; what was set stays. */
  rest(): void {
    this.turn++;
    this.set({ step: { kind: 'none' } });
    this.mic.stop();
    void this.engine.player?.test(null);
  }

  /** Lets go of everything that was set and not kept. */
  discard(): void {
    this.rest();
    this.set({ ...START });
  }

  /** The room as it was set, with its sheet; null where nothing was. */
  result(at: string): Room | null {
    const { draft, read, aim, told } = this.state.getState();
    if (!draft) return null;
    const wanted = wantedOf(draft, aim.level, aim.surround, aim.weighting);
    const readings = draft.speakers.map((s, i): Reading => ({
      ...{ label: s.label, wanted: Math.round(wanted[i]! * 10) / 10 },
      ...{ before: read[s.label]?.before ?? null, after: read[s.label]?.after ?? null },
    }));
    const { level, noise, weighting } = aim;
    const calibration: Calibration = { at, level, noise, weighting, readings, found: told };
    return { ...draft, calibration };
  }

  /** Sets what is wrong in the simulated room. */
  practise(faults: RoomFaults | null): void {
    this.engine.player?.tellRoom(ROOM_STANDIN, { faults });
  }

  close(): void {
    this.turn++;
    this.mic.stop();
  }
}
