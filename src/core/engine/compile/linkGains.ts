import { MONITOR, type Link } from '@/core/paths';
import { pointsOf, type Bus, type Send, type Track } from '@/core/session';
import { moved, type LayoutId, type Placement } from '@/core/speakers';
import { gainsBetween } from '../gainsBetween';
import { pairsOf, type PairGain, type PlanLink } from '../plan';
import { placeMoves } from './lanes';
import type { Compiling } from './context';

/** Layout of what a link leads to. */
export function targetLayout({ doc }: Compiling, link: Link): LayoutId {
  if (link.to === MONITOR) return doc.format.layout;
  return doc.buses.find((b) => b.id === link.to)!.layout;
}

const placeOf = (ctx: Compiling, send: Send | undefined, from: Track | Bus): Placement | null =>
  ctx.sources.has(from.id) ? null : (send?.placement ?? from.placement);

/** Gains of a way out or a send as a plan holds them, with what of them follows the timeline. */
export function gainsOf(ctx: Compiling, link: Link, from: Track | Bus): Pick<PlanLink, 'gains' | 'lanes'> {
  const { k, doc, open } = ctx;
  if (open && !open.has(link.id)) return { gains: [] };
  const send = link.kind === 'send' ? from.sends.find((s) => s.id === link.id) : undefined;
  const level = send && pointsOf(doc, { node: from.id, send: send.id, param: 'level' });
  const base = placeOf(ctx, send, from);
  const moves = base && placeMoves(doc, from.id, send?.placement ? send.id : undefined);
  if (!level && !moves) return { gains: linkGains(ctx, link, from) };
  // Where the level follows a lane, that alone gives it.
  const fixed = send && !level ? k.gain(send.level) : 1;
  const to = targetLayout(ctx, link);
  const lanes = { late: 0, ...(level ? { level } : {}) };
  // What follows the timeline moves: it is not in one speaker.
  if (moves)
    return {
      gains: [],
      lanes: { ...lanes, place: { base: moved(base, {}), moves, from: from.layout, to, level: fixed } },
    };
  return { gains: pairsOf(gainsBetween(k, from.layout, base, to)), lanes };
}

/** Gains of a way out or a send as it is set, silent where solo closes it. */
export function linkGains(ctx: Compiling, link: Link, from: Track | Bus): PairGain[] {
  const { k, open } = ctx;
  if (open && !open.has(link.id)) return [];
  const send = link.kind === 'send' ? from.sends.find((s) => s.id === link.id) : undefined;
  const pairs = placedPairs(ctx, from.layout, placeOf(ctx, send, from), targetLayout(ctx, link));
  if (!send) return pairs;
  const level = k.gain(send.level);
  return pairs.flatMap(([a, b, gain]): PairGain[] => (gain * level === 0 ? [] : [[a, b, gain * level]]));
}

/** Of places that stand still: while something is dragged, all others need not be worked out anew. */
const known = new WeakMap<Placement, Map<string, PairGain[]>>();

function placedPairs({ k }: Compiling, from: LayoutId, placement: Placement | null, to: LayoutId): PairGain[] {
  const fresh = () => pairsOf(gainsBetween(k, from, placement, to));
  if (!placement || !Object.isFrozen(placement)) return fresh();
  const places = known.get(placement) ?? new Map<string, PairGain[]>();
  known.set(placement, places);
  const key = `${from} ${to}`;
  const pairs = places.get(key) ?? fresh();
  places.set(key, pairs);
  return pairs;
}
