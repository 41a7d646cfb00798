import { compilePlan, Engine } from '@/core/engine';
import { ChannelSet, type Kernels } from '@/core/kernels';
import { pointsOf, trackOf, type SessionDoc, type Stage } from '@/core/session';
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

/** The stretch of the timeline that a track's sound behind its chain takes, its tail included. Samples. */
export function frozenSpan(doc: SessionDoc, id: string): { start: number; frames: number } {
  const { clips, chain } = trackOf(doc, id);
  const sounding = clips.filter((c) => !c.muted);
  const start = Math.min(...sounding.map((c) => c.start - (c.joint?.frames ?? 0)));
  const end = Math.max(...sounding.map((c) => c.start + c.length));
  const tail = chain.reduce((sum, s) => sum + (s.on ? tailOf(doc, id, s) : 0), RING);
  const from = Math.max(0, start);
  return { start: from, frames: end - from + Math.ceil(tail * doc.format.sampleRate) };
}

// Where a value follows the timeline the longest counts.
function tailOf(doc: SessionDoc, track: string, { id, type, values }: Stage): number {
  const kind = stageKind(type);
  if (!kind.tail) return 0;
  const highest = kind.params.flatMap((p) => {
    const points = pointsOf(doc, { node: track, stage: id, param: p.id });
    return points ? [[p.id, Math.max(...points.map((at) => at.value))] as const] : [];
  });
  return TO_SILENCE * Math.max(kind.tail(values), kind.tail({ ...values, ...Object.fromEntries(highest) }));
}

/**
 * A track's sound behind its chain and before its level, as it is printed: from `frozenSpan(doc, id).start` on, without
 * the chain's delay. `take` is given planar samples: `n` frames from `from` on of every channel of `set`, one call after
 * the other. Throws what reading throws.
 */
export async function renderTrack(
  k: Kernels,
  doc: SessionDoc,
  id: string,
  read: MediaReader,
  take: (set: ChannelSet, from: number, n: number) => Promise<void>,
): Promise<void> {
  const track = { ...trackOf(doc, id), level: 0, muted: false, destination: null, sends: [] };
  const lanes = Object.fromEntries(
    Object.entries(doc.lanes).filter(([, l]) => l.target.node === id && l.target.stage !== undefined),
  );
  const alone = { ...doc, tracks: [track], lanes, deliverables: [] };
  const whole = compilePlan(k, alone, { mode: 'print' });
  const node = { ...whole.nodes.find((n) => n.id === id)!, links: [] };
  const engine = new Engine(k, BLOCK);
  engine.load({ ...whole, nodes: [node] });
  const feed = new SpanFeed(k, [track], read, PRINT_SPAN);
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
        const { buffer } = engine.node(id);
        for (const { span } of feed.current())
          for (let c = 0; c < buffer.channels; c++) k.x.copy(buffer.at(c), span.at(c) + b * 4, part);
        engine.run(part, from + at + b);
        // What comes out before is warming up and the chain's delay.
        const late = Math.min(part, Math.max(0, warm + node.lead - at - b));
        if (late < part) await take(buffer, late, part - late);
      }
    }
  } finally {
    await feed.close();
  }
}
