import type { MeterFrame, ProbeReading } from '@/audio';
import { SIGNAL_FLOOR } from '@/core/checks';
import { integrated, momentary, shortTerm, type FoldReading } from '@/core/measure';
import { toDb } from '@/core/units';
import { arrivingKey, deviceKey, isDeviceKey, leavingKey } from '../meterKeys';
import type { Engine } from './engine';

// Meters change thirty times a second: they stand outside React, and drawing asks for them.
const FALL_DB_PER_SECOND = 24;
const HOLD_MS = 1500;
/** The highest level is remembered for so long (ms). */
const RECENT_MS = 4000;
/** Gain reductions that are remembered of each stage: ten seconds. */
const HISTORY = 300;

/** Readings of a fold-down that are remembered: three seconds. */
const FOLD_HISTORY = 30;

interface Level {
  db: number;
  hold: number;
  holdUntil: number;
  at: number;
  recent: number;
  recentUntil: number;
}

/** Loudness and true peak since rolling began, of one measure. */
class Loudness {
  private hops: number[] = [];
  private truePeak = 0;
  private measures = 0;
  private figures = SILENT;

  take({ hops, truePeak, measures }: Pick<MeterFrame, 'hops' | 'truePeak' | 'measures'>): void {
    if (measures !== this.measures) this.reset();
    this.measures = measures;
    this.truePeak = truePeak;
    if (hops.length === 0) return;
    this.hops.push(...hops);
    const last = this.hops.slice(-30);
    this.figures = {
      momentary: momentary(last).at(-1) ?? -Infinity,
      shortTerm: shortTerm(last).at(-1) ?? -Infinity,
      integrated: integrated(this.hops),
    };
  }

  reset(): void {
    this.hops = [];
    this.truePeak = 0;
    this.figures = SILENT;
  }

  now() {
    return { ...this.figures, truePeak: toDb(this.truePeak) };
  }
}

const SILENT = { momentary: -Infinity, shortTerm: -Infinity, integrated: -Infinity };

const fallen = (l: Level, now: number): number => l.db - ((now - l.at) / 1000) * FALL_DB_PER_SECOND;

/** Levels, gain reductions and loudness as they sound now. Keys: "out/<node>/<channel>", "in/…", "device/<slot>/<channel>". */
export class Levels {
  private readonly levels = new Map<string, Level>();
  /** Lines that something arrived on. */
  private readonly spoken = new Set<string>();
  private readonly reductions = new Map<string, number>();
  private readonly histories = new Map<string, number[]>();
  private found: ProbeReading | null = null;
  private readonly reference = new Loudness();
  private readonly fold = new Loudness();
  private folded: FoldReading[] = [];
  private heardNarrower = false;

  constructor(engine: Pick<Engine, 'events'>) {
    engine.events.on('meters', (frame) => this.take(frame));
    engine.events.on('rolling', (now) => {
      if (now !== 'no') this.resetLoudness();
    });
  }

  private note(key: string, linear: number, now: number): void {
    const db = toDb(linear);
    const l = this.levels.get(key) ?? {
      db: -Infinity,
      hold: -Infinity,
      holdUntil: 0,
      at: now,
      recent: -Infinity,
      recentUntil: 0,
    };
    l.db = Math.max(db, fallen(l, now));
    l.at = now;
    if (db >= l.hold || now > l.holdUntil) Object.assign(l, { hold: db, holdUntil: now + HOLD_MS });
    if (db >= l.recent || now > l.recentUntil) Object.assign(l, { recent: db, recentUntil: now + RECENT_MS });
    this.levels.set(key, l);
  }

  /** Whether something arrived on a line since its device was switched on. */
  hasSpoken(key: string): boolean {
    return this.spoken.has(key);
  }

  /** A device was switched off, or went away: its meters go dark. */
  forgetDevice(slot: number): void {
    for (const key of [...this.levels.keys()]) if (isDeviceKey(slot, key)) this.levels.delete(key);
    for (const key of [...this.spoken]) if (isDeviceKey(slot, key)) this.spoken.delete(key);
  }

  private take(frame: MeterFrame): void {
    const now = performance.now();
    for (const [node, { before, after }] of Object.entries(frame.peaks)) {
      before.forEach((v, c) => this.note(arrivingKey(node, c), v, now));
      after.forEach((v, c) => this.note(leavingKey(node, c), v, now));
    }
    frame.inputs.forEach((channels, slot) =>
      channels.forEach((v, c) => {
        const key = deviceKey(slot, c);
        this.note(key, v, now);
        if (toDb(v) >= SIGNAL_FLOOR) this.spoken.add(key);
      }),
    );
    for (const [stage, db] of Object.entries(frame.reductions)) {
      this.reductions.set(stage, db);
      const past = this.histories.get(stage) ?? [];
      past.push(db);
      if (past.length > HISTORY) past.shift();
      this.histories.set(stage, past);
    }
    this.found = frame.probe ?? null;
    for (const [stage, [into, out]] of Object.entries(frame.probe?.stages ?? {})) {
      this.note(`stage-in/${stage}`, into, now);
      this.note(`stage-out/${stage}`, out, now);
    }
    this.reference.take(frame);
    this.heardNarrower = frame.fold !== null;
    if (!frame.fold) return;
    this.fold.take(frame.fold);
    this.folded = [...this.folded, ...frame.fold.readings].slice(-FOLD_HISTORY);
  }

  resetLoudness(): void {
    this.reference.reset();
    this.fold.reset();
    this.folded = [];
  }

  /** Level now and held peak, dBFS. */
  level(key: string): { db: number; hold: number } {
    const l = this.levels.get(key);
    if (!l) return { db: -Infinity, hold: -Infinity };
    const now = performance.now();
    return { db: fallen(l, now), hold: now > l.holdUntil ? -Infinity : l.hold };
  }

  /** Highest level of the last seconds; -Infinity when nothing arrived. */
  recent(key: string): number {
    const l = this.levels.get(key);
    return l && performance.now() - l.at < RECENT_MS ? l.recent : -Infinity;
  }

  /** Highest level since `since` (performance.now), as far as it is remembered; -Infinity when nothing arrived. */
  recentSince(key: string, since: number): number {
    const l = this.levels.get(key);
    return l && l.at >= since ? l.recent : -Infinity;
  }

  /** Gain reductions of the last ten seconds, oldest first. */
  reductionsOf(stage: string): readonly number[] {
    return this.histories.get(stage) ?? [];
  }

  reduction(stage: string): number {
    return this.reductions.get(stage) ?? 0;
  }

  /** What was found on the chain that is looked at. */
  get probe(): ProbeReading | null {
    return this.found;
  }

  loudnessNow() {
    return this.reference.now();
  }

  /** The same of what the monitor is listened to as, with its phase and losses of the last seconds; null: as it is mixed. */
  foldNow() {
    return this.heardNarrower ? { ...this.fold.now(), readings: this.folded as readonly FoldReading[] } : null;
  }
}
