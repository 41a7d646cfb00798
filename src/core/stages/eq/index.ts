import type { Kernels } from '@/core/kernels';
import { FilterRunner, filterResponse, type FilterDesign } from '../filterRunner';
import { type StageKind, type StageParam, valueOf } from '../stage';

const BANDS = [1, 2, 3, 4] as const;
const START_HZ = { 1: 120, 2: 400, 3: 2500, 4: 8000 } as const;

const params: StageParam[] = BANDS.flatMap((n) => [
  {
    id: `f${n}`,
    label: `Band ${n}`,
    unit: 'Hz',
    min: 20,
    max: 20000,
    default: START_HZ[n],
    step: 1,
    digits: 0,
    log: true,
  },
  { id: `g${n}`, label: 'Gain', unit: 'dB', min: -18, max: 18, default: 0, step: 0.5, digits: 1 },
  { id: `q${n}`, label: 'Q', unit: '', min: 0.2, max: 12, default: 1, step: 0.1, digits: 1, log: true },
]);

const design =
  (k: Kernels, rate: number): FilterDesign =>
  (out, values) => {
    // Bands at 0 dB in front of a used one still take a section, so that each band keeps its own.
    let sections = 0;
    for (const n of BANDS) {
      const gain = valueOf(eq, values, `g${n}`);
      k.x.designBell(out + (n - 1) * 40, rate, valueOf(eq, values, `f${n}`), valueOf(eq, values, `q${n}`), gain);
      if (gain !== 0) sections = n;
    }
    return sections;
  };

/** Four bells after the cookbook (peakingEQ). */
export const eq: StageKind = {
  type: 'eq',
  name: 'EQ',
  startsOn: true,
  params,
  presets: [
    { name: 'Flat', values: { g1: 0, g2: 0, g3: 0, g4: 0 } },
    {
      name: 'Close voice',
      values: { f1: 160, g1: -2, q1: 0.9, f2: 380, g2: -1.5, q2: 1.2, f3: 3200, g3: 1.5, q3: 0.8 },
    },
  ],
  delay: () => 0,
  summary: (v) => {
    const used = BANDS.filter((n) => valueOf(eq, v, `g${n}`) !== 0).length;
    return used === 1 ? '1 band' : `${used} bands`;
  },
  create: (k, rate, channels) => new FilterRunner(k, rate, channels, BANDS.length, design(k, rate)),
  response: (k, rate, values, freqs) => filterResponse(k, rate, BANDS.length, design(k, rate), values, freqs),
};
