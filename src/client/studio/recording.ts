import { toast } from 'sonner';
import type { RecordTap, StandbyTap } from '@/audio';
import { SIGNAL_FLOOR } from '@/core/checks';
import { compilePlan, EARS } from '@/core/engine';
import {
  channelOfLine,
  deviceOfLine,
  HANDLE_SECONDS,
  isLineOf,
  lineOf,
  playedOf,
  rolledTo,
  withoutStretch,
  type RecordPlan,
  type SessionDoc,
  type TakePurpose,
  type Track,
} from '@/core/session';
import { latencyOf } from '../latency';
import { deviceKey } from '../meterKeys';
import type { Devices } from './devices';
import type { Engine } from './engine';
import type { Levels } from './levels';
import { lateness, linesOf, prepareTake, type PreparedTake, type Takes } from './takes';

/** A round of a loop is laid out this long before it begins (s). */
const ROUND_AHEAD = 2;
/** A silent line is told this long after recording began (s). */
const SILENT_AFTER = 1;

export interface Recorded {
  session: string;
  doc: SessionDoc;
  plan: RecordPlan;
  armed: Track[];
  passedBy: string[];
}

/** Tracks that can be recorded: armed, and every channel patched. */
export const recordable = (doc: SessionDoc): Track[] =>
  doc.tracks.filter((t) => t.armed && t.inputs.every((l) => l !== null));

const purposeOf = ({ plan, passedBy }: Recorded): TakePurpose => ({
  ...(plan.cue ? { cue: plan.cue } : {}),
  ...(passedBy.length ? { passedBy } : {}),
});

const handle = (doc: SessionDoc): number => Math.round(HANDLE_SECONDS * doc.format.sampleRate);

/** Handles that are held back: one for the crossfade, one for the way from the ears over the key to the engine. */
const HELD_BACK = 2;

/** Tracks whose latest sound is held back while playing: a recording that begins by hand has some before its start. */
export const standbyTaps = (doc: SessionDoc): StandbyTap[] =>
  recordable(doc).map((track) => ({ ...linesOf(doc, track), frames: HELD_BACK * handle(doc) }));

/** What is recorded of a roll: its takes are laid out, round after round, and watched. */
export class Recording {
  constructor(
    private readonly engine: Engine,
    private readonly devices: Devices,
    private readonly takes: Takes,
    private readonly levels: Levels,
  ) {}

  /** Samples by which look-ahead stages on the way to the ears make the performer hear everything late. */
  private heardLate(doc: SessionDoc): number {
    const { kernels, frozen } = this.engine;
    return kernels
      ? (compilePlan(kernels, doc, { mode: 'live', frozen }).nodes.find((n) => n.id === EARS)?.lead ?? 0)
      : 0;
  }

  private prepare({ session, doc, armed }: Recorded, purpose: TakePurpose): PreparedTake[] {
    const { buffer } = doc.settings;
    const lead = this.heardLate(doc);
    return armed.map((track) => {
      const latency =
        lead + Math.max(0, ...track.inputs.map((l) => latencyOf(deviceOfLine(l!), doc.format.sampleRate, buffer)));
      return prepareTake({ session, doc, track, latency, purpose });
    });
  }

  /** Begins the takes of a plan; `round` of a loop, 0 otherwise. */
  beginRound(what: Recorded, round = 0): RecordTap[] {
    const { doc, plan } = what;
    const at = plan.in - plan.from;
    if (plan.out === null) {
      // Everything since rolling began is kept as it arrives, and set back by as much as it is late. What led in gives
      // the sound for a crossfade with what was there before.
      const before = Math.min(at, handle(doc));
      const purpose = { ...purposeOf(what), ...(before > 0 ? { show: { start: plan.in } } : {}) };
      return this.prepare(what, purpose).map((p) =>
        this.takes.begin(p, { from: at - before, to: null, start: plan.in - before - lateness(p) }),
      );
    }
    const length = plan.out - plan.in;
    const around = plan.loop ? 0 : Math.min(at, handle(doc));
    const purpose = { ...purposeOf(what), show: { start: plan.in, end: plan.out } };
    return this.prepare(what, purpose).map((p) => {
      // The stretch is waited for as long as the sound is late: the take begins at its sample.
      const from = at + round * length + lateness(p) - around;
      return this.takes.begin(p, { from, to: from + length + 2 * around, start: plan.in - around });
    });
  }

  /** Lays out the rounds of a loop as they come near; returns what ends that. */
  followRounds(what: Recorded): () => void {
    const { plan, doc } = what;
    if (!plan.loop) return () => {};
    let round = 0;
    const length = plan.out! - plan.in;
    const look = ({ rolled }: { rolled: number }) => {
      const next = plan.in - plan.from + (round + 1) * length;
      if (rolled < next - ROUND_AHEAD * doc.format.sampleRate) return;
      round++;
      this.engine.player?.addTaps(this.beginRound(what, round));
    };
    this.engine.events.on('meters', look);
    return () => this.engine.events.off('meters', look);
  }

  /** What is heard from disk while recording: without what is about to be replaced. */
  playedTracks(what: Recorded): Track[] {
    return playedOf(what.doc, this.engine.frozen).tracks.map((t) =>
      what.armed.includes(t) ? { ...t, clips: withoutStretch(t.clips, what.plan.in, what.plan.out ?? Infinity) } : t,
    );
  }

  /** Tells of lines that stay silent once recording runs: minutes of silence must not pass unnoticed. */
  watchSilence(doc: SessionDoc, armed: readonly Track[]): () => void {
    const began = performance.now();
    const timer = setTimeout(() => {
      for (const track of armed)
        for (const id of track.inputs) {
          const device = this.devices.list.find((d) => isLineOf(d.id, id));
          const channel = channelOfLine(id!);
          const level =
            device && device.slot >= 0 ? this.levels.recentSince(deviceKey(device.slot, channel), began) : -Infinity;
          if (level < SIGNAL_FLOOR)
            toast.error(`Nothing arrives on ${lineOf(doc, id!).name}: ${track.name} records silence.`, {
              id: `silent-${id}`,
              duration: 10_000,
            });
        }
    }, SILENT_AFTER * 1000);
    return () => clearTimeout(timer);
  }

  /** Recording begins by hand while playing. */
  punch(what: Recorded): HandPunch {
    const prepared = this.prepare(what, purposeOf(what));
    const punch = new HandPunch(what, prepared, this.takes);
    this.engine.player?.punchIn(punch.taps());
    return punch;
  }
}

/**
 * Recording by hand while playing: takes are prepared now, and begin where the engine says it was. Each reaches a
 * little beyond where one came in and went out, so that both ends can be crossfaded.
 */
export class HandPunch {
  constructor(
    private readonly what: Recorded,
    private prepared: readonly PreparedTake[],
    private readonly takes: Takes,
  ) {}

  private after = (p: PreparedTake): number => lateness(p) + handle(this.what.doc);

  /** What the engine records from now on. */
  taps(): RecordTap[] {
    return this.prepared.map((p) => ({ ...p.tap, from: 0, to: null, after: this.after(p) }));
  }

  /**
   * The engine began to record at this frame of the roll, with some frames from before in front. It is heard from the
   * place that sounded when the key was pressed: the engine is ahead of the ears by what waits in buffers.
   */
  began(at: number, before: Record<string, number>): void {
    const { from: rolledFrom, in: pressed } = this.what.plan;
    for (const p of this.prepared) {
      const from = at - (before[p.tap.track] ?? 0);
      const start = rolledTo(rolledFrom, from, null) - lateness(p);
      const purpose = { ...p.order.purpose, show: { start: Math.max(start, pressed) } };
      this.takes.begin({ ...p, order: { ...p.order, purpose } }, { from, to: null, start, after: this.after(p) });
    }
    this.prepared = [];
  }
}
