import { MONITOR, sounds, type Link } from '@/core/paths';
import type { Bus, Track } from '@/core/session';
import { moved, widthOf } from '@/core/speakers';
import { stageKind } from '@/core/stages';
import { heardNode, pairsOf, type PlanLink, type PlanNode } from '../plan';
import type { Compiling } from './context';
import { placeMoves } from './lanes';
import { linkGains, targetLayout } from './linkGains';

type Matrix = number[][];

const zeros = (rows: number, columns: number): Matrix =>
  Array.from({ length: rows }, () => Array<number>(columns).fill(0));

/** Gains from the channels of a track or bus to those of the mix, by its ways out and through the levels on them. */
function wayToMonitor(ctx: Compiling, from: Track | Bus, outs: readonly Link[]): Matrix {
  const { k, doc, links, closing } = ctx;
  const sum = zeros(widthOf(from.layout), widthOf(doc.format.layout));
  for (const link of outs) {
    if (link.kind !== 'out' || closing.has(link.id)) continue;
    const bus = doc.buses.find((b) => b.id === link.to);
    if (link.to !== MONITOR && (!bus || bus.muted)) continue;
    const level = bus ? k.gain(bus.trim) * k.gain(bus.level) : 1;
    const onward = bus ? wayToMonitor(ctx, bus, links.after(link)) : null;
    const middle = widthOf(targetLayout(ctx, link));
    for (const [a, b, gain] of linkGains(ctx, link, from))
      for (let c = 0; c < sum[0]!.length && b < middle; c++)
        sum[a]![c]! += onward ? gain * level * onward[b]![c]! : b === c ? gain : 0;
  }
  return sum;
}

/** Gains of a track to the monitor; levels of buses on the way are those that are set, their lanes are not followed. */
function heardGains(ctx: Compiling, track: Track): Pick<PlanLink, 'gains' | 'lanes'> {
  const { doc, links } = ctx;
  const moves = placeMoves(doc, track.id);
  const out = links.from(track.id).find((l) => l.kind === 'out' && sounds(l));
  const bus = out && doc.buses.find((b) => b.id === out.to);
  if (!out || !moves || linkGains(ctx, out, track).length === 0 || bus?.muted)
    return { gains: pairsOf(wayToMonitor(ctx, track, links.from(track.id))) };
  const level = bus ? ctx.k.gain(bus.trim) * ctx.k.gain(bus.level) : 1;
  const onward = bus ? wayToMonitor(ctx, bus, links.after(out)) : undefined;
  const place = { base: moved(track.placement, {}), moves, from: track.layout, to: targetLayout(ctx, out), level };
  return { gains: [], lanes: { late: 0, place: { ...place, ...(onward ? { onward } : {}) } } };
}

/**
 * Performers hear themselves without delay: where anything on the way to the monitor looks ahead, what their lines give
 * goes to it beside the buses, through what of the track's chain does not delay, at the levels and places that it would
 * have. Nodes of the tracks that hear a line, to be fed in place of their tracks.
 */
export function heardNodes(ctx: Compiling, nodes: readonly PlanNode[]): PlanNode[] {
  const late = nodes.some((n) => n.links.some((l) => l.to === MONITOR && n.lead + l.delay > 0));
  if (!late) return [];
  const fed = new Set(nodes.flatMap((n) => (n.kind === 'line' ? n.links.map((l) => l.to) : [])));
  const rate = ctx.doc.format.sampleRate;
  return ctx.doc.tracks.flatMap((track): PlanNode[] => {
    const own = nodes.find((n) => n.id === track.id);
    if (!own || !fed.has(track.id)) return [];
    const id = heardNode(track.id);
    const sends = own.links.filter((l) => track.sends.some((s) => s.id === l.id));
    return [
      {
        id,
        kind: 'heard',
        channels: own.channels,
        // What listens to another sound would wait for it.
        chain: track.chain.filter((s) => !s.key && stageKind(s.type).delay(s.values, rate) === 0),
        gain: own.gain,
        ...(own.lanes ? { lanes: { ...own.lanes, late: 0 } } : {}),
        lead: 0,
        links: [
          {
            id: `${id}/out`,
            to: MONITOR,
            tap: 'after',
            ...heardGains(ctx, track),
            delay: 0,
          },
          ...sends.map((l) => ({
            ...l,
            id: `${id}/${l.id}`,
            delay: 0,
            ...(l.lanes ? { lanes: { ...l.lanes, late: 0 } } : {}),
          })),
        ],
      },
    ];
  });
}
