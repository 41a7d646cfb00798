import { laneValue } from '@/core/lanes';
import { CLICK, pointsOf, type RecordPlan, type SessionDoc } from '@/core/session';
import type { AuditionSound } from '@/core/signals';
import { TempoMap } from '@/core/units';

/** A click or beep, heard over the monitor only: it is in no plan of a print. */
export interface Audition {
  /** Frames after rolling begins. */
  at: number;
  sound: AuditionSound;
  accent: boolean;
  /** dBFS. */
  level: number;
}

/** Beeps stand this much under full scale (dBFS; common practice, no source). */
const BEEP_LEVEL = -18;
/** Longest time for which clicks are laid out, seconds. */
const LONGEST = 3600;
const MOST = 20_000;

/** Samples in [from, to) on which the beats of the tempo map fall; the first of each bar with an accent. */
export function beatsIn(doc: SessionDoc, from: number, to: number): { sample: number; accent: boolean }[] {
  const rate = doc.format.sampleRate;
  const map = new TempoMap(doc.tempo.tempos, doc.tempo.meters);
  const found: { sample: number; accent: boolean }[] = [];
  for (let { bar } = map.barAt(map.beatAt(from / rate)); found.length < MOST; bar++) {
    const meter = [...doc.tempo.meters].reverse().find((m) => m.bar <= bar) ?? doc.tempo.meters[0]!;
    for (let beat = 1; beat <= meter.beats; beat++) {
      const sample = map.sampleOf(map.beatOf(bar, beat), rate);
      if (sample >= to) return found;
      if (sample >= from) found.push({ sample, accent: beat === 1 });
    }
  }
  return found;
}

/**
 * Clicks and beeps for a roll from `plan.from`, in order: beeps before a cue; clicks during the count-in, and as the
 * working settings say. A loop repeats what falls into it.
 */
export function auditionsFor(doc: SessionDoc, plan: RecordPlan, recording: boolean): Audition[] {
  const { click, countIn } = doc.settings;
  const rate = doc.format.sampleRate;
  const all = click.when === 'always' || (click.when === 'recording' && recording);
  const until = all
    ? plan.loop
      ? plan.out!
      : (plan.end ?? plan.from + LONGEST * rate)
    : recording && countIn
      ? plan.in
      : plan.from;
  const level = pointsOf(doc, { node: CLICK, param: 'level' });
  const clicks = beatsIn(doc, plan.from, until).map(({ sample, accent }): Audition => ({
    at: sample - plan.from,
    sound: click.sound,
    accent,
    level: (level ? laneValue(level, sample) : click.level) - (accent ? 0 : 4),
  }));
  const beeps = plan.beeps.map((b): Audition => ({
    at: b - plan.from,
    sound: 'beep',
    accent: false,
    level: BEEP_LEVEL,
  }));
  const once = [...clicks, ...beeps];
  if (!plan.loop || plan.out === null) return once.sort((a, b) => a.at - b.at);
  const length = plan.out - plan.in;
  const again = once.filter((a) => a.at >= plan.in - plan.from);
  const rounds = again.length ? Math.min(Math.ceil((LONGEST * rate) / length), Math.ceil(MOST / again.length)) : 0;
  const later = Array.from({ length: rounds }, (_, r) => again.map((a) => ({ ...a, at: a.at + (r + 1) * length })));
  return [...once, ...later.flat()].sort((a, b) => a.at - b.at);
}
