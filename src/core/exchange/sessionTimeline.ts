import type { SessionDoc, Track } from '@/core/session';
import { frameRate, timecodeToFrames } from '@/core/units';
import type { ListedCue, Timeline } from './timeline';

/** Tracks that hold material, and not what was printed of it. */
export const sourcesOf = (doc: SessionDoc): Track[] => doc.tracks.filter((t) => t.print === undefined);

/** The clips of a session as a timeline for other tools: one track a track, files by name. */
export function sessionTimeline(doc: SessionDoc): Timeline {
  const { sampleRate, frameRate: id, startTimecode } = doc.format;
  return {
    name: doc.name,
    sampleRate,
    frameRate: id,
    startFrames: timecodeToFrames(startTimecode, frameRate(id)),
    tracks: sourcesOf(doc).map((t) => ({
      name: t.name,
      clips: t.clips.map((c) => ({
        name: c.name,
        source: doc.media[c.media]?.name ?? c.media,
        start: c.start,
        offset: c.offset,
        length: c.length,
      })),
    })),
    markers: doc.markers.map((m) => ({ at: m.at, length: 0, name: m.name })),
  };
}

/** The script of a session as a cue list. */
export const scriptOf = (doc: SessionDoc): ListedCue[] =>
  doc.cues.map((c) => ({
    number: c.number,
    start: c.start / doc.format.sampleRate,
    end: c.end / doc.format.sampleRate,
    speaker: c.character,
    text: c.text,
  }));

/** A timeline's clips as a cue list: the track's name speaks, the clip's name is the text. */
export const cuesOf = (t: Timeline): ListedCue[] =>
  t.tracks
    .flatMap((track) =>
      track.clips.map((c) => ({
        start: c.start / t.sampleRate,
        end: (c.start + c.length) / t.sampleRate,
        speaker: track.name,
        text: c.name,
      })),
    )
    .sort((a, b) => a.start - b.start);
