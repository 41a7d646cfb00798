import { RAMP_BYTES, type Kernels } from '@/core/kernels';
import { choiceParam, type StageKind, type StageRunner, type StageValues, valueOf } from '../stage';

const GLIDE_SECONDS = 0.01;

class TrimRunner implements StageRunner {
  private readonly ramps: number[];
  private fresh = true;

  constructor(
    private readonly k: Kernels,
    private readonly rate: number,
    channels: number,
  ) {
    this.ramps = Array.from({ length: channels }, () => {
      const ramp = k.x.alloc(RAMP_BYTES);
      k.x.rampInit(ramp, 1);
      return ramp;
    });
  }

  set(values: StageValues, on: boolean): void {
    const sign = valueOf(trim, values, 'polarity') === 1 ? -1 : 1;
    const gain = on ? sign * this.k.gain(valueOf(trim, values, 'gain')) : 1;
    const glide = this.fresh ? 0 : Math.round(GLIDE_SECONDS * this.rate);
    for (const ramp of this.ramps) this.k.x.rampTo(ramp, gain, glide);
    this.fresh = false;
  }

  run(chans: number, n: number): void {
    for (let c = 0; c < this.ramps.length; c++) {
      this.k.x.scaleRamp(this.ramps[c]!, this.k.heapU32[(chans >> 2) + c]!, n);
    }
  }

  reduction(): null {
    return null;
  }

  free(): void {
    this.ramps.forEach((r) => this.k.x.release(r));
  }
}

/** Gain and polarity. Nothing saturates: samples are floats and may pass full scale until they are limited or written. */
export const trim: StageKind = {
  type: 'trim',
  name: 'Trim',
  startsOn: true,
  params: [
    { id: 'gain', label: 'Gain', unit: 'dB', min: -60, max: 40, default: 0, step: 0.1, digits: 1 },
    choiceParam('polarity', 'Polarity', ['as it comes', 'turned over']),
  ],
  presets: [],
  delay: () => 0,
  summary: (v) =>
    `${valueOf(trim, v, 'gain').toFixed(1)} dB${valueOf(trim, v, 'polarity') === 1 ? ' · turned over' : ''}`,
  create: (k, rate, channels) => new TrimRunner(k, rate, channels),
};
