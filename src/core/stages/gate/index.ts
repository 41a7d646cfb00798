import type { Kernels } from '@/core/kernels';
import { type StageKind, type StageRunner, type StageValues, valueOf } from '../stage';

class GateRunner implements StageRunner {
  private readonly state: number;
  private ever = false;

  constructor(
    private readonly k: Kernels,
    private readonly rate: number,
    private readonly channels: number,
  ) {
    this.state = k.x.alloc(k.sizeOf('GATE'));
    k.x.gateInit(this.state);
  }

  set(values: StageValues, on: boolean): void {
    const v = (id: string) => valueOf(gate, values, id);
    this.ever ||= on;
    const ms = 1e-3;
    this.k.x.gateSet(
      this.state,
      this.rate,
      v('threshold'),
      on ? v('ratio') : 1,
      on ? v('range') : 0,
      v('attack') * ms,
      v('hold') * ms,
      v('release') * ms,
    );
  }

  run(chans: number, n: number): void {
    if (this.ever) this.k.x.gateRun(this.state, chans, this.channels, n);
  }

  reduction(): number {
    return this.k.x.gateReduction(this.state);
  }

  free(): void {
    this.k.x.release(this.state);
  }
}

/** Downward expander; with a high ratio a gate. All channels share one gain. */
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
  ],
  presets: [
    { name: 'Quiet room', values: { threshold: -46, ratio: 3, range: -12, attack: 2, hold: 120, release: 250 } },
    { name: 'Noisy room', values: { threshold: -40, ratio: 4, range: -20, attack: 2, hold: 180, release: 300 } },
  ],
  delay: () => 0,
  summary: (v) => `${valueOf(gate, v, 'threshold')} dB · ${valueOf(gate, v, 'ratio')}:1`,
  create: (k, rate, channels) => new GateRunner(k, rate, channels),
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
