import type { Kernels } from '@/core/kernels';
import { busOrder, soloedTracks } from '@/core/paths';
import { MONITOR, type Bus, type SessionDoc, type Stage, type Track } from '@/core/session';
import {
  foldDown,
  layoutOf,
  loudnessWeights,
  placementGains,
  stereoPlacementGains,
  toStereo,
  type LayoutId,
} from '@/core/speakers';
import { stageKind } from '@/core/stages';
import { AUDITION, EARS, foldNode, keyNode, type Plan, type PlanLink, type PlanNode } from './plan';

export interface CompileOptions {
  /** Live: solo, monitor, lines. Print: neither solo nor monitor, but fold-downs. */
  mode: 'live' | 'print';
  /** Whether recording runs, for tracks that hear their input only then. */
  rolling?: boolean;
  /** Whether something is being recorded, for guides that step back meanwhile. */
  recording?: boolean;
}

const DIM_DB = -20;

/** Samples that a chain delays. */
export const chainDelay = (chain: readonly Stage[], rate: number): number =>
  chain.reduce((sum, s) => sum + stageKind(s.type).delay(s.values, rate), 0);

/** Gains from each channel of a source to each of a mix: placed when mono or stereo, else by speaker. */
export function sourceGains(k: Kernels, track: Track, to: LayoutId): number[][] {
  const target = layoutOf(to);
  if (track.layout === 'mono') return [placementGains(k, target, track.placement)];
  if (track.layout === 'stereo') return stereoPlacementGains(k, target, track.placement);
  return foldDown(layoutOf(track.layout), target);
}

/** Turns a session into a plan, with every delay compensated. Loops are cut at the link that closes them. */
export function compilePlan(k: Kernels, doc: SessionDoc, options: CompileOptions): Plan {
  const rate = doc.format.sampleRate;
  const live = options.mode === 'live';
  const solo = live ? soloedTracks(doc) : null;
  const { buses, closing } = busOrder(doc);
  const mix = doc.format.layout;

  const { guides } = doc.settings;
  const tracks = doc.tracks.map((t): PlanNode => {
    // A guide steps back while something is recorded; nothing in the session changes, so it comes back by itself.
    const held = live && (options.recording ?? false) && t.guide && !t.armed;
    const silent = t.muted || (solo !== null && !solo.has(t.id)) || (held && guides === 'mute');
    return {
      id: t.id,
      kind: 'track',
      channels: layoutOf(t.layout).speakers.length,
      chain: t.chain,
      gain: silent ? 0 : k.gain(t.level + (held && guides === 'dim' ? DIM_DB : 0)),
      links: link(t.destination, (layout) => sourceGains(k, t, layout)),
      lead: 0,
    };
  });
  const busNodes = buses.map((b): PlanNode => {
    const layout = layoutOf(b.layout);
    return {
      id: b.id,
      kind: 'bus',
      channels: layout.speakers.length,
      chain: b.chain,
      gain: b.muted ? 0 : k.gain(b.level),
      links: closing.has(b.id) ? [] : link(b.destination, (to) => foldDown(layout, layoutOf(to))),
      lead: 0,
      ...(b.kind === 'reference' ? { weights: loudnessWeights(layout) } : {}),
    };
  });

  function link(destination: string | null, gains: (layout: LayoutId) => number[][]): PlanLink[] {
    if (destination === MONITOR) return live ? [{ to: MONITOR, gains: gains(mix), delay: 0 }] : [];
    const bus = doc.buses.find((b) => b.id === destination);
    return bus ? [{ to: bus.id, gains: gains(bus.layout), delay: 0 }] : [];
  }

  const nodes = live
    ? [...lineNodes(doc, options.rolling ?? false), ...tracks, ...busNodes, ...monitorNodes(k, doc)]
    : [...tracks, ...busNodes];
  if (!live) addFolds(doc, nodes);
  const ordered = addKeys(nodes);
  compensate(ordered, rate);
  return { sampleRate: rate, nodes: ordered };
}

function lineNodes(doc: SessionDoc, rolling: boolean): PlanNode[] {
  const patched = doc.lines.filter((l) => doc.tracks.some((t) => t.inputs.includes(l.id)));
  return patched.map((line) => ({
    id: line.id,
    kind: 'line' as const,
    channels: 1,
    chain: line.chain,
    gain: 1,
    lead: 0,
    links: doc.tracks.flatMap((t): PlanLink[] => {
      const heard =
        t.hearing === 'always' || (t.armed && (t.hearing === 'armed' || (t.hearing === 'rolling' && rolling)));
      const channel = t.inputs.indexOf(line.id);
      if (!heard || channel < 0) return [];
      return [{ to: t.id, gains: [t.inputs.map((_, c) => (c === channel ? 1 : 0))], delay: 0 }];
    }),
  }));
}

function monitorNodes(k: Kernels, doc: SessionDoc): PlanNode[] {
  const layout = layoutOf(doc.format.layout);
  const { level, dimmed, muted } = doc.monitor;
  const centre = layout.speakers.some((s) => s.label === 'C');
  const side = (label: string) =>
    layout.speakers.length === 1 ? 1 : label === 'L' || label === 'R' ? Math.SQRT1_2 : 0;
  const clicks = layout.speakers.map((s) => (centre ? (s.label === 'C' ? 1 : 0) : side(s.label)));
  return [
    {
      id: AUDITION,
      kind: 'audition',
      channels: 1,
      chain: [],
      gain: 1,
      lead: 0,
      links: [{ to: MONITOR, gains: [clicks], delay: 0 }],
    },
    {
      id: MONITOR,
      kind: 'monitor',
      channels: layout.speakers.length,
      chain: [],
      lead: 0,
      gain: muted ? 0 : k.gain(level + (dimmed ? DIM_DB : 0)),
      links: [{ to: EARS, gains: toStereo(layout), delay: 0 }],
    },
    { id: EARS, kind: 'ears', channels: 2, chain: [], gain: 1, links: [], lead: 0 },
  ];
}

// Deliverables narrower than their bus are folded down in the same pass.
function addFolds(doc: SessionDoc, nodes: PlanNode[]): void {
  for (const d of doc.deliverables) {
    const bus: Bus | undefined = doc.buses.find((b) => b.id === d.bus);
    if (!bus || bus.layout === d.layout) continue;
    const to = layoutOf(d.layout);
    nodes
      .find((n) => n.id === bus.id)!
      .links.push({ to: foldNode(d.id), gains: foldDown(layoutOf(bus.layout), to), delay: 0 });
    nodes.push({
      id: foldNode(d.id),
      kind: 'fold',
      channels: to.speakers.length,
      chain: [],
      gain: 1,
      links: [],
      lead: 0,
    });
  }
}

/**
 * Gives every stage that listens to another node a node of its own to read from, and puts all nodes after
 * what they hear. A key that would close a circle is left out; the stage then listens to its own input.
 */
function addKeys(nodes: PlanNode[]): PlanNode[] {
  const byId = new Map(nodes.map((n) => [n.id, n]));
  const listens = nodes.flatMap((owner) =>
    owner.chain.flatMap((stage) => {
      const source = stage.on && stage.key && stageKind(stage.type).takesKey ? byId.get(stage.key) : undefined;
      return source ? [{ owner, stage, source }] : [];
    }),
  );
  if (listens.length === 0) return nodes;
  const feeders = new Map(nodes.map((n) => [n.id, [] as PlanNode[]]));
  for (const n of nodes) for (const l of n.links) feeders.get(l.to)?.push(n);
  const ordered: PlanNode[] = [];
  const state = new Map<string, 'open' | 'done'>();
  const visit = (node: PlanNode): void => {
    state.set(node.id, 'open');
    for (const feeder of feeders.get(node.id)!) if (!state.has(feeder.id)) visit(feeder);
    for (const { stage, source } of listens.filter((l) => l.owner === node)) {
      if (!state.has(source.id)) visit(source);
      if (state.get(source.id) !== 'done') continue;
      const id = keyNode(stage.id);
      const through = Array.from({ length: source.channels }, (_, a) =>
        Array.from({ length: source.channels }, (_, b) => (a === b ? 1 : 0)),
      );
      source.links.push({ to: id, gains: through, delay: 0 });
      ordered.push({ id, kind: 'key', channels: source.channels, chain: [], gain: 1, links: [], lead: 0 });
      node.keys = { ...node.keys, [stage.id]: id };
    }
    state.set(node.id, 'done');
    ordered.push(node);
  };
  for (const node of nodes) if (!state.has(node.id)) visit(node);
  return ordered;
}

// A node waits for its latest input: the others' links are delayed by the difference. What is heard of a
// line while it is recorded is not held back.
function compensate(nodes: PlanNode[], rate: number): void {
  const byId = new Map(nodes.map((n) => [n.id, n]));
  const arrival = new Map<string, number>();
  const arrive = (id: string, at: number) => arrival.set(id, Math.max(arrival.get(id) ?? 0, at));
  for (const node of nodes) {
    // A key must be there when the sound reaches the stage that listens to it.
    for (const [stage, key] of Object.entries(node.keys ?? {}))
      arrive(node.id, (arrival.get(key) ?? 0) - delayBefore(node, stage, rate));
    if (node.kind === 'track' && arrival.get(node.id)) node.hold = arrival.get(node.id);
    for (const [stage, key] of Object.entries(node.keys ?? {}))
      arrival.set(key, (arrival.get(node.id) ?? 0) + delayBefore(node, stage, rate));
    node.lead = (arrival.get(node.id) ?? 0) + (node.kind === 'line' ? 0 : chainDelay(node.chain, rate));
    for (const l of node.links) if (byId.has(l.to) && node.kind !== 'line') arrive(l.to, node.lead);
  }
  for (const node of nodes) {
    node.links = node.links.filter((l) => byId.has(l.to));
    for (const l of node.links) if (node.kind !== 'line') l.delay = (arrival.get(l.to) ?? 0) - node.lead;
  }
}

const delayBefore = (node: PlanNode, stage: string, rate: number): number =>
  chainDelay(
    node.chain.slice(
      0,
      node.chain.findIndex((s) => s.id === stage),
    ),
    rate,
  );
