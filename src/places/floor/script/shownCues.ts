import { cueState, type Cue, type CueState, type SessionDoc } from '@/core/session';

/** Which cues of the script are shown. */
export interface CueFilter {
  words: string;
  /** Empty: everybody. */
  character: string;
  /** Null: all. */
  state: CueState | null;
}

export const NO_FILTER: CueFilter = { words: '', character: '', state: null };

/** The cues that a filter shows, in their order. */
export function shownCues(doc: SessionDoc, { words, character, state }: CueFilter): Cue[] {
  const wanted = words.trim().toLowerCase();
  return doc.cues.filter(
    (c) =>
      (character === '' || c.character === character) &&
      (state === null || cueState(doc, c) === state) &&
      (!wanted || `${c.number} ${c.character} ${c.text} ${c.note}`.toLowerCase().includes(wanted)),
  );
}

/**
 * The cue after (or before) the chosen one among those that are shown; from one that is not shown, or from none, the
 * nearest in that direction by time. Undefined: there is none.
 */
export function cueBeside(
  doc: SessionDoc,
  filter: CueFilter,
  now: Cue | undefined,
  at: number,
  by: 1 | -1,
): Cue | undefined {
  const shown = shownCues(doc, filter);
  const place = shown.findIndex((c) => c.id === now?.id);
  if (place >= 0) return shown[place + by];
  const from = now?.start ?? at;
  return by > 0 ? shown.find((c) => c.start >= from) : shown.findLast((c) => c.start <= from);
}
