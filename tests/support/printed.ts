import { compilePlan, type Plan } from '@/core/engine';
import { DATA_OFFSET } from '@/core/files';
import type { Kernels } from '@/core/kernels';
import {
  deliverablesOf,
  partsOf,
  PRINT_SPAN,
  printSession,
  prove,
  sessionFileHeader,
  type MediaReader,
  type NodeExchange,
  type PrintedFile,
  type Proof,
} from '@/core/print';
import { wordLengthOf, orderOf, type SessionDoc } from '@/core/session';
import { widthOf } from '@/core/speakers';
import { newKernels } from './kernels';
import { MemorySource } from './memorySource';

/** Reads media from arrays of planar samples. */
export const readerOf =
  (sounds: Readonly<Record<string, readonly Float32Array[]>>): MediaReader =>
  async (media, from, frames, lay) =>
    lay(sounds[media]!.map((c) => c.subarray(from, from + frames)));

export interface InMemory {
  files: PrintedFile[];
  /** Files by deliverable. */
  bytes: Map<string, Uint8Array>;
  /** The file of a bus, as new sessions and edits call its deliverable. */
  of(bus: string): MemorySource;
  range: { start: number; end: number };
}

/** Both sides of an exchange in one thread. */
function pair(plan: Plan, nodes: string[]): [giver: NodeExchange, taker: NodeExchange] {
  const room = new Map<string, Float32Array>();
  for (const n of plan.nodes)
    if (nodes.includes(n.id))
      for (let c = 0; c < n.channels; c++)
        for (const slot of [0, 1]) room.set(`${n.id}/${c}/${slot}`, new Float32Array(PRINT_SPAN));
  const count = { given: 0, taken: 0 };
  let wake: (() => void)[] = [];
  const side = (waits: (span: number) => boolean, done: (span: number) => void): NodeExchange => ({
    nodes,
    ready: async (span) => {
      while (waits(span)) await new Promise<void>((resolve) => wake.push(resolve));
    },
    samples: (node, channel, span) => room.get(`${node}/${channel}/${span % 2}`)!,
    done: (span) => {
      done(span);
      const all = wake;
      wake = [];
      all.forEach((w) => w());
    },
  });
  return [
    side(
      (span) => span - count.taken >= 2,
      (span) => (count.given = span + 1),
    ),
    side(
      (span) => count.given <= span,
      (span) => (count.taken = span + 1),
    ),
  ];
}

/** Prints a session into memory, in as many parts as asked, each with kernels of its own. */
export async function printed(
  k: Kernels,
  doc: SessionDoc,
  read: MediaReader,
  {
    start = 0,
    end,
    block,
    signal,
    parts: count = 1,
  }: { start?: number; end: number; block?: number; signal?: AbortSignal; parts?: number },
): Promise<InMemory> {
  const range = { start, end };
  const bytes = new Map<string, Uint8Array>();
  const whole = compilePlan(k, doc, { mode: 'print' });
  const parts = partsOf(whole, count);
  const pairs = parts.map((p) => pair(p.plan, p.gives));
  const made = await Promise.all(
    parts.map((part, index) =>
      printSession(
        parts.length === 1 ? k : newKernels(),
        doc,
        read,
        (d) => {
          const frame = widthOf(d.layout) * (wordLengthOf(doc, d) / 8);
          const file = new Uint8Array(DATA_OFFSET + (end - start) * frame);
          bytes.set(d.id, file);
          return { write: async (at, piece) => file.set(piece, at) };
        },
        {
          range,
          block,
          signal,
          deliverables: deliverablesOf(whole, part, doc.deliverables),
          ...(parts.length > 1
            ? {
                part: {
                  index,
                  of: count,
                  exchanges: index === 0 ? pairs.slice(1).map((p) => p[1]) : [pairs[index]![0]],
                },
              }
            : {}),
        },
      ),
    ),
  );
  const files = made.flat();
  for (const f of files)
    bytes.get(f.deliverable.id)!.set(
      sessionFileHeader(doc, {
        description: f.deliverable.token,
        layout: f.deliverable.layout,
        order: orderOf(doc, f.deliverable),
        wordLength: f.deliverable.wordLength,
        start,
        frames: f.frames,
        made: '2026-03-02T09:00:00',
      }),
    );
  return { files, bytes, of: (bus) => new MemorySource(bytes.get(`print-${bus}`)!), range };
}

/** The proof of what was printed into memory; names are the letters of each file, with its layout where `layouts` is set. */
export async function provenIn(
  k: Kernels,
  doc: SessionDoc,
  { files, bytes, range }: Pick<InMemory, 'files' | 'bytes' | 'range'>,
  { made = '2026-03-02T09:00:00', layouts = false } = {},
): Promise<Proof> {
  const inputs = files.map((printed) => {
    const file = bytes.get(printed.deliverable.id)!;
    const { token, layout } = printed.deliverable;
    return {
      printed,
      name: layouts ? `${token}_${layout}.wav` : `${token}.wav`,
      source: new MemorySource(file),
      seal: async () => [{ file: `${token}.wav`, sha256: 'ab'.repeat(32), bytes: file.length }],
    };
  });
  return { made, ...(await prove(k, doc, inputs, { range })) };
}
