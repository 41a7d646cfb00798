import { TempoMap } from '@/core/units';
import { cueOfStretch } from './cueState';
import type { Cue, SessionDoc } from './document';

/** What of the timeline is recorded, and what is heard before and after; samples. */
export interface RecordPlan {
  /** Where rolling begins: before the start of the timeline when it must (count-in at 0). */
  from: number;
  /** Recorded from here on. */
  in: number;
  /** Recorded until here; null: until stopped. */
  out: number | null;
  /** Rolling ends here by itself; null: it does not. */
  end: number | null;
  /** Rounds over [in, out) until stopped, a take each. */
  loop: boolean;
  cue: string | null;
  /** Where beeps sound before the first word. */
  beeps: number[];
}

export type RecordMode = 'free' | 'range' | 'cue' | 'loop';

interface Wanted {
  mode: RecordMode;
  position: number;
  /** Stretch for 'range' and 'loop'. */
  range: { start: number; end: number };
  cue?: Cue | undefined;
}

/** Sound recorded beyond both ends of a punch, for crossfades: a quarter second. */
export const HANDLE_SECONDS = 0.25;

/** Beeps before a line (common practice, no source: three, the line starts where the fourth would be). */
const BEEPS = 3;

/** Seconds that a count-in of `bars` bars takes before `sample`, by the metre and tempo there. */
export function countInSamples(doc: SessionDoc, sample: number): number {
  const { countIn } = doc.settings;
  if (countIn === 0) return 0;
  const { sampleRate } = doc.format;
  const map = new TempoMap(doc.tempo.tempos, doc.tempo.meters);
  const beat = map.beatAt(Math.max(0, sample) / sampleRate);
  const { bar } = map.barAt(beat);
  const beats = (map.beatOf(bar + 1) - map.beatOf(bar)) * countIn;
  return Math.round(((60 * beats) / map.tempoAt(beat)) * sampleRate);
}

/** Plans a recording: what leads in, what is recorded, what follows. */
export function recordPlan(doc: SessionDoc, wanted: Wanted): RecordPlan {
  const { sampleRate } = doc.format;
  const { preRoll, postRoll, lead } = doc.settings;
  const samples = (seconds: number) => Math.round(seconds * sampleRate);
  if (wanted.mode === 'free') {
    const at = wanted.position;
    return { from: at - countInSamples(doc, at), in: at, out: null, end: null, loop: false, cue: null, beeps: [] };
  }
  const cue = wanted.mode === 'cue' ? wanted.cue : undefined;
  const { start, end } = cue ?? wanted.range;
  const loop = wanted.mode === 'loop';
  const beeps =
    cue && lead.beeps ? Array.from({ length: BEEPS }, (_, i) => start - samples((BEEPS - i) * lead.beepGap)) : [];
  // The first beep must be heard, however short the pre-roll.
  const before = Math.max(samples(preRoll), countInSamples(doc, start), ...beeps.map((b) => start - b + samples(0.5)));
  return {
    from: start - before,
    in: start,
    out: end,
    end: loop ? null : end + Math.max(samples(postRoll), samples(HANDLE_SECONDS)),
    loop,
    // A pass over a stretch belongs to the cue that the stretch is about.
    cue: (cue ?? cueOfStretch(doc, start, end))?.id ?? null,
    beeps,
  };
}

/** Where rolling goes on from a mistake at `position`: recorded from `back` seconds before it, after a pre-roll. */
export function rollBackPlan(doc: SessionDoc, position: number, began: number): RecordPlan {
  const { sampleRate } = doc.format;
  const { rollBack, preRoll } = doc.settings;
  const at = Math.max(began, position - Math.round(rollBack * sampleRate));
  return {
    from: at - Math.round(preRoll * sampleRate),
    in: at,
    out: null,
    end: null,
    loop: false,
    cue: null,
    beeps: [],
  };
}

/** Place on the timeline after `rolled` samples from `from`, going round in [loop.start, loop.end) once it is reached. */
export function rolledTo(from: number, rolled: number, loop: { start: number; end: number } | null): number {
  const at = from + rolled;
  if (!loop || at < loop.end) return at;
  return loop.start + ((at - loop.start) % (loop.end - loop.start));
}
