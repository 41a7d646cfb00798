import type { MediaRef, SessionDoc } from '@/core/session';

export interface Usage {
  media: MediaRef;
  clips: { id: string; start: number }[];
  takes: number;
  /** Anything that needs the file: clips, comps, takes, room tones. */
  used: boolean;
}

/** Every file of the session with what uses it. */
export function usageOf(doc: SessionDoc): Usage[] {
  const clips = new Map<string, { id: string; start: number }[]>();
  const others = new Set(doc.shelf.map((t) => t.media));
  const takes = new Map<string, number>();
  for (const track of doc.tracks) {
    for (const c of track.clips) clips.set(c.media, [...(clips.get(c.media) ?? []), { id: c.id, start: c.start }]);
    for (const comp of track.otherComps ?? []) for (const c of comp.clips) others.add(c.media);
    for (const t of track.takes) for (const m of [t.media, t.dryMedia]) if (m) takes.set(m, (takes.get(m) ?? 0) + 1);
  }
  return Object.values(doc.media).map((media) => ({
    media,
    clips: clips.get(media.id) ?? [],
    takes: takes.get(media.id) ?? 0,
    used: clips.has(media.id) || takes.has(media.id) || others.has(media.id),
  }));
}

/** The files that a search finds, those that are missing first; untouched copies are shown where they are missing only. */
export function filesFound(list: readonly Usage[], words: string, missing: readonly string[]): Usage[] {
  const gone = new Set(missing);
  const found = list.filter(
    ({ media }) =>
      media.name.toLowerCase().includes(words.trim().toLowerCase()) && (media.kind !== 'dry' || gone.has(media.id)),
  );
  return [...found.filter((u) => gone.has(u.media.id)), ...found.filter((u) => !gone.has(u.media.id))];
}
