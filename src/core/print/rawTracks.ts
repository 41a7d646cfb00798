import type { ChannelSet, Kernels } from '@/core/kernels';
import type { Clip, SessionDoc, Track } from '@/core/session';
import { safeName } from './names';
import { PRINT_SPAN } from './run';
import { SpanFeed, type MediaReader } from './spanFeed';

/** What of a track is handed over raw. */
export interface RawWish {
  tracks: readonly string[];
  /** One file a track from a common start, one a clip with handles, or the takes as they were recorded. */
  as: 'joined' | 'clips' | 'takes';
  /** Of clips: seconds of their recording that are kept on either side, where there are so many. */
  handles: number;
  /** Through the chain that was recorded, or the untouched line beside it where there is one. */
  sound: 'processed' | 'dry';
  /** Of takes: those that were circled, or all. */
  takes: 'circled' | 'all';
}

/** The track as its clips lie, each with its untouched recording where its take has one. */
export function dryTrack(track: Track): Track {
  const dry = new Map(track.takes.flatMap((t) => (t.dryMedia ? [[t.media, t.dryMedia] as const] : [])));
  return { ...track, clips: track.clips.map((c) => ({ ...c, media: dry.get(c.media) ?? c.media })) };
}

/** Name of a raw file: the session's code, the track, and what else there is to say; without ending. */
export const rawName = (doc: SessionDoc, track: Track, more: string): string =>
  [doc.code, safeName(track.name), more].filter(Boolean).join('_');

/** The stretch that joined files stand in: from the start of the session to the last clip of any of the tracks. */
export const rawRange = (tracks: readonly Track[]): { start: number; end: number } => ({
  start: 0,
  end: Math.max(0, ...tracks.flatMap((t) => t.clips.map((c) => c.start + c.length))),
});

/**
 * The sound of a track as its clips lie, with their fades, joints and gains, and through no chain, level or path: `take` is
 * given `n` frames of every channel after the other.
 */
export async function joinTrack(
  k: Kernels,
  doc: SessionDoc,
  track: Track,
  read: MediaReader,
  { start, end }: { start: number; end: number },
  take: (set: ChannelSet, n: number) => Promise<void>,
): Promise<void> {
  const feed = new SpanFeed(k, [track], doc.media, read, PRINT_SPAN);
  try {
    if (end > start) feed.fetch(start);
    for (let at = start; at < end; at += PRINT_SPAN) {
      await feed.take();
      if (at + PRINT_SPAN < end) feed.fetch(at + PRINT_SPAN);
      for (const { span } of feed.current()) await take(span, Math.min(PRINT_SPAN, end - at));
    }
  } finally {
    await feed.close();
  }
}

/** What of a clip's recording goes along: frames of its file, and of them those that stand before and behind the clip. */
export interface ClipCut {
  clip: Clip;
  from: number;
  to: number;
  before: number;
  behind: number;
}

/** Each clip of a track with handles of at most so many frames; a file that ends earlier gives what it has. */
export const clipCuts = (doc: SessionDoc, track: Track, handles: number): ClipCut[] =>
  [...track.clips]
    .sort((a, b) => a.start - b.start)
    .map((clip) => {
      const { frames } = doc.media[clip.media] ?? { frames: clip.offset + clip.length };
      const before = Math.min(handles, clip.offset);
      const behind = Math.max(0, Math.min(handles, frames - clip.offset - clip.length));
      return { clip, before, behind, from: clip.offset - before, to: clip.offset + clip.length + behind };
    });
