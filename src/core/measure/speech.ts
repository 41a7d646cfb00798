import { ChannelSet, type Kernels } from '@/core/kernels';
import { FixedFilter, SECTION_BYTES } from './fixedFilter';

/*
 * Speech activity of this product's own. Speech opens and closes about four times a second and has its
 * power between 250 and 4000 Hz (the modulation and low-energy-frame features of Scheirer and Slaney,
 * ICASSP 1997, in a simple form). Levels of 20 ms are looked at over one second around each stretch of
 * 100 ms. The stretch counts as speech when
 *   - the band holds at least 35 % of the power of its second,
 *   - at least 20 % of the second's frames lie 12 dB or more below its loudest one (pauses between sounds),
 *   - its loudest frame rises at least twice within the second by 6 dB in 100 ms or less (syllables),
 *   - and it or what lies within 100 ms of it is within 20 dB of the second's loudest frame.
 */
const FRAMES_PER_STRETCH = 5;
const AROUND = 25;
const BAND_SHARE = 0.35;
const PAUSE_SHARE = 0.2;
const PAUSE_DB = 12;
const RISE_DB = 6;
const RISES = 2;
const BRIDGE = 5;
const LEVEL_DB = 20;
const LOWEST_DB = -70;

/** Which stretches of 100 ms hold speech. `band`, `all`: mean squares of 20 ms frames of the band and of everything. */
export function speechStretches(band: ArrayLike<number>, all: ArrayLike<number>): Uint8Array {
  const db = Float64Array.from(band, (v) => 10 * Math.log10(v + 1e-12));
  const stretches = Math.floor(db.length / FRAMES_PER_STRETCH);
  const out = new Uint8Array(stretches);
  for (let s = 0; s < stretches; s++) {
    const own = s * FRAMES_PER_STRETCH;
    const from = Math.max(0, own + 2 - AROUND);
    const to = Math.min(db.length, own + 3 + AROUND);
    let [inBand, inAll, top, ownTop] = [0, 0, -Infinity, -Infinity];
    for (let i = from; i < to; i++) {
      inBand += band[i]!;
      inAll += all[i]!;
      top = Math.max(top, db[i]!);
      if (i >= own - BRIDGE && i < own + FRAMES_PER_STRETCH + BRIDGE) ownTop = Math.max(ownTop, db[i]!);
    }
    if (top < LOWEST_DB || inBand < BAND_SHARE * inAll || ownTop < top - LEVEL_DB) continue;
    let pauses = 0;
    let rises = 0;
    let rising = false;
    for (let i = from; i < to; i++) {
      if (db[i]! < top - PAUSE_DB) pauses++;
      const rise = i - from >= 5 && db[i]! > top - LEVEL_DB && db[i]! - Math.min(db[i - 5]!, db[i - 3]!) >= RISE_DB;
      if (rise && !rising) rises++;
      rising = rise;
    }
    if (pauses >= PAUSE_SHARE * (to - from) && rises >= RISES) out[s] = 1;
  }
  return out;
}

/** Collects what `speechStretches` needs from the sum of the channels that count. */
export class SpeechActivity {
  private readonly frame: number;
  private readonly sum: ChannelSet;
  private readonly filter: FixedFilter;
  private readonly band: number[] = [];
  private readonly all: number[] = [];
  private phase = 0;
  private inBand = 0;
  private inAll = 0;

  constructor(
    private readonly k: Kernels,
    sampleRate: number,
    /** Channels that count: all but the LFE. */
    private readonly channels: readonly number[],
    mostFrames: number,
  ) {
    this.frame = Math.round(sampleRate / 50);
    this.sum = new ChannelSet(k, 2, mostFrames);
    this.filter = new FixedFilter(k, 4, (coefs) => {
      const sections = k.x.designLowCut(coefs, sampleRate, 250, 4);
      return sections + k.x.designHighCut(coefs + sections * SECTION_BYTES, sampleRate, 4000, 4);
    });
  }

  run(table: number, n: number): void {
    const { k } = this;
    const [sum, band] = [this.sum.at(0), this.sum.at(1)];
    k.x.clear(sum, n);
    for (const c of this.channels) k.x.mix(k.heapU32[(table >> 2) + c]!, sum, n, 1);
    k.x.copy(band, sum, n);
    this.filter.run(band, n);
    for (let i = 0; i < n;) {
      const part = Math.min(this.frame - this.phase, n - i);
      this.inAll += k.x.product(sum + i * 4, sum + i * 4, part);
      this.inBand += k.x.product(band + i * 4, band + i * 4, part);
      this.phase += part;
      i += part;
      if (this.phase < this.frame) return;
      this.all.push(this.inAll / this.frame);
      this.band.push(this.inBand / this.frame);
      this.phase = this.inBand = this.inAll = 0;
    }
  }

  /** 1 for each stretch of 100 ms that holds speech. */
  stretches(): Uint8Array {
    return speechStretches(this.band, this.all);
  }

  free(): void {
    this.sum.free();
    this.filter.free();
  }
}
