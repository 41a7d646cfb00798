import type { SessionDoc, Take, Track } from './document';

/** What a take is called: by its cue and its number among the cue's takes on its track; else by its number on the track. */
export interface TakeName {
  /** Number of the cue as the script writes it; null: it belongs to none. */
  cue: string | null;
  number: number;
}

/** Names of all takes of a track, by their ids; those that were brought in have none. */
export function takeNames(doc: SessionDoc, track: Track): ReadonlyMap<string, TakeName> {
  const cues = new Map(doc.cues.map((c) => [c.id, c.number]));
  const counted = new Map<string, number>();
  const names = new Map<string, TakeName>();
  for (const take of [...track.takes].sort((a, b) => a.number - b.number)) {
    if (take.imported) continue;
    const cue = take.cue === undefined ? undefined : cues.get(take.cue);
    if (cue === undefined) names.set(take.id, { cue: null, number: take.number });
    else {
      const number = (counted.get(take.cue!) ?? 0) + 1;
      counted.set(take.cue!, number);
      names.set(take.id, { cue, number });
    }
  }
  return names;
}

const nameOf = (doc: SessionDoc, track: Track, take: Take): TakeName | undefined => takeNames(doc, track).get(take.id);

/** "cue 5, take 2", "take 7", "what was brought in". */
export function takeText(doc: SessionDoc, track: Track, take: Take): string {
  const name = nameOf(doc, track, take);
  if (!name) return 'what was brought in';
  return name.cue === null ? `take ${name.number}` : `cue ${name.cue}, take ${name.number}`;
}

/** The same for narrow places: "5·2", "7", "–". */
export const shortTakeText = (name: TakeName | undefined): string =>
  !name ? '–' : name.cue === null ? String(name.number) : `${name.cue}·${name.number}`;
