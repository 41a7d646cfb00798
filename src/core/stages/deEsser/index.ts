import { type DynamicsLaw, DynamicsRunner } from '../dynamicsRunner';
import { filterComplex } from '../filterRunner';
import { choiceParam, linkParam, type StageKind, valueOf } from '../stage';

const KNEE_DB = 4;

const law: DynamicsLaw = {
  kernel: 0,
  set: (k, p, rate, values, on) => {
    const v = (id: string) => valueOf(deEsser, values, id);
    const ratio = on ? v('ratio') : 1;
    k.x.compressorSet(
      p,
      rate,
      v('threshold'),
      ratio,
      KNEE_DB,
      0,
      v('attack') / 1000,
      v('release') / 1000,
      0,
      v('link'),
    );
  },
  sideChain: (k, out, rate, values) => {
    k.x.designBandPass(out, rate, valueOf(deEsser, values, 'frequency'), valueOf(deEsser, values, 'q'));
    return 1;
  },
  bandShare: (values) => 1 - valueOf(deEsser, values, 'works'),
};

/**
 * Compressor that listens to the sibilant band only and turns that band down (or the whole). The band is a
 * cookbook band-pass; what is taken away is (1 - gain) times it, so nothing changes while it rests.
 */
export const deEsser: StageKind = {
  type: 'deEsser',
  name: 'De-esser',
  startsOn: true,
  params: [
    {
      id: 'frequency',
      label: 'Centre',
      unit: 'Hz',
      min: 2000,
      max: 12000,
      default: 6500,
      step: 50,
      digits: 0,
      log: true,
    },
    { id: 'q', label: 'Q', unit: '', min: 0.3, max: 5, default: 1, step: 0.1, digits: 1, log: true },
    { id: 'threshold', label: 'Threshold', unit: 'dBFS', min: -60, max: 0, default: -30, step: 0.5, digits: 1 },
    { id: 'ratio', label: 'Ratio', unit: ':1', min: 1, max: 20, default: 4, step: 0.1, digits: 1, log: true },
    { id: 'attack', label: 'Attack', unit: 'ms', min: 0.3, max: 20, default: 1, step: 0.1, digits: 1, log: true },
    { id: 'release', label: 'Release', unit: 'ms', min: 5, max: 300, default: 40, step: 5, digits: 0, log: true },
    choiceParam('works', 'Turns down', ['the band', 'the whole']),
    linkParam,
  ],
  presets: [
    { name: 'Lower voice', values: { frequency: 5500, q: 1, threshold: -30, ratio: 4 } },
    { name: 'Higher voice', values: { frequency: 7500, q: 1, threshold: -30, ratio: 4 } },
  ],
  delay: () => 0,
  summary: (v) => `${(valueOf(deEsser, v, 'frequency') / 1000).toFixed(1)} kHz at ${valueOf(deEsser, v, 'threshold')}`,
  create: (k, rate, channels) => new DynamicsRunner(law, k, rate, channels),
  transfer: (k, values, levels) => {
    const v = (id: string) => valueOf(deEsser, values, id);
    return levels.map((l) => l + k.x.compressorCurve(l, v('threshold'), v('ratio'), KNEE_DB));
  },
  complex: (k, rate, values, freqs) =>
    filterComplex(k, rate, 1, (out, v) => law.sideChain!(k, out, rate, v), values, freqs),
};
