// Every filter's magnitude and phase over the band against scipy: its own designs, and its evaluation of our sections.
import { writeFileSync } from 'node:fs';
import path from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { newKernels } from '../support/kernels';
import { folder, run } from './tools';

const k = newKernels();
const dir = folder();
const RATE = 48_000;
const FREQS = Array.from({ length: 120 }, (_, i) => 20 * 10 ** ((i / 119) * 3)).filter((f) => f < 23_000);

type Design = (out: number) => number | void;
interface Case {
  name: string;
  design: Design;
  /** scipy's own design of the same filter, as a Python expression for sections. */
  scipy?: string;
}

const butter = (order: number, f: number, kind: 'highpass' | 'lowpass') =>
  `signal.butter(${order}, ${f}, '${kind}', fs=${RATE}, output='sos')`;
const one = (f: (out: number) => void): Design => f;

const CASES: Case[] = [
  ...[1, 2, 3, 4, 6, 8].flatMap((order): Case[] => [
    {
      name: `low cut, order ${order}, 70 Hz`,
      design: (p) => k.x.designLowCut(p, RATE, 70, order),
      scipy: butter(order, 70, 'highpass'),
    },
    {
      name: `high cut, order ${order}, 12 kHz`,
      design: (p) => k.x.designHighCut(p, RATE, 12_000, order),
      scipy: butter(order, 12_000, 'lowpass'),
    },
  ]),
  {
    name: 'notch 50 Hz, q 30',
    design: one((p) => k.x.designNotch(p, RATE, 50, 30)),
    scipy: `np.array([np.concatenate(signal.iirnotch(50, 30, fs=${RATE}))])`,
  },
  { name: 'bell +6 dB at 3 kHz', design: one((p) => k.x.designBell(p, RATE, 3000, 1.2, 6)) },
  { name: 'bell -12 dB at 160 Hz', design: one((p) => k.x.designBell(p, RATE, 160, 4, -12)) },
  { name: 'low shelf +5 dB at 200 Hz', design: one((p) => k.x.designLowShelf(p, RATE, 200, 0.7, 5)) },
  { name: 'high shelf -4 dB at 8 kHz', design: one((p) => k.x.designHighShelf(p, RATE, 8000, 0.7, -4)) },
  { name: 'band pass 6.5 kHz', design: one((p) => k.x.designBandPass(p, RATE, 6500, 1)) },
];

interface Answer {
  /** Of our coefficients, and of scipy's own design: real and imaginary parts. */
  ours: [number, number][];
  own: [number, number][] | null;
}
let answers: Answer[] = [];
const responses: [number, number][][] = [];

beforeAll(() => {
  const sections = CASES.map(({ design }) => {
    const p = k.x.alloc(40 * 8);
    const count = design(p) ?? 1;
    const freqs = k.putF64(FREQS);
    const out = k.x.alloc(16 * FREQS.length);
    k.x.complexResponse(p, count, RATE, freqs, out, FREQS.length);
    responses.push(
      FREQS.map((_, i) => [k.f64(out, 2 * FREQS.length)[2 * i]!, k.f64(out, 2 * FREQS.length)[2 * i + 1]!]),
    );
    return Array.from({ length: count }, (_, s) => {
      const [b0, b1, b2, a1, a2] = k.f64(p + 40 * s, 5);
      return [b0, b1, b2, 1, a1, a2];
    });
  });
  const file = path.join(dir, 'filters.py');
  const list = CASES.map((c, i) => `(np.array(sections[${i}]), ${c.scipy ?? 'None'})`).join(',\n ');
  writeFileSync(
    file,
    `import json, sys
import numpy as np
from scipy import signal
sections = json.loads(${JSON.stringify(JSON.stringify(sections))})
w = np.array(${JSON.stringify(FREQS)})
def h(sos):
    return [[z.real, z.imag] for z in signal.sosfreqz(sos, worN=w, fs=${RATE})[1]]
cases = [${list}]
print(json.dumps([{'ours': h(a), 'own': None if b is None else h(b)} for a, b in cases]))
`,
  );
  answers = JSON.parse(run('python3', file)) as Answer[];
});
afterAll(() => void run('rm', '-rf', dir));

const gap = (a: readonly [number, number][], b: readonly [number, number][]) =>
  Math.max(...a.map(([x, y], i) => Math.hypot(x - b[i]![0], y - b[i]![1])));

describe('response, magnitude and phase together, at 120 frequencies', () => {
  it.each(CASES.map((c, i) => [c.name, i] as const))('%s', (_, i) => {
    const { ours, own } = answers[i]!;
    expect(gap(responses[i]!, ours)).toBeLessThan(1e-9);
    // Definitions of bandwidth differ in the sixth digit for a notch this narrow.
    if (own) expect(gap(responses[i]!, own)).toBeLessThan(1e-5);
  });
  // Bristow-Johnson's cookbook: a bell has its gain at its frequency, a shelf half its gain (dB) there.
  it.each([
    ['bell +6 dB at 3 kHz', 3000, 6],
    ['bell -12 dB at 160 Hz', 160, -12],
    ['low shelf +5 dB at 200 Hz', 200, 2.5],
    ['high shelf -4 dB at 8 kHz', 8000, -2],
    ['low cut, order 2, 70 Hz', 70, -3.01],
    ['high cut, order 8, 12 kHz', 12_000, -3.01],
  ])('%s stands where the text says', (name, freq, db) => {
    const { design } = CASES.find((c) => c.name === name)!;
    const p = k.x.alloc(40 * 8);
    const freqs = k.putF64([freq]);
    const out = k.x.alloc(8);
    k.x.response(p, design(p) ?? 1, RATE, freqs, out, 1);
    expect(k.f64(out, 1)[0]).toBeCloseTo(db, 2);
  });
});
