// A print in parts is the print in one piece, to the last byte.
import { describe, expect, it } from 'vitest';
import { newKernels, noise } from '../../../tests/support/kernels';
import { printed, readerOf } from '../../../tests/support/printed';
import { compilePlan } from '@/core/engine';
import { DATA_OFFSET } from '@/core/files';
import { applyEdit, newSession, readEdit, type EditJson, type LaneTarget, type SessionDoc } from '@/core/session';
import { partsOf, PRINT_SPAN } from '.';

const k = newKernels();
const FRAMES = 3 * PRINT_SPAN + 777;
const STEMS = ['dia', 'nar', 'mus', 'efx', 'amb'];
const sounds = Object.fromEntries(STEMS.map((s, i) => [s, [noise(FRAMES, 0.3, i + 1)]]));
const read = readerOf(sounds);

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

const lane = (target: LaneTarget, from: number, to: number): EditJson => ({
  type: 'writeLane',
  target,
  from: 0,
  to: FRAMES,
  points: [
    { at: 0, value: from, shape: 'line' },
    { at: FRAMES, value: to, shape: 'line' },
  ],
});

/** The files as they are in so many parts, without their headers. */
async function print(doc: SessionDoc, count: number, block = 1024): Promise<Map<string, Buffer>> {
  const { bytes } = await printed(k, doc, read, { end: FRAMES, parts: count, block });
  return new Map([...bytes].map(([id, file]) => [id, Buffer.from(file.subarray(DATA_OFFSET))]));
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
    // A reference with a limiter, a second one whose stems are limited together, and a hall for each stem.
    const doc = session(
      { type: 'addStage', owner: { kind: 'bus', id: 'ref' }, id: 'r', stage: 'limiter' },
      {
        type: 'addTracks',
        tracks: [{ id: 'hall', name: 'Hall', layout: '5.1', kind: 'return', destination: 'amb' }],
      },
      { type: 'setBus', bus: 'hall', rooms: 'each stem', trim: -3 },
      { type: 'addStage', owner: { kind: 'bus', id: 'hall' }, id: 'reverb', stage: 'reverb' },
      { type: 'addSend', owner: 't-nar', id: 's1', to: 'hall', level: -6 },
      { type: 'addSend', owner: 't-efx', id: 's2', to: 'hall', level: -3, tap: 'before' },
      lane({ node: 't-mus', param: 'level' }, -20, 3),
      lane({ node: 'nar', param: 'level' }, -6, 0),
      lane({ node: 't-efx', param: 'azimuth' }, -100, 100),
      lane({ node: 't-nar', send: 's1', param: 'level' }, -30, 0),
      lane({ node: 'dia', stage: 'l-dia', param: 'ceiling' }, -20, -6),
      lane({ node: 'ref', param: 'level' }, 0, -3),
      { type: 'addReference', id: 'me', name: 'Without narration', leftOut: ['nar'] },
      { type: 'setReference', bus: 'me', linked: { on: true, ceiling: -9, release: 80, peaks: 'true' } },
    );
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
