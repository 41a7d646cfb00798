import type { Kernels } from '@/core/kernels';
import { linksOf, openLinks, orderOf, type Links } from '@/core/paths';
import { playedOf, type Bus, type FrozenTracks, type SessionDoc, type Track } from '@/core/session';

export interface CompileOptions {
  /** Live: solo, monitor, lines. Print: neither solo nor monitor, but fold-downs. */
  mode: 'live' | 'print';
  /** Whether recording runs, for tracks that hear their input only then. */
  rolling?: boolean;
  /** Whether something is being recorded, for guides that step back meanwhile. */
  recording?: boolean;
  /** Tracks that play what they were frozen to; unless told those that are fresh. */
  frozen?: FrozenTracks;
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
  /** Links that are held silent since they close a circle. */
  closing: ReadonlySet<string>;
  /** Links that sound while something is soloed; null: all of them. */
  open: ReadonlySet<string> | null;
}

export function compiling(k: Kernels, given: SessionDoc, options: CompileOptions): Compiling {
  const doc = playedOf(given, options.frozen);
  const live = options.mode === 'live';
  const { nodes, closing } = orderOf<Track, Bus>(doc);
  return { k, doc, options, live, links: linksOf(doc), order: nodes, closing, open: live ? openLinks(doc) : null };
}
