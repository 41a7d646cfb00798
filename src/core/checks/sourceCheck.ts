import { frameRate, sampleToTimecode, timecodeToFrames } from '@/core/units';
import { entryOf, playedOf, thawEdit, type Clip, type SessionDoc, type Track } from '@/core/session';
import type { Check } from './check';
import type { Live } from './live';

/** Where a file of the session is heard. */
export interface Use {
  track: Track;
  clip: Clip;
}

export function timecode(doc: SessionDoc, sample: number): string {
  const rate = frameRate(doc.format.frameRate);
  return sampleToTimecode(sample, timecodeToFrames(doc.format.startTimecode, rate), rate, doc.format.sampleRate);
}

/** "Narrator 1 on Narrator at 10:00:12:00". */
export const placeText = (doc: SessionDoc, { track, clip }: Use): string =>
  `${clip.name} on ${track.name} at ${timecode(doc, clip.start)}`;

/** Clips of a range by the file they show; of a frozen track the file that it was frozen to. */
export function usesOf(doc: SessionDoc, { start, end }: { start: number; end: number }): Map<string, Use[]> {
  const uses = new Map<string, Use[]>();
  for (const track of playedOf(doc).tracks)
    for (const clip of track.clips)
      if (clip.start < end && clip.start + clip.length > start) {
        const known = uses.get(clip.media);
        if (known) known.push({ track, clip });
        else uses.set(clip.media, [{ track, clip }]);
      }
  return uses;
}

/** The clip of a file that shows its frame `from`, as text. */
export function placeAt(doc: SessionDoc, media: string, from: number): string {
  for (const track of playedOf(doc).tracks)
    for (const clip of track.clips)
      if (clip.media === media && from >= clip.offset && from < clip.offset + clip.length)
        return placeText(doc, { track, clip });
  return 'a clip';
}

// What a frozen track was made from is there, whatever became of the file.
const thaws = (doc: SessionDoc, media: string): Check['mends'] =>
  [...doc.tracks, ...doc.buses]
    .filter((n) => n.frozen?.media === media)
    .map((n) => ({ label: `Thaw ${n.name}`, edits: [thawEdit(n)] }));

/** A file that a range is made of does not give what the session relies on; `fault`: "is missing", "ends … early". */
export function sourceCheck(doc: SessionDoc, media: string, fault: string, uses: readonly Use[]): Check {
  return {
    id: `source/${media}`,
    grade: 'stop',
    place: 'print',
    about: [...new Set(uses.map((u) => u.track.id))],
    title: `${entryOf(doc.media, media)?.name ?? media} ${fault}`,
    why: `There would be silence in ${uses.map((u) => placeText(doc, u)).join('; ')}. Put the file back into the session's media folder.`,
    mends: thaws(doc, media),
  };
}

/** Files of the session that are not there any more, with what they leave silent. */
export function missingCheck(doc: SessionDoc, live: Live): Check[] {
  if (!live.missing?.length) return [];
  const uses = usesOf(doc, { start: -Infinity, end: Infinity });
  return (live.missing ?? []).flatMap((media) => {
    const places = uses.get(media);
    if (!places) return [];
    return [
      {
        id: `missing-file/${media}`,
        grade: 'warn' as const,
        place: 'floor' as const,
        about: [...new Set(places.map((u) => u.track.id))],
        title: `${entryOf(doc.media, media)?.name ?? media} is missing`,
        why: `Silent: ${places.map((u) => placeText(doc, u)).join('; ')}. Bring the file back in the list of files.`,
        mends: thaws(doc, media),
      },
    ];
  });
}
