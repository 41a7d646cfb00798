import type { Cue, SessionDoc, Track } from './document';
import type { EditJson } from './edits';

const plain = (name: string): string => name.trim().toLowerCase();

/**
 * The track of who speaks a cue: the one that is called like the character, else the only one whose name begins so.
 * Undefined: there is none, or it cannot be told which.
 */
export function trackOfCharacter({ tracks }: SessionDoc, character: string): Track | undefined {
  const wanted = plain(character);
  if (!wanted) return undefined;
  const exact = tracks.find((t) => plain(t.name) === wanted);
  const begins = tracks.filter((t) => plain(t.name).startsWith(`${wanted} `));
  return exact ?? (begins.length === 1 ? begins[0] : undefined);
}

/** Edits that arm the track of a cue's character and disarm those of all others; none where it stands so already. */
export function armForCue(doc: SessionDoc, cue: Cue): EditJson[] {
  const own = trackOfCharacter(doc, cue.character);
  if (!own) return [];
  const others = new Set(doc.cues.map((c) => trackOfCharacter(doc, c.character)?.id));
  return [
    ...(own.armed ? [] : [{ type: 'seatTrack' as const, track: own.id, armed: true }]),
    ...doc.tracks
      .filter((t) => t.armed && t.id !== own.id && others.has(t.id))
      .map((t) => ({ type: 'seatTrack' as const, track: t.id, armed: false })),
  ];
}
