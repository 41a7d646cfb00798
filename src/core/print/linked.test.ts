// Stems that are limited together: what is printed adds up to the reference and stays under the ceiling.
import { describe, expect, it } from 'vitest';
import { newKernels, noise } from '../../../tests/support/kernels';
import { printed, readerOf } from '../../../tests/support/printed';
import { applied, FORMAT } from '../../../tests/support/session';
import { compilePlan, Engine } from '@/core/engine';
import { DATA_OFFSET } from '@/core/files';
import { sumNode } from '@/core/paths';
import { newSession, type EditJson, type SessionDoc } from '@/core/session';
import { widthOf, type LayoutId } from '@/core/speakers';
import { linkedSentences, proveLinked, sumCheck } from '.';

const k = newKernels();
const FRAMES = 30_000;

/** Noise that falls by 3 dB an octave (Voss: a sum of noises that are held ever longer), as speech and music do. */
function pink(seed: number): Float32Array {
  const rows = Array.from({ length: 10 }, (_, r) => noise(Math.ceil(FRAMES / 2 ** r) + 1, 0.25, seed * 31 + r));
  return Float32Array.from({ length: FRAMES }, (_, i) => rows.reduce((s, row, r) => s + row[i >> r]!, 0));
}
/** Syllables: bursts with a pitch and silence between them. */
const syllables = (seed: number): Float32Array =>
  Float32Array.from({ length: FRAMES }, (_, i) => {
    const at = ((i + seed * 1700) % 9000) / 9000;
    const shape = at < 0.6 ? Math.sin((Math.PI * at) / 0.6) ** 0.3 : 0;
    return 1.3 * shape * (Math.sin(i * 0.017 * (1 + seed / 9)) * 0.7 + Math.sin(i * 0.21) * 0.3);
  });
const clicks = (seed: number): Float32Array =>
  Float32Array.from({ length: FRAMES }, (_, i) => (i % (997 + 61 * seed) === 0 ? (i % 2 ? 2.5 : -2.5) : 0.05));

const SIGNALS = { 'pink noise': pink, speech: syllables, clicks } as const;
const STEMS = ['dia', 'nar', 'efx'];

function session(layout: LayoutId, linked: { ceiling: number; peaks: 'sample' | 'true' }, ...more: EditJson[]) {
  return applied(
    newSession('Linked', 'LI', { ...FORMAT, layout }),
    ...STEMS.flatMap((bus): EditJson[] => [
      { type: 'addTrack', id: `t-${bus}`, name: bus, layout: 'mono', destination: bus },
      {
        type: 'addClip',
        id: `c-${bus}`,
        track: `t-${bus}`,
        start: 0,
        media: { id: bus, name: `${bus}.wav`, channels: 1, frames: FRAMES, sampleRate: 48_000, kind: 'file' },
      },
      {
        type: 'placeTrack',
        track: `t-${bus}`,
        placement: { azimuth: STEMS.indexOf(bus) * 50 - 50, distance: 1, width: 0, lfe: -12 },
      },
    ]),
    { type: 'removeBus', bus: 'mus' },
    { type: 'removeBus', bus: 'amb' },
    { type: 'setReference', bus: 'ref', linked: { on: true, release: 80, ...linked } },
    ...more,
  );
}

const soundsOf = (make: (seed: number) => Float32Array) => Object.fromEntries(STEMS.map((s, i) => [s, [make(i + 1)]]));

async function prove(doc: SessionDoc, make: (seed: number) => Float32Array) {
  const files = await printed(k, doc, readerOf(soundsOf(make)), { end: FRAMES });
  const stems = STEMS.map((name) => ({ name, source: files.of(name) }));
  const linked = await proveLinked(k, doc.buses.find((b) => b.id === 'ref')!.linked!, stems);
  const sum = await sumCheck(k, stems, { source: files.of('ref') });
  return { linked, sum };
}

const PUSHED: EditJson = { type: 'setBus', bus: 'efx', level: 12 };

describe.each(Object.entries(SIGNALS))('%s', (_, make) => {
  describe.each(['sample', 'true'] as const)('%s peaks', (peaks) => {
    it.each(['mono', 'stereo', 'quad', '5.1', '7.1.4'] as LayoutId[])(
      'in %s: the stems add up to the reference, and their sum stays under the ceiling',
      async (layout) => {
        for (const more of [[], [PUSHED]]) {
          const { linked, sum } = await prove(session(layout, { ceiling: -3, peaks }, ...more), make);
          expect(sum.difference).toBeLessThanOrEqual(sum.allowed);
          expect(peaks === 'true' ? linked.sum.true : linked.sum.sample).toBeLessThanOrEqual(-3);
          // It does limit, and no more than it must.
          expect(linked.sum.sample).toBeGreaterThan(-7);
        }
      },
    );
  });
  it('muted one by one, the rest is under the ceiling or it is said by how much not', async () => {
    const { linked } = await prove(session('5.1', { ceiling: -3, peaks: 'sample' }, PUSHED), make);
    expect(linked.without.map((w) => w.stem)).toEqual(STEMS);
    const text = linkedSentences(linked);
    for (const w of linked.without.filter((x) => x.sample > -3))
      expect(text.some((s) => s.startsWith(`Without ${w.stem} the rest reaches ${w.sample.toFixed(2)} dBFS`))).toBe(
        true,
      );
  });
});

describe('stems that cancel each other', () => {
  it('may leave more than the ceiling when one is taken away, and it is said', async () => {
    const opposite = (seed: number) => noise(FRAMES, 0.9, 5).map((v) => (seed === 3 ? 0 : seed === 2 ? -v : v));
    const { linked } = await prove(session('mono', { ceiling: -6, peaks: 'sample' }), opposite);
    expect(linked.sum.sample).toBeLessThan(-60);
    expect(linked.without[0]!.sample).toBeGreaterThan(-6);
    expect(linkedSentences(linked)[1]).toMatch(/^Without dia the rest reaches -\d\.\d\d dBFS, \d\.\d\d dB over/);
  });
});

describe('a second reference', () => {
  it('is the sum of the stems as they are printed, whether it limits anything or not', async () => {
    const made = session('5.1', { ceiling: -6, peaks: 'sample' }, PUSHED, {
      type: 'addReference',
      id: 'two',
      name: 'Without narration',
      leftOut: ['nar'],
    });
    // References may stand in any order.
    const { buses } = made;
    const doc = { ...made, buses: [buses.at(-1)!, ...buses.slice(0, -1)] };
    const files = await printed(k, doc, readerOf(soundsOf(pink)), { end: FRAMES });
    const of = (id: string) => ({ source: files.of(id) });
    const sum = await sumCheck(k, [of('dia'), of('efx')], of('two'));
    expect(sum.difference).toBeLessThanOrEqual(sum.allowed);
    const all = STEMS.map(of);
    expect((await sumCheck(k, all, of('ref'))).difference).toBeLessThanOrEqual(sum.allowed + 3);
  });
});

describe('files of 16 bits', () => {
  it('are dithered each, and their sum stays under the ceiling all the same', async () => {
    const doc = session('stereo', { ceiling: -6, peaks: 'sample' }, { type: 'setFormat', wordLength: 16 }, PUSHED);
    const { linked, sum } = await prove(doc, pink);
    expect(linked.sum.sample).toBeLessThanOrEqual(-6);
    expect(sum.difference).toBeLessThanOrEqual(sum.allowed);
  });
});

describe('the gain curve', () => {
  // The limiter's rule in plain numbers: wanted gain by the loudest channel, instant fall and exponential recovery, the
  // least of a window, the mean of a window (gains are whole numbers of 30 bits in the kernel: 1e-6 apart at most).
  function oracle(sum: readonly Float32Array[], ceiling: number, release: number): Float64Array {
    const window = Math.round(0.0015 * 48_000);
    const back = 1 - Math.exp(-1 / (release * 48_000));
    let gain = 1;
    const wanted = Float64Array.from({ length: sum[0]!.length }, (_, i) => {
      const peak = Math.max(...sum.map((c) => Math.abs(c[i]!)));
      gain += (1 - gain) * back;
      if (gain > 1 - 4096 / 2 ** 30) gain = 1;
      if (peak > ceiling) gain = Math.min(gain, ceiling / peak);
      return gain;
    });
    const least = wanted.map((_, i) => Math.min(...wanted.subarray(Math.max(0, i - window + 1), i + 1)));
    return least.map((_, i) => {
      let total = 0;
      for (let j = i - window + 1; j <= i; j++) total += j < 0 ? 1 : least[j]!;
      return total / window;
    });
  }

  it('is that of a plain oracle, and a stem is its delayed sound times that curve', () => {
    const doc = session('stereo', { ceiling: -6, peaks: 'sample' }, PUSHED);
    const plan = compilePlan(k, doc, { mode: 'print' });
    const sum = plan.nodes.find((n) => n.id === sumNode('ref'))!;
    const margin = sum.chain[0]!.values.margin!;
    const sounds = soundsOf(pink);
    const run = (p: typeof plan, read: (engine: Engine, n: number, at: number) => void) => {
      const engine = new Engine(k, 500);
      engine.load(p);
      for (let at = 0; at < FRAMES; at += 500) {
        engine.begin(500);
        for (const s of STEMS)
          engine
            .node(`t-${s}`)
            .buffer.view(0, 500)
            .set(sounds[s]![0]!.subarray(at, at + 500));
        engine.run(500);
        read(engine, 500, at);
      }
    };
    const curve = new Float32Array(FRAMES);
    const stem = new Float32Array(FRAMES);
    const linked = new Float32Array(FRAMES);
    run(plan, (engine, n, at) => {
      curve.set(engine.node(sum.id).buffer.view(sum.channels - 1, n), at);
      stem.set(engine.node('efx').buffer.view(0, n), at);
      linked.set(engine.node('linked/ref/efx').buffer.view(0, n), at);
    });
    // What the detector was given: the sum without any limiting.
    const free = [new Float32Array(FRAMES), new Float32Array(FRAMES)];
    run(
      compilePlan(k, applied(doc, { type: 'setReference', bus: 'ref', linked: null }), { mode: 'print' }),
      (e, n, at) => free.forEach((c, i) => c.set(e.node('ref').buffer.view(i, n), at)),
    );
    const expected = oracle(free, 10 ** ((-6 - margin) / 20), 0.08);
    for (let i = 0; i < FRAMES; i++) expect(Math.abs(curve[i]! - expected[i]!)).toBeLessThan(2e-6);
    expect(Math.min(...curve)).toBeLessThan(0.5);
    const delay = 71;
    for (let i = delay; i < FRAMES; i++) expect(linked[i]).toBe(Math.fround(stem[i - delay]! * curve[i]!));
  });
});

it('is the same to the bit in blocks of 64, 128, 500 and 4096, in one, two and four parts', async () => {
  const doc = session('5.1', { ceiling: -6, peaks: 'true' }, PUSHED);
  const read = readerOf(soundsOf(pink));
  const whole = await printed(k, doc, read, { end: FRAMES });
  for (const [parts, block] of [
    [1, 64],
    [2, 128],
    [4, 500],
    [4, 4096],
  ] as const) {
    const other = await printed(k, doc, read, { end: FRAMES, parts, block });
    for (const [id, bytes] of whole.bytes)
      expect(Buffer.compare(bytes.subarray(DATA_OFFSET), other.bytes.get(id)!.subarray(DATA_OFFSET)), id).toBe(0);
  }
});

it('costs a 9.1.6 bus into a 9.1.6 reference sixteen mixes', () => {
  const doc = newSession('Wide', 'WI', { ...FORMAT, layout: '9.1.6' });
  const { links } = compilePlan(k, doc, { mode: 'print' }).nodes.find((n) => n.id === 'amb')!;
  expect(widthOf('9.1.6')).toBe(16);
  expect(links[0]!.gains).toHaveLength(16);
});
