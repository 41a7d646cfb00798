// What is changed while sound runs: afterwards it is heard as if it had always been so, and no step on the way.
import { describe, expect, it } from 'vitest';
import { newKernels, noise, sine } from '../../../tests/support/kernels';
import { applied, sessionWith } from '../../../tests/support/session';
import { firstDifference } from '../../../tests/support/stages';
import type { LaneShape } from '@/core/lanes';
import type { EditJson, LaneTarget, SessionDoc } from '@/core/session';
import { compilePlan, Engine, type CompileOptions } from '.';

const k = newKernels();
const FRAMES = 24_000;
const AT = 6000;
/** Within 20 ms, and once more the look-ahead of a stage that came in. */
const SETTLED = AT + 960 + 200;
const GLIDE = 480;

const base = (...edits: EditJson[]): SessionDoc =>
  sessionWith(
    { type: 'addTrack', id: 'a', name: 'A', layout: 'mono', destination: 'nar' },
    { type: 'addTrack', id: 'b', name: 'B', layout: 'stereo', destination: 'efx' },
    { type: 'addTrack', id: 'v', name: 'V', layout: 'mono', destination: 'dia' },
    { type: 'addTrack', id: 'w', name: 'W', layout: '5.1', destination: 'amb' },
    { type: 'addLine', device: 'dev', channel: 0, name: 'One' },
    { type: 'patch', track: 'v', channel: 0, line: 'dev/1' },
    { type: 'setChain', owner: { kind: 'line', id: 'dev/1' }, chain: [] },
    ...edits,
  );

type Sources = Record<string, Float32Array[]>;
const channels = (make: (i: number) => Float32Array): Sources => ({
  a: [make(0)],
  b: [make(1), make(2)],
  w: [3, 4, 5, 6, 7, 8].map(make),
  'dev/1': [make(9)],
});
const noisy = channels((i) => noise(FRAMES, 0.3, 11 + i));
const smooth = channels((i) => sine(FRAMES, 48000, 40 + 7 * i, 0.2, 50 + 31 * i));

const NODES = ['ref', 'ears', 'nar', 'efx'];

/** What the nodes gave; `changes` are loaded at their samples. Nodes that are not there at the end give nothing. */
function play(
  start: SessionDoc,
  changes: [number, SessionDoc][],
  sources: Sources,
  size: number,
  options: CompileOptions,
) {
  const engine = new Engine(k, size);
  engine.load(compilePlan(k, start, options));
  const out = new Map<string, Float32Array[]>();
  let at = 0;
  const due = [...changes];
  while (at < FRAMES) {
    // A change falls between blocks.
    const until = Math.min(at + size, FRAMES, due[0]?.[0] ?? FRAMES);
    if (due[0]?.[0] === at) {
      engine.load(compilePlan(k, due.shift()![1], options));
      continue;
    }
    const n = until - at;
    engine.begin(n);
    for (const [id, given] of Object.entries(sources))
      if (engine.has(id)) given.forEach((s, c) => engine.node(id).buffer.view(c, n).set(s.subarray(at, until)));
    engine.run(n);
    for (const id of NODES) {
      if (!engine.has(id)) continue;
      const { buffer } = engine.node(id);
      const kept = out.get(id) ?? [];
      out.set(id, kept);
      for (let c = 0; c < buffer.channels; c++) (kept[c] ??= new Float32Array(FRAMES)).set(buffer.view(c, n), at);
    }
    at = until;
  }
  return out;
}

const live: CompileOptions = { mode: 'live', rolling: true };
const limiterOn = (kind: 'bus' | 'track', id: string, stage = `${id}-lim`): EditJson => ({
  type: 'addStage',
  owner: { kind, id },
  id: stage,
  stage: 'limiter',
});
// A ceiling that nothing reaches: its delay is what is looked at.
const quietLimiter = (id: string, stage = `${id}-lim`): EditJson[] => [
  limiterOn('bus', id, stage),
  { type: 'setStage', owner: { kind: 'bus', id }, stage, values: { ceiling: 0 } },
];
const hall: EditJson[] = [
  { type: 'addTracks', tracks: [{ id: 'hall', name: 'Hall', layout: 'stereo', kind: 'return', destination: 'amb' }] },
  { type: 'addSend', owner: 'a', id: 's-a', to: 'hall', level: -6 },
  { type: 'addSend', owner: 'b', id: 's-b', to: 'hall', level: -3, tap: 'before' },
];
const rooms: EditJson = { type: 'setBus', bus: 'hall', rooms: 'each stem' };
const linked = (on: boolean): EditJson => ({
  type: 'setReference',
  bus: 'ref',
  linked: { on, ceiling: -3, release: 20, peaks: 'sample' },
});
const armed: EditJson = { type: 'seatTrack', track: 'v', armed: true, hearing: 'armed' };
const lane = (target: LaneTarget, ...points: [number, number, LaneShape?][]): EditJson => ({
  type: 'writeLane',
  target,
  from: 0,
  to: 100_000,
  points: points.map(([at, value, shape = 'line']) => ({ at, value, shape })),
});
const rise = lane({ node: 'b', param: 'level' }, [0, -20], [FRAMES, 0]);
const turn = lane({ node: 'a', param: 'azimuth' }, [0, -150, 'smooth'], [20_000, 150]);
const undone = (...edits: EditJson[]) => [base(...edits), base()] as const;

/** Each: the session before, and after. */
const EXACT: Record<string, readonly [SessionDoc, SessionDoc]> = {
  'a destination': [base(), base({ type: 'sendTracks', tracks: ['a'], destination: 'dia' })],
  'a destination to nowhere': [base(), base({ type: 'sendTracks', tracks: ['a'], destination: null })],
  'a destination from nowhere': [base({ type: 'sendTracks', tracks: ['a'], destination: null }), base()],
  'a stem into another': [base(), base({ type: 'sendBus', bus: 'nar', destination: 'dia' })],
  'a limiter on one stem': [base(), base(...quietLimiter('nar'))],
  'a limiter taken off': undone(...quietLimiter('nar')),
  'a limiter moved to another stem': [base(...quietLimiter('nar')), base(...quietLimiter('efx'))],
  'a mute': [base(), base({ type: 'setTrack', track: 'b', muted: true })],
  'a mute taken off': undone({ type: 'setTrack', track: 'b', muted: true }),
  'a solo': [base(), base({ type: 'seatTrack', track: 'b', soloed: true })],
  'a level': [base(), base({ type: 'setTrack', track: 'b', level: -7.3 }, { type: 'setBus', bus: 'efx', level: 2 })],
  'a placement': [
    base(),
    base({ type: 'placeTrack', track: 'a', placement: { azimuth: 70, distance: 0.4, width: 60, lfe: -10 } }),
  ],
  'an arming': [base(), base({ type: 'seatTrack', track: 'v', armed: true, hearing: 'armed' })],
  'an arming taken off': undone({ type: 'seatTrack', track: 'v', armed: true, hearing: 'armed' }),
  'a limiter while a line is heard': [base(armed), base(armed, ...quietLimiter('nar'))],
  'a limiter taken off while a line is heard': [base(armed, ...quietLimiter('nar')), base(armed)],
  'a mix layout': [base(), base({ type: 'setFormat', layout: 'stereo' })],
  'a mix layout, back': undone({ type: 'setFormat', layout: 'stereo' }),
  'a bus removed': [base(), base({ type: 'removeBus', bus: 'efx' })],
  'a bus removed, undone': undone({ type: 'removeBus', bus: 'efx' }),
  'a return with two sends': [base(), base(...hall)],
  'a return taken away': undone(...hall),
  'a send': [base(...hall), base(...hall, { type: 'addSend', owner: 'b', id: 's2', to: 'hall' })],
  'a send switched off': [base(...hall), base(...hall, { type: 'setSend', owner: 'a', send: 's-a', on: false })],
  'the level of a send': [base(...hall), base(...hall, { type: 'setSend', owner: 'a', send: 's-a', level: -20 })],
  'the tap of a send': [base(...hall), base(...hall, { type: 'setSend', owner: 'b', send: 's-b', tap: 'arriving' })],
  'the place of a send': [
    base(...hall),
    base(...hall, {
      type: 'setSend',
      owner: 'a',
      send: 's-a',
      placement: { azimuth: -60, distance: 1, width: 0, lfe: -100 },
    }),
  ],
  'a solo, with a return that is heard through it': [
    base(...hall),
    base(...hall, { type: 'seatTrack', track: 'a', soloed: true }),
  ],
  'a return for each stem': [base(...hall), base(...hall, rooms)],
  'a return for all again': [base(...hall, rooms), base(...hall)],
  'a lane for a level': [base(), base(rise)],
  'a lane taken away': undone(rise),
  'a lane that runs elsewhere': [base(rise), base(rise, lane({ node: 'b', param: 'level' }, [0, 3], [FRAMES, -9]))],
  'a lane for a place': [base(), base(turn)],
  'a lane for a place taken away': undone(turn),
  'another place lane': [base(turn), base(turn, lane({ node: 'a', param: 'distance' }, [0, 1], [9000, 0.2]))],
  'a lane for a mute': [
    base(),
    base(lane({ node: 'efx', param: 'muted' }, [0, 0, 'step'], [4000, 1, 'step'], [9000, 0, 'step'])),
  ],
  'a lane for a send': [
    base(...hall),
    base(...hall, lane({ node: 'a', send: 's-a', param: 'level' }, [0, -30], [FRAMES, 0])),
  ],
  'a destination of what has lanes': [
    base(rise, turn),
    base(rise, turn, { type: 'sendTracks', tracks: ['a', 'b'], destination: 'dia' }),
  ],
  'a limiter behind lanes': [base(rise, turn), base(rise, turn, ...quietLimiter('nar'))],
  'a solo of what has lanes': [base(rise, turn), base(rise, turn, { type: 'seatTrack', track: 'a', soloed: true })],
  'a trim': [base(), base({ type: 'setBus', bus: 'efx', trim: -4 })],
  'a second reference': [base(), base({ type: 'addReference', id: 'r2', name: 'Two', leftOut: ['nar'] })],
  'a stem left out of the reference': [base(), base({ type: 'setReference', bus: 'ref', leftOut: ['efx'] })],
  'a stem added': [base(), base({ type: 'addBus', kind: 'stem', id: 'xtra', name: 'Extra', sources: ['a', 'b'] })],
};
const owner = { kind: 'track', id: 'b' } as const;
const MEMORY: Record<string, readonly [SessionDoc, SessionDoc]> = {
  'an equaliser': [
    base(),
    base(
      { type: 'addStage', owner, id: 'e', stage: 'eq' },
      { type: 'setStage', owner, stage: 'e', values: { g1: 6, g2: -4 } },
    ),
  ],
  'a lane for a stage': [
    base({ type: 'addStage', owner, id: 'c', stage: 'lowCut' }),
    base(
      { type: 'addStage', owner, id: 'c', stage: 'lowCut' },
      lane({ node: 'b', stage: 'c', param: 'frequency' }, [0, 60], [8000, 400]),
    ),
  ],
  'a low cut taken off': undone({ type: 'addStage', owner, id: 'c', stage: 'lowCut' }),
  'stages in another order': [
    base({ type: 'addStage', owner, id: 'c', stage: 'lowCut' }, limiterOn('track', 'b', 'l')),
    base(limiterOn('track', 'b', 'l'), { type: 'addStage', owner, id: 'c', stage: 'lowCut' }),
  ],
  'stems that are limited together': [base(linked(false)), base(linked(true))],
  'stems that are not limited together any more': [base(linked(true)), base(linked(false))],
  'a stem taken out of those that are limited together': [
    base(linked(true)),
    base(linked(true), { type: 'setReference', bus: 'ref', leftOut: ['efx'] }),
  ],
  'true peaks in place of sample peaks': [
    base(...quietLimiter('efx')),
    base(...quietLimiter('efx'), {
      type: 'setStage',
      owner: { kind: 'bus', id: 'efx' },
      stage: 'efx-lim',
      values: { limits: 1 },
    }),
  ],
};
const sizes = [128, 64, 999];

describe('after a change while sound runs', () => {
  describe.each(Object.entries(EXACT))('of %s', (_, [before, after]) => {
    it.each(sizes)('the same samples come as from a fresh start, in blocks of %d', (size) => {
      const changed = play(before, [[AT, after]], noisy, size, live);
      const fresh = play(after, [], noisy, size, live);
      for (const [node, wanted] of fresh)
        wanted.forEach((samples, c) => {
          const got = changed.get(node)![c]!.subarray(SETTLED);
          const first = firstDifference(got, samples.subarray(SETTLED));
          expect(first, `${node} channel ${c}`).toBe(-1);
        });
    });
  });
  it.each(Object.entries(MEMORY))('of %s it is the same once the memory has passed', (_, [before, after]) => {
    const changed = play(before, [[AT, after]], noisy, 128, live);
    const fresh = play(after, [], noisy, 128, live);
    for (const [node, wanted] of fresh)
      wanted.forEach((samples, c) => {
        let most = 0;
        // A second-order filter at the lowest corner here has forgotten after a quarter second.
        for (let i = AT + 14_000; i < FRAMES; i++)
          most = Math.max(most, Math.abs(samples[i]! - changed.get(node)![c]![i]!));
        expect(20 * Math.log10(most), `${node} channel ${c}`).toBeLessThan(-140);
      });
  });
  it.each(Object.entries({ ...EXACT, ...MEMORY }))(
    'of %s nothing makes a larger step than the glide',
    (_, [before, after]) => {
      const changed = play(before, [[AT, after]], smooth, 128, live);
      // A bus of another layout is a new one; the ears have one that stays.
      for (const node of before.format.layout === after.format.layout ? ['ref', 'ears'] : ['ears'])
        changed.get(node)!.forEach((samples, c) => {
          let most = 0;
          let natural = 0;
          for (let i = 2000; i < FRAMES; i++) {
            const step = Math.abs(samples[i]! - samples[i - 1]!);
            if (i > AT - 10 && i < SETTLED + 1000) most = Math.max(most, step);
            else natural = Math.max(natural, step);
          }
          // All sources at once at their tops, each along a straight line of ten milliseconds.
          expect(most, `${node} channel ${c}`).toBeLessThan(natural + (2 * 2.2) / GLIDE);
        });
    },
  );
  it('several in a row, faster than they glide, end where the last one leads', () => {
    const last = EXACT['a destination']![1];
    const changes: [number, SessionDoc][] = [
      [AT - 500, EXACT['a bus removed']![1]],
      [AT - 400, base(...quietLimiter('nar'))],
      [AT - 390, EXACT['a mix layout']![1]],
      [AT - 200, base()],
      [AT - 100, base(...quietLimiter('efx'))],
      [AT, last],
    ];
    const changed = play(base(), changes, noisy, 128, live);
    for (const [node, wanted] of play(last, [], noisy, 128, live))
      wanted.forEach((samples, c) =>
        expect(firstDifference(changed.get(node)![c]!.subarray(SETTLED + 400), samples.subarray(SETTLED + 400))).toBe(
          -1,
        ),
      );
  });
  it('an undo of a change within its glide leaves no trace', () => {
    const changed = play(
      base(),
      [
        [AT, applied(base(), { type: 'removeBus', bus: 'efx' })],
        [AT + 128, base()],
      ],
      noisy,
      128,
      live,
    );
    for (const [node, wanted] of play(base(), [], noisy, 128, live))
      wanted.forEach((samples, c) =>
        expect(firstDifference(changed.get(node)![c]!.subarray(SETTLED + 128), samples.subarray(SETTLED + 128))).toBe(
          -1,
        ),
      );
  });
});
