import type { FrameRateId } from '@/core/units';

/** A piece of a file on a timeline. All times in samples; a timeline's own begin at its start. */
export interface TimelineClip {
  name: string;
  /** File name or URL of what sounds. */
  source: string;
  start: number;
  /** First sample of the file that sounds. */
  offset: number;
  length: number;
}

export interface TimelineTrack {
  name: string;
  clips: TimelineClip[];
}

export interface TimelineMarker {
  at: number;
  length: number;
  name: string;
}

/** What lists and timelines of other tools have in common. */
export interface Timeline {
  name: string;
  sampleRate: number;
  frameRate: FrameRateId;
  /** Frames since 00:00:00:00 at which sample 0 stands. */
  startFrames: number;
  tracks: TimelineTrack[];
  markers: TimelineMarker[];
}

/** A line that is spoken or shown, in seconds. */
export interface ListedCue {
  /** As the list numbers it, where it does. */
  number?: string;
  start: number;
  end: number;
  /** Who speaks; empty when it is not said. */
  speaker: string;
  text: string;
}

/** What could be read, and what could not, with the line or place it stands at. */
export interface Read<T> {
  value: T;
  notes: string[];
}

/** A text that is not what it should be; the message names the line or the field. */
export class ExchangeFault extends Error {}
