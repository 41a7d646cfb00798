import { compilePlan, Engine, foldNode, printNode, type Plan } from '@/core/engine';
import { DATA_OFFSET, FrameCodec, bytesPerSample, formatOfWord, type Dithering } from '@/core/files';
import type { Kernels } from '@/core/kernels';
import { layoutIn, layoutOf, loudnessWeights, reordering } from '@/core/speakers';
import { Measure, type Measured } from '@/core/measure';
import { wordLengthOf, ditherOf, orderOf, playedOf, type Deliverable, type SessionDoc } from '@/core/session';
import type { NodeExchange } from './exchange';
import { layLeadIn, popChannels, type LeadInFrames } from './leadIn';
import { partsOf, type PlanPart } from './parts';
import { type MediaReader, SpanFeed } from './spanFeed';

/** Where a printed file's bytes go; offsets are from the start of the file. */
export interface PrintSink {
  write(offset: number, bytes: Uint8Array): Promise<void>;
}

export interface PrintOptions {
  range: { start: number; end: number };
  deliverables: readonly Deliverable[];
  /** What every file begins with, before the range. */
  leadIn?: LeadInFrames | null;
  /** Frames that are printed after the range, in which no source sounds. */
  tail?: number;
  /** Samples per engine block; the result does not depend on it. */
  block?: number;
  onProgress?: (share: number) => void;
  signal?: AbortSignal;
  /** Runs a part of the session only; `deliverables` are those of its nodes. */
  part?: { index: number; of: number; exchanges: readonly NodeExchange[] };
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

/** Frames that are read, passed on and written at a time. */
export const PRINT_SPAN = 16384;
const SPAN = PRINT_SPAN;
const BLOCK = 1024;

interface Output {
  deliverable: Deliverable;
  node: string;
  lead: number;
  codec: FrameCodec;
  dither: Dithering;
  /** What a span gives, until it is written, and the span before that is being written. */
  held: Uint8Array;
  sent: Uint8Array;
  writing: Promise<void>;
  heldBytes: number;
  table: number;
  /** For each channel of the file, that of the node. */
  channels: readonly number[];
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
  given: SessionDoc,
  read: MediaReader,
  sinkOf: (d: Deliverable) => PrintSink,
  options: PrintOptions,
): Promise<PrintedFile[]> {
  // Frozen tracks are read from what they were frozen to.
  const doc = playedOf(given);
  const whole = compilePlan(k, doc, { mode: 'print' });
  const { plan } = options.part ? partsOf(whole, options.part.of)[options.part.index]! : { plan: whole };
  const exchanges = options.part?.exchanges ?? [];
  const first = options.part ? options.part.index === 0 : true;
  const block = options.block ?? BLOCK;
  const engine = new Engine(k, block);
  engine.load(plan);
  const outputs = options.deliverables.map((d) =>
    openOutput(k, doc, plan, d, sinkOf(d), { block, measure: options.measure ?? false }),
  );
  const { tail = 0 } = options;
  const total = options.range.end - options.range.start + tail;
  // All parts run equally long, whatever they print themselves.
  const latest = Math.max(0, ...doc.deliverables.map((d) => outputNode(whole, d)?.lead ?? 0));
  const { start } = options.range;
  const own = new Set(plan.nodes.map((n) => n.id));
  for (const e of exchanges) for (const id of e.nodes) if (first) own.delete(id);
  const feed = new SpanFeed(
    k,
    doc.tracks.filter((t) => own.has(t.id)),
    doc.media,
    read,
    SPAN,
    tail > 0 ? options.range.end : Infinity,
  );
  try {
    if (options.leadIn) for (const o of outputs) await begin(doc, o, options.leadIn, block);
    feed.fetch(start);
    for (let at = 0; at < total + latest; at += SPAN) {
      options.signal?.throwIfAborted();
      const frames = Math.min(SPAN, total + latest - at);
      await feed.take();
      if (at + SPAN < total + latest) feed.fetch(start + at + SPAN);
      const span = at / SPAN;
      for (const e of exchanges) await e.ready(span);
      for (let b = 0; b < frames; b += block) {
        const n = Math.min(block, frames - b);
        engine.begin(n);
        for (const { track, span } of feed.current()) {
          const { buffer } = engine.node(track.id);
          for (let c = 0; c < buffer.channels; c++) k.x.copy(buffer.at(c), span.at(c) + b * 4, n);
        }
        if (first) for (const e of exchanges) takeNodes(k, engine, e, span, b, n);
        engine.run(n, start + at + b);
        if (!first) for (const e of exchanges) giveNodes(engine, e, span, b, n);
        for (const o of outputs) takeBlock(k, engine, o, at + b, n, total);
      }
      for (const e of exchanges) e.done(span);
      // The files of the span before are on their way to the disk meanwhile.
      await Promise.all(outputs.map(writeSpan));
      options.onProgress?.(Math.min(1, (at + frames) / (total + latest)));
    }
    await Promise.all(outputs.map((o) => o.writing));
  } finally {
    await feed.close();
  }
  const files = outputs.map(({ deliverable, frames, overs, measure }) => ({
    deliverable,
    frames,
    overs,
    measured: measure?.result(),
  }));
  outputs.forEach((o) => o.measure?.free());
  outputs.forEach((o) => o.codec.free());
  return files;
}

const outputNode = (plan: Plan, d: Deliverable) =>
  plan.nodes.find((n) => n.id === foldNode(d.id)) ?? printNode(plan, d.bus);

/** The deliverables that a part of a whole plan prints itself. */
export const deliverablesOf = (whole: Plan, part: PlanPart, deliverables: readonly Deliverable[]): Deliverable[] =>
  deliverables.filter((d) => {
    const id = outputNode(whole, d)?.id;
    return id !== undefined && part.plan.nodes.some((n) => n.id === id) && !part.takes.includes(id);
  });

function takeNodes(k: Kernels, engine: Engine, e: NodeExchange, span: number, from: number, n: number): void {
  for (const id of e.nodes) {
    const { buffer } = engine.node(id);
    for (let c = 0; c < buffer.channels; c++)
      k.heap.set(e.samples(id, c, span).subarray(from, from + n), buffer.at(c) >> 2);
  }
}

function giveNodes(engine: Engine, e: NodeExchange, span: number, from: number, n: number): void {
  for (const id of e.nodes) {
    const { buffer } = engine.node(id);
    for (let c = 0; c < buffer.channels; c++) e.samples(id, c, span).set(buffer.view(c, n), from);
  }
}

function openOutput(
  k: Kernels,
  doc: SessionDoc,
  plan: Plan,
  d: Deliverable,
  sink: PrintSink,
  { block, measure }: { block: number; measure: boolean },
): Output {
  const node = outputNode(plan, d);
  if (!node) throw new RangeError(`the bus of the deliverable ${d.token} is not in the session any more`);
  const format = formatOfWord(wordLengthOf(doc, d));
  const bytes = (SPAN + block) * node.channels * bytesPerSample(format);
  return {
    deliverable: d,
    node: node.id,
    lead: node.lead,
    sink,
    frames: 0,
    overs: 0,
    heldBytes: 0,
    writing: Promise.resolve(),
    sent: new Uint8Array(bytes),
    held: new Uint8Array(bytes),
    codec: new FrameCodec(k, format, node.channels, block),
    dither: ditherOf(doc, d),
    table: k.x.alloc(node.channels * 4),
    channels: reordering(layoutOf(d.layout), 'wav', orderOf(doc, d)),
    measure: measure
      ? new Measure(k, doc.format.sampleRate, loudnessWeights(layoutIn(layoutOf(d.layout), orderOf(doc, d))), block)
      : null,
  };
}

// The lead-in comes from nowhere in the session: each file is given it before its first sample.
async function begin(doc: SessionDoc, o: Output, lead: LeadInFrames, block: number): Promise<void> {
  const { planar } = o.codec;
  const sounds = popChannels(o.deliverable.layout, orderOf(doc, o.deliverable));
  for (let at = 0; at < lead.frames; at += block) {
    const n = Math.min(block, lead.frames - at);
    layLeadIn(lead, planar, sounds, at, n);
    keep(o, planar.table, n);
    if (o.heldBytes >= SPAN * o.codec.channels * bytesPerSample(o.codec.format)) await writeSpan(o);
  }
  await writeSpan(o);
}

function keep(o: Output, table: number, n: number): void {
  const { bytes, overs } = o.codec.encode(table, n, o.dither);
  o.held.set(bytes, o.heldBytes);
  o.heldBytes += bytes.length;
  o.frames += n;
  o.overs += overs;
}

// An output that is late by `lead` samples begins with them; they belong before the range.
function takeBlock(k: Kernels, engine: Engine, o: Output, at: number, n: number, total: number): void {
  const from = Math.max(0, o.lead - at);
  const to = Math.min(n, o.lead + total - at);
  if (to <= from) return;
  const { buffer } = engine.node(o.node);
  o.channels.forEach((own, c) => (k.heapU32[(o.table >> 2) + c] = buffer.at(own) + from * 4));
  o.measure?.run(o.table, to - from);
  keep(o, o.table, to - from);
}

// Waits for the span before only: this one is written while the next is made.
async function writeSpan(o: Output): Promise<void> {
  await o.writing;
  if (o.heldBytes === 0) return;
  const end = DATA_OFFSET + o.frames * o.codec.channels * bytesPerSample(o.codec.format);
  o.writing = o.sink.write(end - o.heldBytes, o.held.subarray(0, o.heldBytes));
  o.writing.catch(() => {});
  [o.held, o.sent] = [o.sent, o.held];
  o.heldBytes = 0;
}
