import type { Cue, Picture, SessionDoc, Settings } from '@/core/session';

/** What the performer's window is told of the sound. */
export interface PromptNews {
  state: 'stopped' | 'playing' | 'recording';
  /** The sample that was heard at `at`. */
  position: number;
  /** Milliseconds since 1970, by the clock of the machine that plays. */
  at: number;
  cue: string | null;
  /** Sample at which the line starts, while something leads in; null: nothing does. */
  lineAt: number | null;
}

/** What of a session the performer sees. */
export interface PromptDoc {
  name: string;
  format: Pick<SessionDoc['format'], 'sampleRate' | 'frameRate' | 'startTimecode'>;
  cues: Pick<Cue, 'id' | 'number' | 'character' | 'text' | 'start' | 'end'>[];
  picture: Picture | null;
  lead: Pick<Settings['lead'], 'streamer' | 'flash'>;
}

/** Said to a performer's window whose link was withdrawn. */
export const LINK_GONE = 'This link is not open any more. Ask the engineer for a new one.';

export const promptDocOf = ({ name, format, cues, picture, settings }: SessionDoc): PromptDoc => ({
  name,
  format: { sampleRate: format.sampleRate, frameRate: format.frameRate, startTimecode: format.startTimecode },
  cues: cues.map(({ id, number, character, text, start, end }) => ({ id, number, character, text, start, end })),
  picture,
  lead: { streamer: settings.lead.streamer, flash: settings.lead.flash },
});

/** News that are older (ms) come from a window that plays no more, or a network that is cut. */
const STALE = 5_000;

/** The sample that is heard at `now` (ms since 1970, by the clock of the machine that plays), after what was told last. */
export function heardAt({ state, position, at }: PromptNews, now: number, sampleRate: number): number {
  const since = Math.min(STALE, Math.max(0, now - at));
  return state === 'stopped' ? position : Math.round(position + (since / 1000) * sampleRate);
}

/** A question for the time, and what was answered: milliseconds since 1970, by the asker's clock and by the other's. */
export interface TimeAnswer {
  asked: number;
  answered: number;
  told: number;
}

/**
 * By how much (ms) the other clock is ahead: of several answers, the one that was quickest, whose way there and back is
 * taken for equally long (RFC 5905, section 8, with one time told). Throws RangeError without any.
 */
export function clockAhead(answers: readonly TimeAnswer[]): number {
  if (answers.length === 0) throw new RangeError('No answer tells how the clocks stand.');
  const quickest = answers.reduce((best, a) => (a.answered - a.asked < best.answered - best.asked ? a : best));
  return quickest.told - (quickest.asked + quickest.answered) / 2;
}
