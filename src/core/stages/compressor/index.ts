import { type DynamicsLaw, DynamicsRunner } from '../dynamicsRunner';
import { choiceParam, linkParam, type StageKind, valueOf } from '../stage';

const law: DynamicsLaw = {
  kernel: 0,
  set: (k, p, rate, values, on) => {
    const v = (id: string) => valueOf(compressor, values, id);
    const [ratio, makeup] = on ? [v('ratio'), v('makeup')] : [1, 0];
    const times = [v('attack') / 1000, v('release') / 1000, v('detector') === 1 ? v('window') / 1000 : 0] as const;
    k.x.compressorSet(p, rate, v('threshold'), ratio, v('knee'), makeup, ...times, v('link'));
  },
  // At the lowest frequency the filter in front of the detector is out.
  sideChain: (k, out, rate, values) => {
    const freq = valueOf(compressor, values, 'keyLowCut');
    return freq > LOWEST_KEY_HZ ? k.x.designLowCut(out, rate, freq, 2) : 0;
  },
};

const LOWEST_KEY_HZ = 20;

/**
 * Compressor with soft knee, by peak or by mean square, with a low cut in front of its detector and, if
 * wanted, another track or bus as its key. Off in a voice chain until wanted (common practice).
 */
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
    choiceParam('detector', 'Detector', ['peak', 'RMS']),
    { id: 'window', label: 'RMS window', unit: 'ms', min: 1, max: 100, default: 10, step: 1, digits: 0, log: true },
    {
      id: 'keyLowCut',
      label: 'Key low cut',
      unit: 'Hz',
      min: LOWEST_KEY_HZ,
      max: 1000,
      default: LOWEST_KEY_HZ,
      step: 1,
      digits: 0,
      log: true,
    },
    linkParam,
  ],
  takesKey: true,
  presets: [
    { name: 'Narration, gentle', values: { threshold: -20, ratio: 2.5, knee: 6, attack: 10, release: 120, makeup: 0 } },
    { name: 'Dialogue, firm', values: { threshold: -24, ratio: 4, knee: 4, attack: 5, release: 90, makeup: 3 } },
  ],
  delay: () => 0,
  summary: (v) => `${valueOf(compressor, v, 'ratio')}:1 at ${valueOf(compressor, v, 'threshold')}`,
  create: (k, rate, channels) => new DynamicsRunner(law, k, rate, channels),
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
