import { compilePlan, Engine, type Plan } from '@/core/engine';
import { ChannelSet, type Kernels } from '@/core/kernels';
import { linksOf } from '@/core/paths';
import {
  feeding,
  freshOf,
  isBus,
  nodeOf,
  playedOf,
  pointsOf,
  type Bus,
  type FrozenNodes,
  type SessionDoc,
  type Stage,
  type Track,
} from '@/core/session';
import { stageKind } from '@/core/stages';
import { PRINT_SPAN } from './run';
import { SpanFeed, type MediaReader } from './spanFeed';

const BLOCK = 1024;
/** What filters ring on (s), beside what stages say of their own tails. */
const RING = 1;
/** Stages tell their tails down to -60 dB (reverberation time, ISO 3382-1); what is kept goes down to -140 dB. */
const TO_SILENCE = 140 / 60;
/** The chain runs so long (s) before the first clip, as it does in a print: detectors and glides have settled by then. */
const WARM = 10;

/** The stretch of the timeline that a track's or bus's sound behind its chain takes, its tail included. Samples. */
export function frozenSpan(doc: SessionDoc, id: string): { start: number; frames: number } {
  const node = nodeOf(doc, id);
  const behind = isBus(node) ? feeding(doc, id) : [node];
  const sounding = behind.flatMap((n) => (isBus(n) ? [] : n.clips.filter((c) => !c.muted)));
  const start = Math.min(...sounding.map((c) => c.start - (c.joint?.frames ?? 0)));
  const end = Math.max(...sounding.map((c) => c.start + c.length));
  const tail = RING + longestTail(doc, behind, id);
  const from = Math.max(0, start);
  return { start: from, frames: end - from + Math.ceil(tail * doc.format.sampleRate) };
}

// One room sounds into the next: tails of chains that stand one behind the other add up. Seconds.
function longestTail(doc: SessionDoc, behind: readonly (Track | Bus)[], id: string): number {
  const links = linksOf(doc);
  const nodes = new Map(behind.map((n) => [n.id, n]));
  const known = new Map<string, number>();
  const tail = (at: string): number => {
    const node = nodes.get(at);
    if (!node) return 0;
    const before = known.get(at);
    if (before !== undefined) return before;
    known.set(at, 0);
    const own = node.chain.reduce((sum, s) => sum + (s.on ? tailOf(doc, at, s) : 0), 0);
    const all = own + Math.max(0, ...links.to(at).map((l) => tail(l.from)));
    known.set(at, all);
    return all;
  };
  return tail(id);
}

// Where a value follows the timeline the longest counts.
function tailOf(doc: SessionDoc, node: string, { id, type, values }: Stage): number {
  const kind = stageKind(type);
  if (!kind.tail) return 0;
  const highest = kind.params.flatMap((p) => {
    const points = pointsOf(doc, { node, stage: id, param: p.id });
    return points ? [[p.id, Math.max(...points.map((at) => at.value))] as const] : [];
  });
  return TO_SILENCE * Math.max(kind.tail(values), kind.tail({ ...values, ...Object.fromEntries(highest) }));
}

// What comes before it may play from files of its own; it itself and what lies around it may not.
function frozenBefore(doc: SessionDoc, id: string): FrozenNodes {
  const before = new Set(feeding(doc, id).map((n) => n.id));
  return new Map([...freshOf(doc)].filter(([n]) => n !== id && before.has(n)));
}

/** A plan of what a node needs, which leads nowhere behind it. */
function planUpTo(whole: Plan, id: string): Plan {
  const needed = new Set([id]);
  for (const node of [...whole.nodes].reverse()) {
    if (!needed.has(node.id) && !node.links.some((l) => needed.has(l.to))) continue;
    needed.add(node.id);
    for (const key of Object.values(node.keys ?? {})) needed.add(key);
  }
  const nodes = whole.nodes.filter((n) => needed.has(n.id));
  return {
    ...whole,
    nodes: nodes.map((n) => ({ ...n, links: n.id === id ? [] : n.links.filter((l) => needed.has(l.to)) })),
  };
}

/**
 * A track's or bus's sound behind its chain and before its level, as it is printed: from `frozenSpan(doc, id).start` on,
 * without delay. `take` is given planar samples: `n` frames from `from` on of every channel of `set`, one call after the
 * other. Throws what reading throws.
 */
export async function renderNode(
  k: Kernels,
  doc: SessionDoc,
  id: string,
  read: MediaReader,
  take: (set: ChannelSet, from: number, n: number) => Promise<void>,
  onProgress: (share: number) => void = () => {},
): Promise<void> {
  const frozen = frozenBefore(doc, id);
  const plan = planUpTo(compilePlan(k, unmuted(doc, id), { mode: 'print', frozen }), id);
  const node = plan.nodes.find((n) => n.id === id)!;
  const engine = new Engine(k, BLOCK);
  engine.load(plan);
  const needed = new Set(plan.nodes.map((n) => n.id));
  const tracks = playedOf(doc, frozen).tracks.filter((t) => needed.has(t.id));
  const feed = new SpanFeed(k, tracks, doc.media, read, PRINT_SPAN);
  const { start, frames } = frozenSpan(doc, id);
  const warm = Math.min(start, WARM * doc.format.sampleRate);
  const from = start - warm;
  const total = warm + frames + node.lead;
  try {
    feed.fetch(from);
    for (let at = 0; at < total; at += PRINT_SPAN) {
      await feed.take();
      if (at + PRINT_SPAN < total) feed.fetch(from + at + PRINT_SPAN);
      const n = Math.min(PRINT_SPAN, total - at);
      for (let b = 0; b < n; b += BLOCK) {
        const part = Math.min(BLOCK, n - b);
        engine.begin(part);
        for (const { track, span } of feed.current()) {
          const { buffer } = engine.node(track.id);
          for (let c = 0; c < buffer.channels; c++) k.x.copy(buffer.at(c), span.at(c) + b * 4, part);
        }
        engine.run(part, from + at + b);
        // What comes out before is warming up and the delay.
        const late = Math.min(part, Math.max(0, warm + node.lead - at - b));
        if (late < part) await take(engine.node(id).buffer, late, part - late);
      }
      onProgress(Math.min(1, (at + n) / total));
    }
  } finally {
    await feed.close();
  }
}

// Level and mute are not in the file: they stay free to move.
function unmuted(doc: SessionDoc, id: string): SessionDoc {
  const free = <T extends Track | Bus>(n: T): T => (n.id === id ? { ...n, level: 0, muted: false } : n);
  const lanes = Object.entries(doc.lanes).filter(([, l]) => l.target.node !== id || l.target.stage !== undefined);
  return { ...doc, tracks: doc.tracks.map(free), buses: doc.buses.map(free), lanes: Object.fromEntries(lanes) };
}
