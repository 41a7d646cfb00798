import type { MeterFrame, ProbeReading } from '@/audio';
import { integrated, momentary, shortTerm } from '@/core/measure';
import { toDb } from '@/core/units';

// Meters change thirty times a second: they stand outside React, and drawing asks for them.
const FALL_DB_PER_SECOND = 24;
const HOLD_MS = 1500;

interface Level {
  db: number;
  hold: number;
  holdUntil: number;
  at: number;
  recent: number;
  recentUntil: number;
}

const levels = new Map<string, Level>();
const reductions = new Map<string, number>();
/** Gain reduction of the last seconds, thirty values each. */
const histories = new Map<string, number[]>();
const HISTORY = 180;
let probe: ProbeReading | null = null;
let hops: number[] = [];
let truePeak = 0;
let measures = 0;
let loudnessText = { momentary: -Infinity, shortTerm: -Infinity, integrated: -Infinity };

function note(key: string, linear: number, now: number): void {
  const db = toDb(linear);
  const l = levels.get(key) ?? {
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
  if (db >= l.recent || now > l.recentUntil) Object.assign(l, { recent: db, recentUntil: now + 4000 });
  levels.set(key, l);
}

const fallen = (l: Level, now: number): number => l.db - ((now - l.at) / 1000) * FALL_DB_PER_SECOND;

/** Keys: "out/<node>/<channel>", "in/<node>/<channel>", "device/<slot>/<channel>". */
export function takeMeters(frame: MeterFrame): void {
  const now = performance.now();
  for (const [node, { before, after }] of Object.entries(frame.peaks)) {
    before.forEach((v, c) => note(`in/${node}/${c}`, v, now));
    after.forEach((v, c) => note(`out/${node}/${c}`, v, now));
  }
  frame.inputs.forEach((channels, slot) => channels.forEach((v, c) => note(`device/${slot}/${c}`, v, now)));
  for (const [stage, db] of Object.entries(frame.reductions)) {
    reductions.set(stage, db);
    const past = histories.get(stage) ?? [];
    past.push(db);
    if (past.length > HISTORY) past.shift();
    histories.set(stage, past);
  }
  probe = frame.probe ?? null;
  if (frame.measures !== measures) resetLoudness();
  measures = frame.measures;
  truePeak = frame.truePeak;
  if (frame.hops.length) {
    hops.push(...frame.hops);
    const last = hops.slice(-30);
    loudnessText = {
      momentary: momentary(last).at(-1) ?? -Infinity,
      shortTerm: shortTerm(last).at(-1) ?? -Infinity,
      integrated: integrated(hops),
    };
  }
}

export function resetLoudness(): void {
  hops = [];
  truePeak = 0;
  loudnessText = { momentary: -Infinity, shortTerm: -Infinity, integrated: -Infinity };
}

/** Level now and held peak, dBFS. */
export function readLevel(key: string): { db: number; hold: number } {
  const l = levels.get(key);
  if (!l) return { db: -Infinity, hold: -Infinity };
  const now = performance.now();
  return { db: fallen(l, now), hold: now > l.holdUntil ? -Infinity : l.hold };
}

/** Highest level of the last seconds; -Infinity when nothing arrived. */
export function recentLevel(key: string): number {
  const l = levels.get(key);
  return l && performance.now() - l.at < 4000 ? l.recent : -Infinity;
}

/** The last six seconds, oldest first. */
export const readReductions = (stage: string): readonly number[] => histories.get(stage) ?? [];
/** What was found on the chain that is looked at. */
export const readProbe = (): ProbeReading | null => probe;
/** Highest level since `since` (performance.now), as far as it is remembered; -Infinity when nothing arrived. */
export const recentSince = (key: string, since: number): number => {
  const l = levels.get(key);
  return l && l.at >= since ? l.recent : -Infinity;
};

export const readReduction = (stage: string): number => reductions.get(stage) ?? 0;
export const readLoudness = () => ({ ...loudnessText, truePeak: toDb(truePeak) });
