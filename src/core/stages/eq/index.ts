import type { Kernels } from '@/core/kernels';
import { FilterRunner, filterComplex, filterResponse, type FilterDesign } from '../filterRunner';
import { choiceParam, type StageKind, type StageParam, type StageValues, valueOf } from '../stage';

const START_HZ = [120, 400, 2500, 8000, 60, 1000, 5000, 12000];
const BANDS = START_HZ.map((_, i) => i + 1);
const SHAPES = ['bell', 'low shelf', 'high shelf', 'notch'] as const;
const NOTCH = SHAPES.indexOf('notch');

// Shown from low to high, as they start out.
const SHOWN = [...BANDS].sort((a, b) => START_HZ[a - 1]! - START_HZ[b - 1]!);

const params: StageParam[] = SHOWN.flatMap((n) => [
  { ...choiceParam(`t${n}`, `Band ${n}`, SHAPES), group: `Band ${n}` },
  {
    id: `f${n}`,
    label: `Band ${n} frequency`,
    group: `Band ${n}`,
    unit: 'Hz',
    min: 20,
    max: 20000,
    default: START_HZ[n - 1]!,
    step: 1,
    digits: 0,
    log: true,
  },
  {
    id: `g${n}`,
    label: `Band ${n} gain`,
    group: `Band ${n}`,
    unit: 'dB',
    min: -18,
    max: 18,
    default: 0,
    step: 0.5,
    digits: 1,
  },
  {
    id: `q${n}`,
    label: `Band ${n} Q`,
    group: `Band ${n}`,
    unit: '',
    min: 0.2,
    max: 20,
    default: 1,
    step: 0.1,
    digits: 1,
    log: true,
  },
]);

// A notch works without a gain; the other shapes do nothing at 0 dB.
const works = (v: StageValues, n: number): boolean =>
  valueOf(eq, v, `t${n}`) === NOTCH || valueOf(eq, v, `g${n}`) !== 0;

const design =
  (k: Kernels, rate: number): FilterDesign =>
  (out, v) => {
    // Bands that rest in front of a working one still take a section, so that each band keeps its own.
    let sections = 0;
    for (const n of BANDS) {
      const at = out + (n - 1) * 40;
      const [freq, q, gain] = [valueOf(eq, v, `f${n}`), valueOf(eq, v, `q${n}`), valueOf(eq, v, `g${n}`)];
      const shape = SHAPES[valueOf(eq, v, `t${n}`)];
      if (shape === 'notch') k.x.designNotch(at, rate, freq, q);
      else if (shape === 'low shelf') k.x.designLowShelf(at, rate, freq, q, gain);
      else if (shape === 'high shelf') k.x.designHighShelf(at, rate, freq, q, gain);
      else k.x.designBell(at, rate, freq, q, gain);
      if (works(v, n)) sections = n;
    }
    return sections;
  };

/** Up to eight bands after Bristow-Johnson's cookbook: bells, shelves, notches. */
export const eq: StageKind = {
  type: 'eq',
  name: 'EQ',
  startsOn: true,
  params,
  presets: [
    { name: 'Flat', values: Object.fromEntries(BANDS.flatMap((n) => [`g${n}`, `t${n}`].map((id) => [id, 0]))) },
    {
      name: 'Close voice',
      values: { t1: 0, f1: 160, g1: -2, q1: 0.9, t2: 0, f2: 380, g2: -1.5, q2: 1.2, t3: 0, f3: 3200, g3: 1.5, q3: 0.8 },
    },
    { name: 'Mains hum, 50 Hz', values: { t5: NOTCH, f5: 50, q5: 12, t1: NOTCH, f1: 100, q1: 12 } },
  ],
  delay: () => 0,
  summary: (v) => {
    const used = BANDS.filter((n) => works(v, n)).length;
    return used === 1 ? '1 band' : `${used} bands`;
  },
  create: (k, rate, channels) => new FilterRunner(k, rate, channels, BANDS.length, design(k, rate)),
  response: (k, rate, values, freqs) => filterResponse(k, rate, BANDS.length, design(k, rate), values, freqs),
  complex: (k, rate, values, freqs) => filterComplex(k, rate, BANDS.length, design(k, rate), values, freqs),
};
