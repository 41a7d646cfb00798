// What follows the timeline is the same at a place whatever the blocks, the parts, the beginning and the rounds were.
import { describe, expect, it } from 'vitest';
import { newKernels, noise } from '../../../tests/support/kernels';
import { applied, FORMAT, sessionWith } from '../../../tests/support/session';
import { firstDifference, gainOf } from '../../../tests/support/stages';
import { laneValue, type LanePoint, type LaneShape } from '@/core/lanes';
import { newSession, rolledTo, type EditJson, type LaneTarget, type SessionDoc } from '@/core/session';
import { layoutOf, placementGains } from '@/core/speakers';
import { compilePlan, Engine, type Loop } from '.';
import { stretchesOf } from './stretch';

const k = newKernels();
const N = 20_000;
const sound = noise(N, 0.4, 5);

const pointsOf = (...points: [number, number, LaneShape?][]): LanePoint[] =>
  points.map(([at, value, shape = 'line']) => ({ at, value, shape }));
const lane = (target: LaneTarget, points: LanePoint[]): EditJson => ({
  type: 'writeLane',
  target,
  from: 0,
  to: 1_000_000,
  points,
});
const base = (layout: 'mono' | '5.1', ...edits: EditJson[]): SessionDoc =>
  applied(
    newSession('Lanes', 'LA', { ...FORMAT, layout }),
    { type: 'addTrack', id: 'a', name: 'A', layout: 'mono', destination: 'dia' },
    { type: 'addTracks', tracks: [{ id: 'hall', name: 'Hall', layout: 'mono', kind: 'return', destination: 'amb' }] },
    { type: 'addSend', owner: 'a', id: 's', to: 'hall' },
    ...edits,
  );

interface Way {
  blocks?: readonly number[];
  from?: number;
  loop?: Loop | null;
  frames?: number;
}

/** What a node gives of `sound`, which lies at the beginning of the timeline. */
function run(doc: SessionDoc, node: string, { blocks = [512], from = 0, loop = null, frames = N - from }: Way = {}) {
  const engine = new Engine(k, 4096);
  engine.load(compilePlan(k, doc, { mode: 'print' }));
  engine.goRound(loop);
  const out: Float32Array[] = [];
  let at = from;
  for (let b = 0; at < from + frames; b++) {
    const n = Math.min(blocks[b % blocks.length]!, from + frames - at);
    engine.begin(n);
    const given = engine.node('a').buffer.view(0, n);
    for (let i = 0; i < n; i++) given[i] = sound[rolledTo(at, i, loop)]!;
    engine.run(n, at);
    const { buffer } = engine.node(node);
    for (let c = 0; c < buffer.channels; c++) {
      out[c] ??= new Float32Array(frames);
      out[c]!.set(buffer.view(c, n), at - from);
    }
    at += n;
  }
  return out;
}

const RATIOS = { to: Math.log, from: Math.exp };
const level = pointsOf([1000, -30], [5000, 0, 'smooth'], [12_000, -12, 'step'], [15_000, 3]);

describe('a level', () => {
  const doc = base('mono', lane({ node: 'a', param: 'level' }, level));
  it('follows its lane sample by sample; a jump is a straight glide of 5 ms', () => {
    const [got] = run(doc, 'a');
    let most = 0;
    for (let i = 0; i < N; i++) {
      const glide = i >= 15_000 && i < 15_240 ? (gainOf(-12) - gainOf(3)) * (1 - (i - 15_000) / 240) : 0;
      most = Math.max(most, Math.abs(got![i]! - sound[i]! * (gainOf(laneValue(level, i)) + glide)));
    }
    expect(most).toBeLessThan(1e-6);
  });
  it('that is switched off is as it is set by hand', () => {
    const off = applied(doc, { type: 'setLane', target: { node: 'a', param: 'level' }, on: false });
    expect(firstDifference(run(off, 'a')[0]!, run(base('mono'), 'a')[0]!)).toBe(-1);
  });
  it('of a bus and of a send follow theirs', () => {
    const sent = base(
      'mono',
      lane({ node: 'a', send: 's', param: 'level' }, pointsOf([0, -40], [N, 0])),
      lane({ node: 'hall', param: 'level' }, pointsOf([0, 0], [N, -20])),
    );
    const [got] = run(sent, 'hall');
    let most = 0;
    for (let i = 0; i < N; i++)
      most = Math.max(most, Math.abs(got![i]! - sound[i]! * gainOf(-40 + (40 * i) / N) * gainOf((-20 * i) / N)));
    expect(most).toBeLessThan(1e-6);
  });
  it('is silent where its mute says so', () => {
    const muted = pointsOf([0, 0, 'step'], [4000, 1, 'step'], [8000, 0, 'step']);
    const [got] = run(base('mono', lane({ node: 'a', param: 'muted' }, muted)), 'a');
    expect(firstDifference(got!.subarray(0, 4000), sound.subarray(0, 4000))).toBe(-1);
    expect(got!.subarray(4240, 8000).every((x) => x === 0)).toBe(true);
    expect(firstDifference(got!.subarray(8240), sound.subarray(8240))).toBe(-1);
  });
});

it('a place follows its lane, on a grid of 64 samples, straight between', () => {
  const azimuth = pointsOf([0, -110], [N, 110]);
  const got = run(base('5.1', lane({ node: 'a', param: 'azimuth' }, azimuth)), 'dia');
  const layout = layoutOf('5.1');
  for (let g = 64; g < N - 64; g += 640) {
    const wanted = placementGains(k, layout, { azimuth: laneValue(azimuth, g), distance: 1, width: 60, lfe: -100 });
    wanted.forEach((gain, c) => expect(got[c]![g]!).toBeCloseTo(sound[g]! * gain, 6));
  }
});

it('a stage follows its lane, and is where the lane leads as if it had stood there always', () => {
  const cut: EditJson = { type: 'addStage', owner: { kind: 'track', id: 'a' }, id: 'c', stage: 'highCut' };
  const set = (frequency: number): EditJson => ({
    type: 'setStage',
    owner: { kind: 'track', id: 'a' },
    stage: 'c',
    values: { frequency },
  });
  const sweep = pointsOf([2000, 500], [8000, 8000]);
  const [got] = run(base('mono', cut, lane({ node: 'a', stage: 'c', param: 'frequency' }, sweep)), 'a');
  const decibels = (frequency: number, from: number, to: number) => {
    const [wanted] = run(base('mono', cut, set(frequency)), 'a');
    let [off, power] = [0, 0];
    for (let i = from; i < to; i++) {
      off += (got![i]! - wanted![i]!) ** 2;
      power += wanted![i]! ** 2;
    }
    return 10 * Math.log10(off / power);
  };
  expect(decibels(500, 0, 2000)).toBe(-Infinity);
  expect(decibels(8000, 12_000, N)).toBeLessThan(-120);
  // Half way it passes the geometric middle, not the arithmetic one; its coefficients glide for 20 ms.
  expect(decibels(laneValue(sweep, 4600, RATIOS), 4950, 5050)).toBeLessThan(
    decibels(laneValue(sweep, 4600), 4950, 5050),
  );
});

const ALL: EditJson[] = [
  { type: 'addStage', owner: { kind: 'track', id: 'a' }, id: 'lim', stage: 'limiter' },
  { type: 'addStage', owner: { kind: 'track', id: 'a' }, id: 'eq', stage: 'eq' },
  { type: 'addStage', owner: { kind: 'bus', id: 'nar' }, id: 'late', stage: 'limiter' },
  { type: 'setReference', bus: 'ref', linked: { on: true, ceiling: -12, release: 50, peaks: 'sample' } },
  lane({ node: 'a', param: 'level' }, level),
  lane({ node: 'a', param: 'azimuth' }, pointsOf([0, -110], [7000, 110, 'smooth'], [14_000, -20])),
  lane({ node: 'a', send: 's', param: 'level' }, pointsOf([0, -40], [N, 0])),
  lane({ node: 'a', stage: 'eq', param: 'g1' }, pointsOf([0, -12], [N, 12])),
  lane({ node: 'a', stage: 'lim', param: 'ceiling' }, pointsOf([0, -20], [N, -3])),
  lane({ node: 'ref', param: 'level' }, pointsOf([0, 0], [N, -6])),
  lane({ node: 'dia', param: 'muted' }, pointsOf([0, 0, 'step'], [9100, 1, 'step'], [10_000, 0, 'step'])),
];

describe('with lanes of every kind', () => {
  const doc = base('5.1', ...ALL);
  const whole = run(doc, 'ref');
  it.each([[[64]], [[128]], [[500]], [[4096]], [[1, 63, 777, 64]]])('blocks of %j give the same samples', (blocks) => {
    run(doc, 'ref', { blocks }).forEach((got, c) => expect(firstDifference(got, whole[c]!), `channel ${c}`).toBe(-1));
  });
});

describe('wherever it begins, and when it goes round', () => {
  // Without what has a memory: level, place, send, mute.
  const doc = base('5.1', ...ALL.filter((e) => e.type === 'writeLane' && !e.target.stage));
  const whole = run(doc, 'ref');
  it.each([1, 64, 4999, 9111, 15_100])('the sample at %i and all behind it are the same', (from) => {
    run(doc, 'ref', { from }).forEach((got, c) => expect(firstDifference(got, whole[c]!.subarray(from))).toBe(-1));
  });
  it('each round is the same as the first', () => {
    const loop = { start: 3333, end: 9999 };
    const length = loop.end - loop.start;
    const rounds = run(doc, 'ref', { from: 1000, loop, frames: 30_000, blocks: [500, 64] });
    rounds.forEach((got, c) => {
      const lead = loop.start - 1000;
      expect(firstDifference(got.subarray(0, lead + length), whole[c]!.subarray(1000, loop.end))).toBe(-1);
      for (let r = 1; r < 4; r++)
        expect(
          firstDifference(
            got.subarray(lead + r * length, lead + (r + 1) * length),
            whole[c]!.subarray(loop.start, loop.end),
          ),
        ).toBe(-1);
    });
  });
  it('sound that is late follows the lane at its own place, round after round', () => {
    const late = base('mono', lane({ node: 'a', param: 'level' }, level), {
      type: 'addStage',
      owner: { kind: 'track', id: 'a' },
      id: 'lim',
      stage: 'limiter',
    });
    const { lead } = compilePlan(k, late, { mode: 'print' }).nodes.find((n) => n.id === 'a')!;
    expect(lead).toBeGreaterThan(0);
    const loop = { start: 4000, end: 8000 };
    const got = run(late, 'a', { loop, frames: 16_000, blocks: [128] })[0]!;
    const wanted = run(base('mono', lane({ node: 'a', param: 'level' }, level)), 'a', { loop, frames: 16_000 })[0]!;
    expect(firstDifference(got.subarray(lead), wanted.subarray(0, 16_000 - lead))).toBe(-1);
  });
  it('a block that passes the end of the round falls into its parts', () => {
    expect(stretchesOf(90, 30, { start: 10, end: 100 })).toEqual([
      { from: 0, n: 10, at: 90 },
      { from: 10, n: 20, at: 10 },
    ]);
    expect(stretchesOf(195, 8, { start: 10, end: 100 })).toEqual([{ from: 0, n: 8, at: 15 }]);
    expect(stretchesOf(0, 10, { start: 0, end: 4 }).map((s) => s.n)).toEqual([4, 4, 2]);
  });
});

it('while nothing rolls it is heard as at the playhead, and another place comes without a step', () => {
  const doc = base(
    'mono',
    lane({ node: 'a', param: 'level' }, level),
    lane({ node: 'a', param: 'lfe' }, pointsOf([0, -100])),
  );
  const engine = new Engine(k, 256);
  engine.load(compilePlan(k, doc, { mode: 'live' }));
  const block = (at: number) => {
    engine.begin(256);
    engine.node('a').buffer.view(0, 256).fill(0.5);
    engine.run(256, at, true);
    return engine.node('a').buffer.view(0, 256).slice();
  };
  expect(block(3000).every((x) => Math.abs(x - 0.5 * gainOf(-15)) < 1e-6)).toBe(true);
  const moved = [...block(5000), ...block(5000)];
  moved.reduce(
    (before, x) => {
      expect(Math.abs(x - before)).toBeLessThan(0.5 / 200);
      return x;
    },
    0.5 * gainOf(-15),
  );
  expect(moved.at(-1)).toBeCloseTo(0.5, 6);
});

describe('a lane', () => {
  const target = { node: 'a', param: 'level' };
  const refused = (e: EditJson, message: RegExp) => expect(() => applied(base('mono'), e)).toThrow(message);
  it('is refused where nothing can follow the timeline', () => {
    refused(lane({ node: 'nobody', param: 'level' }, level), /not in the session any more/);
    refused(lane({ node: 'a', param: 'name' }, level), /A has no "name"/);
    refused(lane({ node: 'dia', param: 'azimuth' }, level), /Dialogue has no "azimuth"/);
  });
  it('is refused whole with what is wrong', () => {
    refused(lane(target, pointsOf([0, 99])), /Level goes from -100 to 24 dB, not to 99/);
    refused(lane(target, pointsOf([5, 0], [5, 1])), /two points of Level/);
    refused(lane({ node: 'a', param: 'muted' }, pointsOf([5, 1])), /held from point to point/);
    refused({ ...lane(target, level), to: 10 } as EditJson, /outside the stretch/);
  });
  it('that would change a delay is refused', () => {
    const limited = base('mono', { type: 'addStage', owner: { kind: 'track', id: 'a' }, id: 'l', stage: 'limiter' });
    expect(() => applied(limited, lane({ node: 'a', stage: 'l', param: 'limits' }, pointsOf([0, 1, 'step'])))).toThrow(
      /has no "limits"/,
    );
  });
  it('goes with its track, and comes back with it', () => {
    const doc = sessionWith(
      { type: 'addTrack', id: 'a', name: 'A', layout: 'mono', destination: 'dia' },
      lane(target, level),
    );
    expect(Object.keys(applied(doc, { type: 'removeTrack', track: 'a' }).lanes)).toEqual([]);
    expect(Object.keys(doc.lanes)).toEqual(['a level']);
  });
});
