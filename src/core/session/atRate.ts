import type { Clip, MediaRef, SessionDoc } from './document';

/**
 * The session at another sample rate: every time keeps its seconds. `media` gives the converted file for each
 * file of the session; a file without one is left out, with the clips and takes that use it.
 */
export function atRate(doc: SessionDoc, sampleRate: number, media: ReadonlyMap<string, MediaRef>): SessionDoc {
  const factor = sampleRate / doc.format.sampleRate;
  const at = (samples: number) => Math.round(samples * factor);
  const next = JSON.parse(JSON.stringify(doc)) as SessionDoc;
  next.format.sampleRate = sampleRate;
  next.range = { start: at(doc.range.start), end: Math.max(at(doc.range.start) + 1, at(doc.range.end)) };
  if (next.picture) next.picture.start = at(next.picture.start);
  for (const track of next.tracks) {
    track.clips = track.clips.flatMap((c) => clipAt(c, at, media));
    track.takes = track.takes.flatMap((t) => {
      const file = media.get(t.media);
      if (!file) return [];
      const dry = t.dryMedia ? media.get(t.dryMedia) : undefined;
      return [{ ...t, media: file.id, dryMedia: dry?.id ?? null, start: at(t.start), length: file.frames }];
    });
  }
  next.shelf = next.shelf.flatMap((tone) => {
    const file = media.get(tone.media);
    return file ? [{ ...tone, media: file.id, frames: file.frames }] : [];
  });
  next.media = Object.fromEntries([...media.values()].map((m) => [m.id, m]));
  return next;
}

// Rounding must not let a clip reach over the end of its file.
function clipAt(clip: Clip, at: (n: number) => number, media: ReadonlyMap<string, MediaRef>): Clip[] {
  const file = media.get(clip.media);
  if (!file) return [];
  const offset = Math.min(at(clip.offset), file.frames - 1);
  const length = Math.max(1, Math.min(at(clip.length), file.frames - offset));
  return [{ ...clip, media: file.id, start: at(clip.start), offset, length }];
}

/** The session as a starting point: no takes, nothing armed; clips and files only when `media` is true. */
export function asTemplate(doc: SessionDoc, media: boolean): SessionDoc {
  const next = JSON.parse(JSON.stringify(doc)) as SessionDoc;
  for (const track of next.tracks)
    Object.assign(track, { takes: [], armed: false, soloed: false, clips: media ? track.clips : [] });
  for (const bus of next.buses) bus.soloed = false;
  const used = new Set([...next.tracks.flatMap((t) => t.clips.map((c) => c.media)), ...next.shelf.map((s) => s.media)]);
  next.media = Object.fromEntries(Object.entries(next.media).filter(([id]) => used.has(id)));
  if (!media) next.picture = null;
  return next;
}
