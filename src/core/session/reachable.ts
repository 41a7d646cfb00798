import type { SessionDoc, Track } from './document';
import { entryOf } from './ids';

/**
 * Files that lie in [start, end) of a track and are no takes of it become takes: what is recorded or chosen over them
 * stays in the track's list, to be chosen again.
 */
export function keepReachable(doc: SessionDoc, track: Track, start: number, end: number): void {
  for (const clip of track.clips) {
    if (clip.start >= end || clip.start + clip.length <= start) continue;
    const media = entryOf(doc.media, clip.media);
    if (!media || media.frames < 1 || doc.shelf.some((tone) => tone.media === clip.media)) continue;
    const at = clip.start - clip.offset;
    if (track.takes.some((t) => t.media === clip.media && t.start === at)) continue;
    // It was there before anything that was recorded here: the newest take stays the last one.
    track.takes.unshift({
      id: freeId(doc, `import-${clip.id}`.slice(0, 76)),
      // It takes no number of those that are recorded.
      number: 0,
      media: clip.media,
      dryMedia: null,
      start: at,
      length: media.frames,
      chains: [],
      recordedAt: '',
      recovered: false,
      imported: true,
      note: clip.name,
    });
  }
}

function freeId(doc: SessionDoc, wanted: string): string {
  const taken = new Set(doc.tracks.flatMap((t) => t.takes.map((k) => k.id)));
  let id = wanted;
  for (let i = 2; taken.has(id); i++) id = `${wanted}-${i}`;
  return id;
}
