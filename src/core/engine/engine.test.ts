import { describe, expect, it } from 'vitest';
import { FORMAT } from '../../../tests/support/session';
import { newKernels, noise } from '../../../tests/support/kernels';
import { firstDifference } from '../../../tests/support/stages';
import { applyEdit, newSession, readEdit, type EditJson, type SessionDoc } from '@/core/session';
import { compilePlan, Engine, itemsIn } from '.';

const k = newKernels();
const apply = (doc: SessionDoc, ...edits: EditJson[]) => edits.reduce((d, e) => applyEdit(d, readEdit(e)).doc, doc);
const start = (...edits: EditJson[]) =>
  apply(
    newSession('Test', 'TS', { ...FORMAT }),
    { type: 'addTrack', id: 'a', name: 'A', layout: 'mono', destination: 'nar' },
    { type: 'addTrack', id: 'b', name: 'B', layout: 'stereo', destination: 'efx' },
    ...edits,
  );

const FRAMES = 6000;
const sources: Record<string, Float32Array[]> = {
  a: [noise(FRAMES, 0.5, 3)],
  b: [noise(FRAMES, 0.4, 5), noise(FRAMES, 0.4, 7)],
};

/** Runs a session over the sources and returns what a node gave. */
function run(doc: SessionDoc, node: string, size = 512, change?: { at: number; doc: SessionDoc }): Float32Array[] {
  const engine = new Engine(k, size);
  engine.load(compilePlan(k, doc, { mode: 'print' }));
  const out = Array.from({ length: engine.node(node).buffer.channels }, () => new Float32Array(FRAMES));
  for (let at = 0; at < FRAMES; at += size) {
    if (change && at >= change.at && at < change.at + size) engine.load(compilePlan(k, change.doc, { mode: 'print' }));
    const n = Math.min(size, FRAMES - at);
    engine.begin(n);
    for (const [id, channels] of Object.entries(sources))
      channels.forEach((s, c) =>
        engine
          .node(id)
          .buffer.view(c, n)
          .set(s.subarray(at, at + n)),
      );
    engine.run(n);
    out.forEach((o, c) => o.set(engine.node(node).buffer.view(c, n), at));
  }
  return out;
}

const CHAINS: EditJson[] = [
  { type: 'addStage', owner: { kind: 'track', id: 'a' }, id: 'a1', stage: 'lowCut' },
  { type: 'addStage', owner: { kind: 'track', id: 'a' }, id: 'a2', stage: 'compressor' },
  { type: 'addStage', owner: { kind: 'bus', id: 'nar' }, id: 'n1', stage: 'limiter' },
  { type: 'setStage', owner: { kind: 'bus', id: 'nar' }, stage: 'n1', values: { ceiling: -12 } },
  { type: 'placeTrack', track: 'a', placement: { azimuth: 25, distance: 0.7, width: 60, lfe: -10 } },
  { type: 'setTrack', track: 'b', level: -4.3 },
];

describe('the engine', () => {
  it('puts a mono track at the front into the centre, unchanged', () => {
    const ref = run(start({ type: 'setTrack', track: 'b', muted: true }), 'ref');
    expect(ref[2]).toEqual(sources.a![0]);
    for (const c of [0, 1, 3, 4, 5]) expect(Math.max(...ref[c]!.map(Math.abs))).toBe(0);
  });
  it('gives the same bits in blocks of 64, 128, 500 and 4096', () => {
    const results = [64, 128, 500, 4096].map((size) => run(start(...CHAINS), 'ref', size));
    for (const r of results.slice(1)) expect(r).toEqual(results[0]);
  });
  it('holds every path level: what is not limited waits for what is', () => {
    const doc = start({ type: 'addStage', owner: { kind: 'bus', id: 'nar' }, id: 'n1', stage: 'limiter' });
    const plan = compilePlan(k, doc, { mode: 'print' });
    expect(plan.nodes.find((n) => n.id === 'efx')!.links[0]!.delay).toBe(71);
    expect(plan.nodes.find((n) => n.id === 'ref')!.lead).toBe(71);
    const ref = run(doc, 'ref');
    expect(ref[2]!.subarray(71)).toEqual(sources.a![0]!.subarray(0, FRAMES - 71));
    expect(ref[0]!.subarray(71)).toEqual(sources.b![0]!.subarray(0, FRAMES - 71));
  });
  it('stems add up to the reference to the last bit of f32 rounding', () => {
    const doc = start(...CHAINS);
    const ref = run(doc, 'ref');
    const nar = run(doc, 'nar');
    const efx = run(doc, 'efx');
    let top = 0;
    // The stem without a limiter reaches the reference 71 samples later.
    for (let c = 0; c < 6; c++)
      for (let i = 71; i < FRAMES; i++) top = Math.max(top, Math.abs(ref[c]![i]! - nar[c]![i]! - efx[c]![i - 71]!));
    expect(20 * Math.log10(top)).toBeLessThan(-130);
  });
  it('glides when a level changes while it runs', () => {
    const out = run(start({ type: 'setTrack', track: 'b', muted: true }), 'nar', 100, {
      at: 3000,
      doc: start({ type: 'setTrack', track: 'b', muted: true }, { type: 'setTrack', track: 'a', level: -100 }),
    });
    const gain = (i: number) => out[2]![i]! / sources.a![0]![i]!;
    expect(gain(2999)).toBeCloseTo(1, 5);
    expect(gain(3240)).toBeCloseTo(0.5, 1);
    expect(gain(3480 + 100)).toBeCloseTo(0, 4);
  });
  it('hears a key at the same moment as the sound it turns down', () => {
    // The key passes a limiter, the sound does not: without waiting the key would come 71 samples late.
    const doc = start(
      { type: 'addStage', owner: { kind: 'track', id: 'a' }, id: 'a1', stage: 'limiter' },
      { type: 'addStage', owner: { kind: 'track', id: 'b' }, id: 'b1', stage: 'compressor' },
      {
        type: 'setStage',
        owner: { kind: 'track', id: 'b' },
        stage: 'b1',
        values: { threshold: -40, ratio: 10, attack: 0.5, release: 10 },
      },
      { type: 'switchStage', owner: { kind: 'track', id: 'b' }, stage: 'b1', on: true },
      { type: 'setStageKey', owner: { kind: 'track', id: 'b' }, stage: 'b1', key: 'a' },
    );
    const kept = sources.a!;
    try {
      sources.a = [new Float32Array(FRAMES).fill(0.5, 2000, 2100)];
      sources.b = [new Float32Array(FRAMES).fill(0.1), new Float32Array(FRAMES).fill(0.1)];
      for (const size of [64, 500]) {
        const [left] = run(doc, 'efx', size);
        // The sound itself waits for its key, so the dip starts where the key starts in its own time.
        const first = left!.findIndex((v, i) => i > 500 && v < 0.099);
        expect(first).toBeGreaterThanOrEqual(2071);
        // Detectors look every 16 samples.
        expect(first).toBeLessThan(2071 + 16);
      }
    } finally {
      sources.a = kept;
      sources.b = [noise(FRAMES, 0.4, 5), noise(FRAMES, 0.4, 7)];
    }
  });
  it('filters in a row give the same bits as each alone, and after a change of one of them', () => {
    const owner = { kind: 'track', id: 'a' } as const;
    const filters: EditJson[] = [
      { type: 'addStage', owner, id: 'f1', stage: 'lowCut' },
      { type: 'addStage', owner, id: 'f2', stage: 'eq' },
      { type: 'setStage', owner, stage: 'f2', values: { g1: 4, g3: -6 } },
      { type: 'addStage', owner, id: 'f3', stage: 'highCut' },
    ];
    // A trim at unity between them keeps them apart.
    const apart = [0, 2].map((after, i): EditJson[] => [
      { type: 'addStage', owner, id: `t${after}`, stage: 'trim' },
      { type: 'moveStage', owner, stage: `t${after}`, to: 1 + 2 * i },
    ]);
    const change: EditJson = { type: 'setStage', owner, stage: 'f2', values: { g2: 5 } };
    const together = run(start(...filters), 'nar', 500, { at: 3000, doc: start(...filters, change) });
    const separate = run(start(...filters, ...apart.flat()), 'nar', 500, {
      at: 3000,
      doc: start(...filters, ...apart.flat(), change),
    });
    expect(firstDifference(together[2]!, separate[2]!)).toBe(-1);
    expect(firstDifference(together[2]!, sources.a![0]!)).not.toBe(-1);
  });
  it('cuts a loop at one link instead of running in it', () => {
    const doc = start(
      { type: 'sendBus', bus: 'nar', destination: 'dia' },
      { type: 'sendBus', bus: 'dia', destination: 'nar' },
    );
    expect(Math.max(...run(doc, 'nar')[2]!)).toBeLessThan(1);
  });
  it('leaves solo and monitor out of a print, and has both when live', () => {
    const doc = start({ type: 'seatTrack', track: 'a', soloed: true }, { type: 'setMonitor', level: -30 });
    const gain = (mode: 'live' | 'print', id: string) =>
      compilePlan(k, doc, { mode }).nodes.find((n) => n.id === id)?.gain;
    expect(gain('print', 'b')).toBe(1);
    expect(gain('live', 'b')).toBe(0);
    expect(gain('print', 'monitor')).toBeUndefined();
    expect(gain('live', 'monitor')).toBeCloseTo(0.0316, 4);
  });
  it('starts anew as if nothing had run', () => {
    const doc = start(...CHAINS);
    const engine = new Engine(k, 512);
    engine.load(compilePlan(k, doc, { mode: 'print' }));
    const pass = () => {
      engine.begin(512);
      engine.node('a').buffer.view(0).set(sources.a![0]!.subarray(0, 512));
      engine.run(512);
      return engine.node('ref').buffer.view(2).slice();
    };
    const first = pass();
    expect(pass()).not.toEqual(first);
    engine.restart();
    expect(pass()).toEqual(first);
  });
});

describe('clips in a span', () => {
  const doc = start(
    {
      type: 'addClip',
      id: 'c1',
      track: 'a',
      start: 1000,
      media: { id: 'm', name: 'm.wav', channels: 1, frames: 5000, sampleRate: 48000, kind: 'file' },
    },
    { type: 'trimClip', clip: 'c1', start: 1500, length: 2000 },
  );
  const track = doc.tracks[0]!;
  it('give the part of the file that sounds there', () => {
    expect(itemsIn(track, 0, 1500)).toEqual([]);
    expect(itemsIn(track, 1400, 200)).toEqual([{ media: 'm', from: 500, frames: 100, at: 100, gain: 0, fades: [] }]);
    expect(itemsIn(track, 3000, 4000)).toEqual([{ media: 'm', from: 2000, frames: 500, at: 0, gain: 0, fades: [] }]);
  });
});
