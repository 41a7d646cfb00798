import type { Kernels } from '@/core/kernels';
import { FilterRunner, filterComplex, filterResponse, type FilterDesign } from './filterRunner';
import { type StageKind, type StageParam, valueOf } from './stage';

const MOST_SECTIONS = 4;

type Cut = Pick<StageKind, 'type' | 'name' | 'presets'> & {
  frequency: Pick<StageParam, 'min' | 'max' | 'default'>;
  /** The kernels' design of a cascade. */
  design: (k: Kernels) => (out: number, rate: number, frequency: number, order: number) => number;
};

/** A Butterworth low or high cut: 6 to 48 dB per octave, -3.01 dB at its frequency. */
export function cutStage({ type, name, presets, frequency, design }: Cut): StageKind {
  const of = (k: Kernels, rate: number): FilterDesign => {
    const write = design(k);
    // Half the sampling rate is out of the bilinear transform's reach.
    return (out, v) =>
      write(out, rate, Math.min(valueOf(kind, v, 'frequency'), 0.49 * rate), Math.round(valueOf(kind, v, 'slope') / 6));
  };
  const kind: StageKind = {
    type,
    name,
    startsOn: true,
    params: [
      { id: 'frequency', label: 'Frequency', unit: 'Hz', step: 1, digits: 0, log: true, ...frequency },
      { id: 'slope', label: 'Slope', unit: 'dB/oct', min: 6, max: 48, default: 12, step: 6, digits: 0 },
    ],
    presets,
    delay: () => 0,
    summary: (v) => `${valueOf(kind, v, 'frequency')} Hz · ${valueOf(kind, v, 'slope')} dB/oct`,
    create: (k, rate, channels) => new FilterRunner(k, rate, channels, MOST_SECTIONS, of(k, rate)),
    response: (k, rate, values, freqs) => filterResponse(k, rate, MOST_SECTIONS, of(k, rate), values, freqs),
    complex: (k, rate, values, freqs) => filterComplex(k, rate, MOST_SECTIONS, of(k, rate), values, freqs),
  };
  return kind;
}
