import type { Kernels } from '@/core/kernels';
import { type StageKind, type StageRunner, type StageValues, valueOf } from '../stage';

const LOOK_AHEAD_SECONDS = 0.0015;
/** Ceiling that no sample reaches: the limiter only delays. */
const OUT_OF_REACH_DB = 120;

const windowOf = (rate: number): number => Math.round(LOOK_AHEAD_SECONDS * rate);

class LimiterRunner implements StageRunner {
  private readonly state: number;

  constructor(
    private readonly k: Kernels,
    private readonly rate: number,
    channels: number,
  ) {
    this.state = k.x.alloc(k.sizeOf('LIMITER'));
    k.x.limiterInit(this.state, channels, windowOf(rate));
  }

  set(values: StageValues, on: boolean): void {
    this.k.x.limiterSet(
      this.state,
      this.rate,
      on ? valueOf(limiter, values, 'ceiling') : OUT_OF_REACH_DB,
      valueOf(limiter, values, 'release') * 1e-3,
    );
  }

  run(chans: number, n: number): void {
    this.k.x.limiterRun(this.state, chans, n);
  }

  reduction(): number {
    return this.k.x.limiterReduction(this.state);
  }

  free(): void {
    this.k.x.limiterFree(this.state);
    this.k.x.release(this.state);
  }
}

/** Look-ahead limiter on sample peaks, channels linked: no sample passes the ceiling; true peaks may. */
export const limiter: StageKind = {
  type: 'limiter',
  name: 'Limiter (sample peak)',
  startsOn: true,
  params: [
    { id: 'ceiling', label: 'Ceiling', unit: 'dBFS', min: -24, max: 0, default: -0.2, step: 0.1, digits: 1 },
    { id: 'release', label: 'Release', unit: 'ms', min: 10, max: 1000, default: 80, step: 5, digits: 0, log: true },
  ],
  presets: [{ name: 'Stem', values: { ceiling: -0.2, release: 80 } }],
  delay: (_values, rate) => windowOf(rate) - 1,
  summary: (v) => `${valueOf(limiter, v, 'ceiling')} dBFS`,
  create: (k, rate, channels) => new LimiterRunner(k, rate, channels),
  transfer: (_k, values, levels) => levels.map((l) => Math.min(l, valueOf(limiter, values, 'ceiling'))),
};
