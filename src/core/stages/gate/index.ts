import { type DynamicsLaw, DynamicsRunner } from '../dynamicsRunner';
import { linkParam, type StageKind, valueOf } from '../stage';

const law: DynamicsLaw = {
  kernel: 1,
  set: (k, p, rate, values, on) => {
    const v = (id: string) => valueOf(gate, values, id);
    const [ratio, range] = on ? [v('ratio'), v('range')] : [1, 0];
    const times = [v('attack') / 1000, v('hold') / 1000, v('release') / 1000] as const;
    k.x.gateSet(p, rate, v('threshold'), ratio, range, ...times, v('hysteresis'), v('link'));
  },
};

/** Downward expander; with a high ratio a gate. Once open it closes `hysteresis` below its threshold. */
export const gate: StageKind = {
  type: 'gate',
  name: 'Gate',
  startsOn: true,
  params: [
    { id: 'threshold', label: 'Threshold', unit: 'dBFS', min: -80, max: 0, default: -46, step: 0.5, digits: 1 },
    { id: 'ratio', label: 'Ratio', unit: ':1', min: 1, max: 20, default: 3, step: 0.1, digits: 1, log: true },
    { id: 'range', label: 'Range', unit: 'dB', min: -60, max: 0, default: -12, step: 0.5, digits: 1 },
    { id: 'attack', label: 'Attack', unit: 'ms', min: 0.5, max: 50, default: 2, step: 0.5, digits: 1, log: true },
    { id: 'hold', label: 'Hold', unit: 'ms', min: 0, max: 1000, default: 120, step: 10, digits: 0 },
    { id: 'release', label: 'Release', unit: 'ms', min: 10, max: 2000, default: 250, step: 10, digits: 0, log: true },
    { id: 'hysteresis', label: 'Hysteresis', unit: 'dB', min: 0, max: 12, default: 0, step: 0.5, digits: 1 },
    linkParam,
  ],
  takesKey: true,
  presets: [
    {
      name: 'Quiet room',
      values: { threshold: -46, hysteresis: 3, ratio: 3, range: -12, attack: 2, hold: 120, release: 250 },
    },
    {
      name: 'Noisy room',
      values: { threshold: -40, hysteresis: 4, ratio: 4, range: -20, attack: 2, hold: 180, release: 300 },
    },
  ],
  delay: () => 0,
  summary: (v) => `${valueOf(gate, v, 'threshold')} dB · ${valueOf(gate, v, 'ratio')}:1`,
  create: (k, rate, channels) => new DynamicsRunner(law, k, rate, channels),
  transfer: (k, values, levels) =>
    levels.map(
      (l) =>
        l +
        k.x.gateCurve(
          l,
          valueOf(gate, values, 'threshold'),
          valueOf(gate, values, 'ratio'),
          valueOf(gate, values, 'range'),
        ),
    ),
};
