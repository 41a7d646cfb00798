import type { LanePoint } from '@/core/lanes';
import type { Clip, MediaRef, SessionDoc } from './document';
import { settleClips } from './fades';
import { channelsSaid } from './mediaOrder';

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
  for (const range of next.printing?.list ?? [])
    Object.assign(range, { start: at(range.start), end: Math.max(at(range.start) + 1, at(range.end)) });
  // A file that was asked at this rate is one like the others now.
  for (const d of next.deliverables) if (d.sampleRate === sampleRate) delete d.sampleRate;
  if (next.picture) next.picture.start = at(next.picture.start);
  for (const cue of next.cues) Object.assign(cue, { start: at(cue.start), end: at(cue.end) });
  for (const marker of next.markers) marker.at = at(marker.at);
  for (const lane of Object.values(next.lanes)) lane.points = lanePointsAt(lane.points, at);
  for (const bus of next.buses) delete bus.frozen;
  for (const track of next.tracks) {
    // Made at the old rate from files that are converted: it is made again when it is wanted.
    delete track.frozen;
    track.clips = track.clips.flatMap((c) => clipAt(c, at, media));
    for (const comp of track.otherComps ?? []) comp.clips = comp.clips.flatMap((c) => clipAt(c, at, media));
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
  // Converting moves no channel: what was said of their order still holds.
  const said = new Map([...media].map(([before, { id }]) => [id, channelsSaid(doc.media[before])] as const));
  next.media = Object.fromEntries([...media.values()].map((m) => [m.id, { ...m, ...said.get(m.id) }]));
  for (const track of next.tracks) meetAgain(doc, next, track.id);
  return next;
}

// Clips that met before must meet again, whatever rounding did to each.
function meetAgain(doc: SessionDoc, next: SessionDoc, id: string): void {
  const before = doc.tracks.find((t) => t.id === id)!.clips;
  const track = next.tracks.find((t) => t.id === id)!;
  for (const left of before) {
    const right = before.find((c) => c.start === left.start + left.length);
    const clip = track.clips.find((c) => c.id === left.id);
    const start = right && track.clips.find((c) => c.id === right.id)?.start;
    if (clip && start !== undefined)
      clip.length = Math.max(1, Math.min(start - clip.start, next.media[clip.media]!.frames - clip.offset));
  }
  settleClips(next, track);
}

// Points that fall on one sample: the later one counts from there on.
function lanePointsAt(points: readonly LanePoint[], at: (n: number) => number): LanePoint[] {
  const moved = points.map((p) => ({ ...p, at: at(p.at) }));
  return moved.filter((p, i) => p.at !== moved[i + 1]?.at);
}

// Rounding must not let a clip reach over the end of its file.
function clipAt(clip: Clip, at: (n: number) => number, media: ReadonlyMap<string, MediaRef>): Clip[] {
  const file = media.get(clip.media);
  if (!file) return [];
  const offset = Math.min(at(clip.offset), file.frames - 1);
  const length = Math.max(1, Math.min(at(clip.length), file.frames - offset));
  const fades = (['fadeIn', 'fadeOut', 'joint'] as const).flatMap((side) => {
    const fade = clip[side];
    return fade ? [[side, { ...fade, frames: at(fade.frames) }] as const] : [];
  });
  return [{ ...clip, ...Object.fromEntries(fades), media: file.id, start: at(clip.start), offset, length }];
}

/** The session as a starting point: no takes, no lanes; clips and files only when `media` is true. */
export function asTemplate(doc: SessionDoc, media: boolean): SessionDoc {
  const next = JSON.parse(JSON.stringify(doc)) as SessionDoc;
  for (const track of next.tracks) {
    Object.assign(track, { takes: [], otherComps: [], clips: media ? track.clips : [] });
    delete track.frozen;
  }
  for (const bus of next.buses) delete bus.frozen;
  next.cues = [];
  if (next.newcomer) Object.assign(next.newcomer, { armed: [], soloed: [] });
  if (!media) next.lanes = {};
  const used = new Set([...next.tracks.flatMap((t) => t.clips.map((c) => c.media)), ...next.shelf.map((s) => s.media)]);
  next.media = Object.fromEntries(Object.entries(next.media).filter(([id]) => used.has(id)));
  if (!media) next.picture = null;
  return next;
}
