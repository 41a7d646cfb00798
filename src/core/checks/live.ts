import type { LineFacts } from '@/core/measure';
import type { RoomFault } from '@/core/rooms';
import type { NetworkFacts } from './networkFacts';
import type { Over } from './over';

/** What is known of the outside at this moment. */
export interface Live {
  /** Highest level of each open line in the last seconds, dBFS; a line that is missing is not open. */
  lines: ReadonlyMap<string, number>;
  /** Lines on which something arrived since their device was switched on; absent: only `lines` tells. */
  spoken?: ReadonlySet<string>;
  /** Findings that were passed by knowingly, by their ids: asked about once. */
  passed?: ReadonlySet<string>;
  /** The cue that the record key records now; absent: none. */
  cue?: string;
  /** The devices of this window, by id; absent where nothing is known of them. */
  devices?: ReadonlyMap<string, LiveDevice>;
  /** What listening to the lines found, by line. */
  heard?: ReadonlyMap<string, HeardLine>;
  /** Stereo tracks that heard left and right the other way round than another one: that track. */
  swapped?: ReadonlyMap<string, string>;
  /** Networks of the devices that are on. */
  networks?: readonly NetworkFacts[];
  /** Rate at which each device really runs, where it tells (Hz). */
  rates?: ReadonlyMap<string, number>;
  /** Bytes that the session's disk still takes. */
  diskFree?: number;
  /** Files of the session that are not there any more, by media. */
  missing?: readonly string[];
  /** What went over full scale before the chains of buses, by bus. */
  overs?: Readonly<Record<string, Over>>;
  /** The room that this machine plays in, and what is wrong with it. */
  room?: { name: string; faults: readonly RoomFault[] };
}

/** How a device stands. */
export interface LiveDevice {
  name: string;
  state: 'on' | 'off' | 'gone';
  /** It ships with the application, and its plug is pulled and put back from here. */
  simulated: boolean;
}

/** A line as it was heard, and the line that hears the same voice best, if any does. */
export interface HeardLine extends LineFacts {
  against?: {
    line: string;
    /** Of both, once the one that is late is set back: -1 to 1. */
    correlation: number;
    /** Samples by which this line hears the voice later; negative: earlier. */
    delay: number;
  };
}
