// A print in parts is the print in one piece, to the last byte.
import { describe, expect, it } from 'vitest';
import { newKernels, noise } from '../../../tests/support/kernels';
import { compilePlan, type Plan } from '@/core/engine';
import { DATA_OFFSET } from '@/core/files';
import { applyEdit, newSession, readEdit, type EditJson, type SessionDoc } from '@/core/session';
import { deliverablesOf, partsOf, PRINT_SPAN, printSession, type MediaReader, type NodeExchange } from '.';

const k = newKernels();
const FRAMES = 3 * PRINT_SPAN + 777;
const STEMS = ['dia', 'nar', 'mus', 'efx', 'amb'];
const sounds = Object.fromEntries(STEMS.map((s, i) => [s, [noise(FRAMES, 0.3, i + 1)]]));
const read: MediaReader = async (media, from, frames, lay) =>
  lay(sounds[media]!.map((c) => c.subarray(from, from + frames)));

function session(...edits: EditJson[]): SessionDoc {
  const all: EditJson[] = [
    ...STEMS.flatMap((bus): EditJson[] => [
      { type: 'addTrack', id: `t-${bus}`, name: bus, layout: 'mono', destination: bus },
      {
        type: 'addClip',
        id: `c-${bus}`,
        track: `t-${bus}`,
        start: 100,
        media: { id: bus, name: `${bus}.wav`, channels: 1, frames: FRAMES - 100, sampleRate: 48_000, kind: 'file' },
      },
      { type: 'addStage', owner: { kind: 'bus', id: bus }, id: `l-${bus}`, stage: 'limiter' },
      { type: 'setStage', owner: { kind: 'bus', id: bus }, stage: `l-${bus}`, values: { ceiling: -14 } },
    ]),
    { type: 'addStage', owner: { kind: 'track', id: 't-mus' }, id: 'duck', stage: 'compressor' },
    { type: 'switchStage', owner: { kind: 'track', id: 't-mus' }, stage: 'duck', on: true },
    { type: 'setStageKey', owner: { kind: 'track', id: 't-mus' }, stage: 'duck', key: 't-nar' },
    ...edits,
  ];
  const start = newSession('Parts', 'PT', {
    sampleRate: 48_000,
    wordLength: 24,
    fileKind: 'Broadcast WAV',
    frameRate: '25',
    startTimecode: '10:00:00:00',
    layout: '5.1',
  });
  return all.reduce((d, e) => applyEdit(d, readEdit(e)).doc, start);
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

async function print(doc: SessionDoc, count: number, block = 1024): Promise<Map<string, Buffer>> {
  const parts = partsOf(compilePlan(k, doc, { mode: 'print' }), count);
  const pairs = parts.map((p) => pair(p.plan, p.gives));
  const files = new Map<string, Buffer>();
  const run = (index: number) =>
    printSession(
      newKernels(),
      doc,
      read,
      (d) => {
        const file = Buffer.alloc(DATA_OFFSET + FRAMES * 18);
        files.set(d.id, file);
        return { write: async (at, bytes) => void file.set(bytes, at) };
      },
      {
        range: { start: 0, end: FRAMES },
        block,
        deliverables: deliverablesOf(parts[index]!, doc.deliverables),
        part: {
          index,
          of: count,
          exchanges: index === 0 ? pairs.slice(1).map((p) => p[1]) : [pairs[index]![0]],
        },
      },
    );
  await Promise.all(parts.map((_, i) => run(i)));
  return files;
}

describe('parts of a plan', () => {
  const plan = compilePlan(k, session(), { mode: 'print' });
  it.each([1, 2, 4, 8])('of %i: each node runs in one part, the reference in the first', (count) => {
    const parts = partsOf(plan, count);
    expect(parts.length).toBe(Math.min(count, 4));
    const homes = parts.flatMap((p) => p.plan.nodes.filter((n) => !p.takes.includes(n.id)).map((n) => n.id));
    expect(homes.sort()).toEqual(plan.nodes.map((n) => n.id).sort());
    expect(parts[0]!.plan.nodes.some((n) => n.id === 'ref')).toBe(true);
    expect(
      parts
        .slice(1)
        .flatMap((p) => p.gives)
        .sort(),
    ).toEqual([...parts[0]!.takes].sort());
  });
  it('keep a key with what listens to it', () => {
    for (const { plan: part, takes } of partsOf(plan, 4)) {
      const has = (id: string) => part.nodes.some((n) => n.id === id && !takes.includes(n.id));
      expect(has('t-nar')).toBe(has('t-mus'));
    }
  });
  it('meet wherever most buses meet, and are one where none do', () => {
    const sent = (to: string) =>
      STEMS.filter((s) => s !== to).map((bus): EditJson => ({ type: 'sendBus', bus, destination: to }));
    const parts = partsOf(compilePlan(k, session(...sent('nar')), { mode: 'print' }), 4);
    expect(parts[0]!.plan.nodes.map((n) => n.id)).toEqual(expect.arrayContaining(['nar', 'ref']));
    expect(partsOf(compilePlan(k, session(...sent('monitor')), { mode: 'print' }), 4)).toHaveLength(1);
  });
});

describe('a print in parts', () => {
  it('has the same bytes with one, two and four parts, in blocks of 64, 128, 500 and 4096', async () => {
    const doc = session({ type: 'addStage', owner: { kind: 'bus', id: 'ref' }, id: 'r', stage: 'limiter' });
    const whole = await print(doc, 1);
    expect(whole.size).toBe(doc.deliverables.length);
    for (const [count, block] of [
      [2, 1024],
      [4, 1024],
      [2, 64],
      [4, 128],
      [2, 500],
      [4, 4096],
    ] as const) {
      const parted = await print(doc, count, block);
      for (const [id, bytes] of whole) expect(Buffer.compare(parted.get(id)!, bytes), `${count} parts: ${id}`).toBe(0);
    }
  });
});
