import { hasRooms, MONITOR, sounds, type Link } from '@/core/paths';
import { isBus, referenceOf, type Bus, type Track } from '@/core/session';
import { layoutOf, loudnessWeights, widthOf } from '@/core/speakers';
import { stageKind } from '@/core/stages';
import { keyNode, roomNode, through, type PlanLink, type PlanNode } from '../plan';
import type { Compiling } from './context';
import { nodeLanes } from './lanes';
import { gainsOf } from './linkGains';
import { inOrder } from './inOrder';
import { isLinked, linkedNodes, toLinked } from './linkedNodes';

export const DIM_DB = -20;

/** Nodes of tracks and buses in processing order, with those that come between them. */
export function soundNodes(ctx: Compiling): PlanNode[] {
  const made: PlanNode[] = [];
  for (const node of ctx.order) {
    if (isBus(node) && node.kind === 'reference' && node.linked?.on) made.push(...linkedNodes(ctx, node));
    made.push(...(isBus(node) ? busNodes(ctx, node) : [trackNode(ctx, node)]));
  }
  return inOrder(withKeys(ctx, made));
}

function trackNode(ctx: Compiling, t: Track): PlanNode {
  const { k, doc, live, options, open, links } = ctx;
  const { guides } = doc.settings;
  // A guide steps back while something is recorded; nothing in the session changes, so it comes back by itself.
  const held = live && (options.recording ?? false) && t.guide && !t.armed;
  const unheard = open !== null && !t.soloed && !links.from(t.id).some((l) => open.has(l.id));
  const lanes = nodeLanes(doc, t);
  // What was printed is muted until somebody solos it: one key between it and the mix.
  const muted = t.muted && !(t.print !== undefined && t.soloed);
  const silent = (muted && !lanes?.sounds) || unheard || (held && guides === 'mute');
  return {
    id: t.id,
    kind: 'track',
    channels: widthOf(t.layout),
    chain: t.chain,
    gain: silent ? 0 : k.gain((lanes?.level ? 0 : t.level) + (held && guides === 'dim' ? DIM_DB : 0)),
    ...(lanes ? { lanes } : {}),
    links: soundLinks(ctx, t, links.from(t.id)),
    lead: 0,
  };
}

// A return that is kept apart is there once for each stem that feeds it.
function busNodes(ctx: Compiling, b: Bus): PlanNode[] {
  const outs = ctx.links.from(b.id);
  if (!hasRooms(b)) return [busNode(ctx, b, b.id, outs)];
  const rooms = [...new Set(ctx.links.to(b.id).flatMap((l) => (l.room === undefined ? [] : [l.room])))];
  return rooms.map((room) =>
    busNode(
      ctx,
      b,
      roomNode(b.id, room),
      outs.filter((l) => l.room === undefined || l.room === room || l.kind === 'send'),
    ),
  );
}

function busNode(ctx: Compiling, b: Bus, id: string, outs: readonly Link[]): PlanNode {
  const { k } = ctx;
  const layout = layoutOf(b.layout);
  const lanes = nodeLanes(ctx.doc, b);
  return {
    id,
    ...(id === b.id ? {} : { of: b.id }),
    kind: 'bus',
    channels: layout.speakers.length,
    ...(b.trim !== 0 ? { trim: k.gain(b.trim) } : {}),
    chain: b.chain,
    gain: b.muted && !lanes?.sounds ? 0 : lanes?.level ? 1 : k.gain(b.level),
    ...(lanes ? { lanes } : {}),
    links: [...soundLinks(ctx, b, outs), ...toLinked(ctx, b)],
    lead: 0,
    ...(b.kind === 'reference' ? { reference: true } : {}),
    ...(b === referenceOf(ctx.doc) ? { weights: loudnessWeights(layout) } : {}),
  };
}

function soundLinks(ctx: Compiling, from: Track | Bus, outs: readonly Link[]): PlanLink[] {
  return outs.flatMap((l): PlanLink[] => {
    if (!sounds(l) || ctx.closing.has(l.id) || (l.to === MONITOR && !ctx.live)) return [];
    // What a linked limiter holds reaches its reference from behind it.
    if (isLinked(ctx, l)) return [];
    return [{ id: l.id, to: nodeTo(ctx, l), tap: l.tap, ...gainsOf(ctx, l, from), delay: 0 }];
  });
}

function nodeTo({ doc }: Compiling, l: Link): string {
  const bus = doc.buses.find((b) => b.id === l.to);
  return bus && hasRooms(bus) ? roomNode(bus.id, l.room ?? null) : l.to;
}

/**
 * Gives every stage that listens to another node a node of its own to read from, before the one it belongs to. A key
 * that would close a circle is left out; the stage then listens to its own input.
 */
function withKeys(ctx: Compiling, nodes: PlanNode[]): PlanNode[] {
  const byId = new Map(nodes.map((n) => [n.id, n]));
  const owners = new Map([...ctx.doc.tracks, ...ctx.doc.buses].map((o) => [o.id, o]));
  return nodes.flatMap((node) => {
    const owner = owners.get(node.of ?? node.id);
    const keys = owner ? ctx.links.to(owner.id).filter((l) => l.kind === 'key' && !ctx.closing.has(l.id)) : [];
    const made = keys.flatMap((l): PlanNode[] => {
      const stage = owner!.chain.find((s) => s.id === l.stage)!;
      const sources = nodesOf(ctx, l.from).flatMap((id) => byId.get(id) ?? []);
      if (!stageKind(stage.type).takesKey || sources.length === 0) return [];
      const id = keyNode(node.id, stage.id);
      const { channels } = sources[0]!;
      for (const source of sources)
        source.links.push({ id: `${id}/${source.id}`, to: id, tap: 'after', gains: through(channels), delay: 0 });
      node.keys = { ...node.keys, [stage.id]: id };
      return [{ id, kind: 'key', channels, chain: [], gain: 1, links: [], lead: 0 }];
    });
    return [...made, node];
  });
}

/** The nodes of a track or bus: several of a return that is kept apart. */
export function nodesOf({ doc, links }: Compiling, id: string): string[] {
  const bus = doc.buses.find((b) => b.id === id);
  if (!bus || !hasRooms(bus)) return [id];
  return [...new Set(links.to(id).flatMap((l) => (l.room === undefined ? [] : [roomNode(id, l.room)])))];
}
