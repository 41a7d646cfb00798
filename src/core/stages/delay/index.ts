import { TAP_BYTES, type Kernels } from '@/core/kernels';
import { type StageKind, type StageRunner, type StageValues, valueOf } from '../stage';

const MOST_MS = 1000;
const FADE_SECONDS = 0.02;

class DelayRunner implements StageRunner {
  private taps: number[] = [];
  private fresh = true;

  constructor(
    private readonly k: Kernels,
    private readonly rate: number,
    private readonly channels: number,
  ) {}

  set(values: StageValues, on: boolean): void {
    const samples = on ? Math.round((valueOf(delay, values, 'time') / 1000) * this.rate) : 0;
    // Lines of a second each are made when first wanted.
    if (samples > 0 && this.taps.length === 0) {
      this.taps = Array.from({ length: this.channels }, () => {
        const p = this.k.x.alloc(TAP_BYTES);
        this.k.x.tapInit(p, Math.ceil((MOST_MS / 1000) * this.rate), Math.round(FADE_SECONDS * this.rate));
        return p;
      });
    }
    for (const p of this.taps) this.k.x.tapSet(p, samples, this.fresh ? 1 : 0);
    this.fresh = false;
  }

  run(chans: number, n: number): void {
    for (let c = 0; c < this.taps.length; c++) this.k.x.tapRun(this.taps[c]!, this.k.heapU32[(chans >> 2) + c]!, n);
  }

  reduction(): null {
    return null;
  }

  free(): void {
    for (const p of this.taps) {
      this.k.x.tapFree(p);
      this.k.x.release(p);
    }
  }
}

/** A wanted delay, in whole samples; it is heard, so it is not compensated. A change crossfades over 20 ms. */
export const delay: StageKind = {
  type: 'delay',
  name: 'Delay',
  startsOn: true,
  params: [{ id: 'time', label: 'Time', unit: 'ms', min: 0, max: MOST_MS, default: 0, step: 0.1, digits: 2 }],
  presets: [],
  delay: () => 0,
  tail: (v) => valueOf(delay, v, 'time') / 1000,
  summary: (v) => `${valueOf(delay, v, 'time').toFixed(1)} ms`,
  create: (k, rate, channels) => new DelayRunner(k, rate, channels),
};
