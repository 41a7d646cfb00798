import { type DynamicsKernel, DynamicsRunner } from '../dynamicsRunner';
import { type StageKind, valueOf } from '../stage';

const kernel: DynamicsKernel = {
  state: 'COMPRESSOR',
  init: (k, p) => k.x.compressorInit(p),
  set: (k, p, rate, values, on) => {
    const v = (id: string) => valueOf(compressor, values, id);
    const [ratio, makeup] = on ? [v('ratio'), v('makeup')] : [1, 0];
    k.x.compressorSet(p, rate, v('threshold'), ratio, v('knee'), makeup, v('attack') / 1000, v('release') / 1000);
  },
  run: (k, p, chans, count, n) => k.x.compressorRun(p, chans, count, n),
  reduction: (k, p) => k.x.compressorReduction(p),
};

/** Peak compressor with soft knee, channels linked. Off in a voice chain until wanted (common practice). */
export const compressor: StageKind = {
  type: 'compressor',
  name: 'Compressor',
  startsOn: false,
  params: [
    { id: 'threshold', label: 'Threshold', unit: 'dBFS', min: -60, max: 0, default: -20, step: 0.5, digits: 1 },
    { id: 'ratio', label: 'Ratio', unit: ':1', min: 1, max: 20, default: 2.5, step: 0.1, digits: 1, log: true },
    { id: 'knee', label: 'Knee', unit: 'dB', min: 0, max: 24, default: 6, step: 0.5, digits: 1 },
    { id: 'attack', label: 'Attack', unit: 'ms', min: 0.5, max: 200, default: 10, step: 0.5, digits: 1, log: true },
    { id: 'release', label: 'Release', unit: 'ms', min: 10, max: 2000, default: 120, step: 5, digits: 0, log: true },
    { id: 'makeup', label: 'Make-up', unit: 'dB', min: -12, max: 24, default: 0, step: 0.5, digits: 1 },
  ],
  presets: [
    { name: 'Narration, gentle', values: { threshold: -20, ratio: 2.5, knee: 6, attack: 10, release: 120, makeup: 0 } },
    { name: 'Dialogue, firm', values: { threshold: -24, ratio: 4, knee: 4, attack: 5, release: 90, makeup: 3 } },
  ],
  delay: () => 0,
  summary: (v) => `${valueOf(compressor, v, 'ratio')}:1 at ${valueOf(compressor, v, 'threshold')}`,
  create: (k, rate, channels) => new DynamicsRunner(kernel, k, rate, channels),
  transfer: (k, values, levels) =>
    levels.map(
      (l) =>
        l +
        valueOf(compressor, values, 'makeup') +
        k.x.compressorCurve(
          l,
          valueOf(compressor, values, 'threshold'),
          valueOf(compressor, values, 'ratio'),
          valueOf(compressor, values, 'knee'),
        ),
    ),
};
