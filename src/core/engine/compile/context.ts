import type { Kernels } from '@/core/kernels';
import type { Room } from '@/core/rooms';
import { linksOf, openLinks, orderOf, type Links } from '@/core/paths';
import { frozenWays, playedOf, type Bus, type FrozenNodes, type SessionDoc, type Track } from '@/core/session';
import type { HeardAs } from './listening';

export interface CompileOptions {
  /** Live: solo, monitor, lines. Print: neither solo nor monitor, but fold-downs. */
  mode: 'live' | 'print';
  /** Whether recording runs, for tracks that hear their input only then. */
  rolling?: boolean;
  /** Whether something is being recorded, for guides that step back meanwhile. */
  recording?: boolean;
  /** Tracks and buses that play what they were frozen to; unless told those that are fresh. */
  frozen?: FrozenNodes;
  /** The room that the monitor plays in, and how many ports its output has; null: two ears only. */
  room?: { room: Room; channels: number } | null;
  /** What the monitor is listened to as; null: as it is mixed. */
  heardAs?: HeardAs | null;
  /** Two ears hear loudspeakers around a head, in the place of a fold-down. */
  head?: boolean;
}

/** What all steps of compiling look at. */
export interface Compiling {
  k: Kernels;
  doc: SessionDoc;
  options: CompileOptions;
  live: boolean;
  links: Links;
  /** Tracks and buses in processing order. */
  order: (Track | Bus)[];
  /** Links that are held silent, since they close a circle or lead to a bus that plays from a file. */
  closing: ReadonlySet<string>;
  /** Tracks that give what a bus was frozen to, speaker by speaker. */
  sources: ReadonlySet<string>;
  /** Links that sound while something is soloed; null: all of them. */
  open: ReadonlySet<string> | null;
}

export function compiling(k: Kernels, given: SessionDoc, options: CompileOptions): Compiling {
  const doc = playedOf(given, options.frozen);
  const live = options.mode === 'live';
  const { nodes, closing } = orderOf<Track, Bus>(doc);
  const { sources, resting } = frozenWays(doc);
  const silent = new Set([...closing, ...resting]);
  const open = live ? openLinks(doc) : null;
  return { k, doc, options, live, links: linksOf(doc), order: nodes, closing: silent, sources, open };
}
