import type { Kernels } from '@/core/kernels';
import { FilterRunner, filterResponse, type FilterDesign } from '../filterRunner';
import { type StageKind, valueOf } from '../stage';

const MOST_SECTIONS = 4;

const design =
  (k: Kernels, rate: number): FilterDesign =>
  (out, values) =>
    k.x.designLowCut(out, rate, valueOf(lowCut, values, 'frequency'), Math.round(valueOf(lowCut, values, 'slope') / 6));

/** Butterworth high-pass, 6 to 48 dB per octave, -3.01 dB at its frequency. 70 Hz suits voices (common practice). */
export const lowCut: StageKind = {
  type: 'lowCut',
  name: 'Low cut',
  startsOn: true,
  params: [
    { id: 'frequency', label: 'Frequency', unit: 'Hz', min: 20, max: 400, default: 70, step: 1, digits: 0, log: true },
    { id: 'slope', label: 'Slope', unit: 'dB/oct', min: 6, max: 48, default: 12, step: 6, digits: 0 },
  ],
  presets: [
    { name: 'Voice', values: { frequency: 70, slope: 12 } },
    { name: 'Voice, rumbling room', values: { frequency: 90, slope: 24 } },
  ],
  delay: () => 0,
  summary: (v) => `${valueOf(lowCut, v, 'frequency')} Hz · ${valueOf(lowCut, v, 'slope')} dB/oct`,
  create: (k, rate, channels) => new FilterRunner(k, rate, channels, MOST_SECTIONS, design(k, rate)),
  response: (k, rate, values, freqs) => filterResponse(k, rate, MOST_SECTIONS, design(k, rate), values, freqs),
};
