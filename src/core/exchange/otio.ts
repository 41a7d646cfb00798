import { FRAME_RATES, frameRate, type FrameRate } from '@/core/units';
import { ExchangeFault, type Read, type Timeline, type TimelineClip, type TimelineTrack } from './timeline';

/*
 * OpenTimelineIO JSON: Timeline.1 with a Stack.1 of Track.1, each a row of Clip.2 and Gap.1. Times are written
 * in samples (a RationalTime at the sample rate), so nothing is rounded; the frame rate stands at the timeline's
 * global start time.
 */
type Json = Record<string, unknown>;

const time = (value: number, rate: number): Json => ({ OTIO_SCHEMA: 'RationalTime.1', rate, value });
const range = (start: number, duration: number, rate: number): Json => ({
  OTIO_SCHEMA: 'TimeRange.1',
  start_time: time(start, rate),
  duration: time(duration, rate),
});

const fps = (r: FrameRate): number => r.num / r.den;

export function writeOtio(t: Timeline): string {
  const rate = frameRate(t.frameRate);
  const children = t.tracks.map((track) => ({
    OTIO_SCHEMA: 'Track.1',
    name: track.name,
    kind: 'Audio',
    source_range: null,
    effects: [],
    markers: [],
    metadata: {},
    children: rowOf(track, t.sampleRate),
  }));
  return JSON.stringify(
    {
      OTIO_SCHEMA: 'Timeline.1',
      name: t.name,
      global_start_time: time(t.startFrames, fps(rate)),
      metadata: { frame_rate: t.frameRate },
      tracks: {
        OTIO_SCHEMA: 'Stack.1',
        name: 'tracks',
        source_range: null,
        effects: [],
        markers: t.markers.map((m) => ({
          OTIO_SCHEMA: 'Marker.2',
          name: m.name,
          color: 'GREEN',
          marked_range: range(m.at, m.length, t.sampleRate),
          metadata: {},
        })),
        metadata: {},
        children,
      },
    },
    null,
    2,
  );
}

// A track is a row without overlaps: what lies on what came before begins where that ends.
function rowOf(track: TimelineTrack, sampleRate: number): Json[] {
  const out: Json[] = [];
  let at = 0;
  for (const clip of [...track.clips].sort((a, b) => a.start - b.start)) {
    const hidden = Math.max(0, at - clip.start);
    if (hidden >= clip.length) continue;
    if (clip.start > at)
      out.push({
        OTIO_SCHEMA: 'Gap.1',
        name: '',
        source_range: range(0, clip.start - at, sampleRate),
        effects: [],
        markers: [],
        metadata: {},
      });
    out.push({
      OTIO_SCHEMA: 'Clip.2',
      name: clip.name,
      source_range: range(clip.offset + hidden, clip.length - hidden, sampleRate),
      effects: [],
      markers: [],
      metadata: {},
      active_media_reference_key: 'DEFAULT_MEDIA',
      media_references: {
        DEFAULT_MEDIA: {
          OTIO_SCHEMA: 'ExternalReference.1',
          name: clip.source,
          target_url: encodeURI(clip.source),
          available_range: null,
          metadata: {},
        },
      },
    });
    at = clip.start + clip.length;
  }
  return out;
}

const isObject = (v: unknown): v is Json => typeof v === 'object' && v !== null && !Array.isArray(v);
/** A name as it is written, as a number too; an object is none. */
const text = (v: unknown, otherwise = ''): string =>
  typeof v === 'string' || typeof v === 'number' ? String(v) : otherwise;
const schema = (v: Json): string => text(v.OTIO_SCHEMA).split('.')[0]!;
const list = (v: unknown): Json[] => (Array.isArray(v) ? v.filter(isObject) : []);

/** Seconds of a RationalTime; null when it is none. */
function seconds(v: unknown): number | null {
  if (!isObject(v) || typeof v.value !== 'number' || typeof v.rate !== 'number' || !(v.rate > 0)) return null;
  return v.value / v.rate;
}

/**
 * Reads a timeline; times become samples at `sampleRate`. Throws ExchangeFault when it is no timeline; what is in it
 * and has no place here (pictures, effects, nested stacks) is named in the notes.
 */
export function readOtio(written: string, sampleRate: number): Read<Timeline> {
  let root: unknown;
  try {
    root = JSON.parse(written);
  } catch (error) {
    throw new ExchangeFault(`This is no OpenTimelineIO file: ${(error as Error).message}.`);
  }
  if (!isObject(root) || schema(root) !== 'Timeline' || !isObject(root.tracks))
    throw new ExchangeFault(
      'This is no OpenTimelineIO timeline: the outermost object should have the schema "Timeline.1" and tracks.',
    );
  const notes: string[] = [];
  const start = isObject(root.global_start_time) ? root.global_start_time : null;
  const rate = rateOf(root, start);
  const tracks = list(root.tracks.children).flatMap((t, i): TimelineTrack[] => {
    const name = text(t.name, `Track ${i + 1}`);
    if (schema(t) !== 'Track' || t.kind !== 'Audio') {
      notes.push(`${name} is no audio track; it was left out.`);
      return [];
    }
    return [{ name, clips: clipsOf(t, name, sampleRate, notes) }];
  });
  const markers = list(root.tracks.markers).flatMap((m) => {
    const r = isObject(m.marked_range) ? m.marked_range : {};
    const [at, length] = [seconds(r.start_time), seconds(r.duration)];
    return at === null
      ? []
      : [
          {
            at: Math.round(at * sampleRate),
            length: Math.round((length ?? 0) * sampleRate),
            name: text(m.name),
          },
        ];
  });
  const startFrames = start && typeof start.value === 'number' ? Math.round(start.value) : 0;
  return {
    value: { name: text(root.name), sampleRate, frameRate: rate.id, startFrames, tracks, markers },
    notes,
  };
}

function rateOf(root: Json, start: Json | null): FrameRate {
  const said = isObject(root.metadata)
    ? FRAME_RATES.find((r) => r.id === (root.metadata as Json).frame_rate)
    : undefined;
  const near =
    typeof start?.rate === 'number'
      ? FRAME_RATES.find((r) => Math.abs(fps(r) - (start.rate as number)) < 0.005)
      : undefined;
  return said ?? near ?? frameRate('25');
}

function clipsOf(track: Json, name: string, sampleRate: number, notes: string[]): TimelineClip[] {
  const out: TimelineClip[] = [];
  let at = 0;
  for (const item of list(track.children)) {
    const r = isObject(item.source_range) ? item.source_range : {};
    const length = seconds(r.duration);
    if (schema(item) === 'Transition') {
      notes.push(`A transition on ${name} was left out.`);
      continue;
    }
    if (length === null) {
      notes.push(`${text(item.name, 'A piece')} on ${name} has no length; it and its place are left out.`);
      continue;
    }
    if (schema(item) === 'Clip') {
      const references = isObject(item.media_references) ? item.media_references : {};
      const key = text(item.active_media_reference_key, 'DEFAULT_MEDIA');
      const media = isObject(references[key])
        ? references[key]
        : isObject(item.media_reference)
          ? item.media_reference
          : {};
      const url = text(media.target_url, text(media.name));
      out.push({
        name: text(item.name),
        source: decoded(url),
        start: Math.round(at * sampleRate),
        offset: Math.round((seconds(r.start_time) ?? 0) * sampleRate),
        length: Math.round((at + length) * sampleRate) - Math.round(at * sampleRate),
      });
    } else if (schema(item) !== 'Gap')
      notes.push(`${text(item.name, 'A piece')} on ${name} is a ${schema(item)}; it was left out.`);
    at += length;
  }
  return out;
}

function decoded(url: string): string {
  try {
    return decodeURI(url);
  } catch {
    return url;
  }
}
