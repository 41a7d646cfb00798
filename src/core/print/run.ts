import { compilePlan, Engine, foldNode, itemsIn, layItem, type Plan } from '@/core/engine';
import { DATA_OFFSET, FrameCodec, bytesPerSample, formatOfWord } from '@/core/files';
import { ChannelSet, type Kernels } from '@/core/kernels';
import { layoutOf, loudnessWeights, widthOf } from '@/core/speakers';
import { Measure, type Measured } from '@/core/measure';
import type { Deliverable, SessionDoc } from '@/core/session';

/** Planar samples of a file; the arrays may be overwritten by the next call. */
export type MediaReader = (media: string, from: number, frames: number) => Promise<Float32Array[]>;

/** Where a printed file's bytes go; offsets are from the start of the file. */
export interface PrintSink {
  write(offset: number, bytes: Uint8Array): Promise<void>;
}

export interface PrintOptions {
  range: { start: number; end: number };
  deliverables: readonly Deliverable[];
  /** Samples per engine block; the result does not depend on it. */
  block?: number;
  onProgress?: (share: number) => void;
  signal?: AbortSignal;
  /** Measures while printing; the figures are then those before rounding to the word length. */
  measure?: boolean;
}

export interface PrintedFile {
  deliverable: Deliverable;
  frames: number;
  /** Samples that were beyond full scale and are held there. */
  overs: number;
  measured?: Measured;
}

const SPAN = 16384;
const BLOCK = 1024;

interface Output {
  deliverable: Deliverable;
  node: string;
  lead: number;
  codec: FrameCodec;
  /** What a span gives, until it is written. */
  held: Uint8Array;
  heldBytes: number;
  table: number;
  frames: number;
  overs: number;
  sink: PrintSink;
  measure: Measure | null;
}

/**
 * Prints all deliverables in one pass: everything is read once, the engine runs once. Leaves the first
 * DATA_OFFSET bytes of each file for its header. Throws the signal's reason when it is aborted.
 */
export async function printSession(
  k: Kernels,
  doc: SessionDoc,
  read: MediaReader,
  sinkOf: (d: Deliverable) => PrintSink,
  options: PrintOptions,
): Promise<PrintedFile[]> {
  const plan = compilePlan(k, doc, { mode: 'print' });
  const block = options.block ?? BLOCK;
  const engine = new Engine(k, block);
  engine.load(plan);
  const outputs = options.deliverables.map((d) =>
    openOutput(k, doc, plan, d, sinkOf(d), { block, measure: options.measure ?? false }),
  );
  const total = options.range.end - options.range.start;
  const latest = Math.max(0, ...outputs.map((o) => o.lead));
  const tracks = doc.tracks.map((track) => ({ track, span: new ChannelSet(k, widthOf(track.layout), SPAN) }));
  const scratch = k.x.alloc(SPAN * 4);

  for (let at = 0; at < total + latest; at += SPAN) {
    options.signal?.throwIfAborted();
    const frames = Math.min(SPAN, total + latest - at);
    for (const { track, span } of tracks) {
      span.clear(frames);
      for (const item of itemsIn(track, options.range.start + at, frames)) {
        layItem(k, span, scratch, item, await read(item.media, item.from, item.frames));
      }
    }
    for (let b = 0; b < frames; b += block) {
      const n = Math.min(block, frames - b);
      engine.begin(n);
      for (const { track, span } of tracks) {
        const { buffer } = engine.node(track.id);
        for (let c = 0; c < buffer.channels; c++) k.x.copy(buffer.at(c), span.at(c) + b * 4, n);
      }
      engine.run(n);
      for (const o of outputs) takeBlock(k, engine, o, at + b, n, total);
    }
    for (const o of outputs) await writeSpan(o);
    options.onProgress?.(Math.min(1, (at + frames) / (total + latest)));
  }
  const files = outputs.map(({ deliverable, frames, overs, measure }) => ({
    deliverable,
    frames,
    overs,
    measured: measure?.result(),
  }));
  outputs.forEach((o) => o.measure?.free());
  outputs.forEach((o) => o.codec.free());
  tracks.forEach((t) => t.span.free());
  k.x.release(scratch);
  return files;
}

function openOutput(
  k: Kernels,
  doc: SessionDoc,
  plan: Plan,
  d: Deliverable,
  sink: PrintSink,
  { block, measure }: { block: number; measure: boolean },
): Output {
  const node = plan.nodes.find((n) => n.id === foldNode(d.id)) ?? plan.nodes.find((n) => n.id === d.bus);
  if (!node) throw new RangeError(`the bus of the deliverable ${d.token} is not in the session any more`);
  return {
    deliverable: d,
    node: node.id,
    lead: node.lead,
    sink,
    frames: 0,
    overs: 0,
    heldBytes: 0,
    held: new Uint8Array((SPAN + block) * node.channels * bytesPerSample(formatOfWord(doc.format.wordLength))),
    codec: new FrameCodec(k, formatOfWord(doc.format.wordLength), node.channels, block),
    table: k.x.alloc(node.channels * 4),
    measure: measure ? new Measure(k, doc.format.sampleRate, loudnessWeights(layoutOf(d.layout)), block) : null,
  };
}

// An output that is late by `lead` samples begins with them; they belong before the range.
function takeBlock(k: Kernels, engine: Engine, o: Output, at: number, n: number, total: number): void {
  const from = Math.max(0, o.lead - at);
  const to = Math.min(n, o.lead + total - at);
  if (to <= from) return;
  const { buffer } = engine.node(o.node);
  for (let c = 0; c < buffer.channels; c++) k.heapU32[(o.table >> 2) + c] = buffer.at(c) + from * 4;
  o.measure?.run(o.table, to - from);
  const { bytes, overs } = o.codec.encode(o.table, to - from);
  o.held.set(bytes, o.heldBytes);
  o.heldBytes += bytes.length;
  o.frames += to - from;
  o.overs += overs;
}

async function writeSpan(o: Output): Promise<void> {
  if (o.heldBytes === 0) return;
  const end = DATA_OFFSET + o.frames * o.codec.channels * bytesPerSample(o.codec.format);
  await o.sink.write(end - o.heldBytes, o.held.subarray(0, o.heldBytes));
  o.heldBytes = 0;
}
