import { RAMP_BYTES, REVERB_BYTES, ChannelSet, type Kernels } from '@/core/kernels';
import { roomy } from '../dynamicsRunner';
import { linkParam, type StageKind, type StageRunner, type StageValues, valueOf } from '../stage';
import { lineLengths } from './lines';

const FADE_SECONDS = 0.02;
const GLIDE_SECONDS = 0.05;

/** What a change of needs new lines; all else glides. */
const STRUCTURE = ['size', 'preDelay', 'seed', 'link'] as const;

/**
 * One network for all channels (linked) or one for each. When the room itself changes, what sounds fades
 * out, the lines are made anew, and sound fades into the new room.
 */
class ReverbRunner implements StageRunner {
  private networks: number[] = [];
  private readonly wetRamp: number;
  private readonly dryRamp: number;
  private readonly inRamp: number;
  private wet: ChannelSet | null = null;
  private values: StageValues = {};
  private on = false;
  private built = '';
  /** Samples until the lines are made anew; negative: none waiting. */
  private swap = -1;

  constructor(
    private readonly k: Kernels,
    private readonly rate: number,
    private readonly channels: number,
  ) {
    this.wetRamp = k.x.alloc(RAMP_BYTES * channels);
    this.dryRamp = k.x.alloc(RAMP_BYTES * channels);
    this.inRamp = k.x.alloc(RAMP_BYTES * channels);
    this.ramp(this.inRamp, 1, 0);
  }

  private get structure(): string {
    return STRUCTURE.map((id) => valueOf(reverb, this.values, id)).join(' ');
  }

  set(values: StageValues, on: boolean): void {
    this.values = values;
    const first = this.built === '' && on;
    this.on = on;
    if (first) {
      this.build();
      this.aim(0);
    } else if (this.built !== '') {
      if (this.built !== this.structure && this.swap < 0) {
        this.swap = this.fade;
        this.ramp(this.wetRamp, 0, this.fade);
      }
      if (this.swap < 0) this.aim(this.fade);
      this.glide(Math.round(GLIDE_SECONDS * this.rate));
    }
  }

  private get fade(): number {
    return Math.round(FADE_SECONDS * this.rate);
  }

  private ramp(ramps: number, gain: number, glide: number): void {
    const size = RAMP_BYTES;
    for (let c = 0; c < this.channels; c++) this.k.x.rampTo(ramps + c * size, gain, glide);
  }

  private aim(glide: number): void {
    const mix = this.on ? valueOf(reverb, this.values, 'mix') / 100 : 0;
    this.ramp(this.wetRamp, mix * this.k.gain(valueOf(reverb, this.values, 'level')), glide);
    this.ramp(this.dryRamp, 1 - mix, glide);
  }

  private glide(samples: number): void {
    const decay = valueOf(reverb, this.values, 'decay');
    const bright = 1 - valueOf(reverb, this.values, 'damping') / 100;
    for (const p of this.networks) this.k.x.reverbSet(p, this.rate, decay, bright, samples);
  }

  private build(): void {
    this.clear();
    const { k, values } = this;
    const v = (id: string) => valueOf(reverb, values, id);
    const sizes = k.x.alloc(16 * 4);
    const linked = v('link') === 1;
    const count = linked ? 1 : this.channels;
    for (let i = 0; i < count; i++) {
      // Rooms of their own differ a little, so that equal sounds in two channels stay two rooms.
      const seed = v('seed') + i;
      k.u32(sizes, 16).set(lineLengths(v('size'), this.rate, seed));
      const p = k.x.alloc(REVERB_BYTES);
      const width = linked ? this.channels : 1;
      k.x.reverbInit(p, width, width, sizes, Math.round((v('preDelay') / 1000) * this.rate), seed);
      this.networks.push(p);
    }
    k.x.release(sizes);
    this.built = this.structure;
    this.glide(0);
  }

  run(chans: number, n: number): void {
    if (this.built === '') return;
    let at = 0;
    while (at < n) {
      const part = this.swap > 0 ? Math.min(this.swap, n - at) : n - at;
      this.part(chans, at, part);
      at += part;
      if (this.swap < 0) continue;
      this.swap -= part;
      if (this.swap > 0) continue;
      this.swap = -1;
      this.build();
      this.aim(0);
      this.ramp(this.inRamp, 0, 0);
      this.ramp(this.inRamp, 1, this.fade);
    }
  }

  private part(chans: number, at: number, n: number): void {
    const { k, channels } = this;
    const wet = (this.wet = roomy(k, this.wet, channels, n));
    const size = RAMP_BYTES;
    for (let c = 0; c < channels; c++) {
      k.x.copy(wet.at(c), k.heapU32[(chans >> 2) + c]! + at * 4, n);
      k.x.scaleRamp(this.inRamp + c * size, wet.at(c), n);
    }
    if (this.networks.length === 1) k.x.reverbRun(this.networks[0]!, wet.table, wet.table, n);
    else this.networks.forEach((p, c) => k.x.reverbRun(p, wet.table + c * 4, wet.table + c * 4, n));
    for (let c = 0; c < channels; c++) {
      const buf = k.heapU32[(chans >> 2) + c]! + at * 4;
      k.x.scaleRamp(this.dryRamp + c * size, buf, n);
      k.x.mixRamp(this.wetRamp + c * size, wet.at(c), buf, n);
    }
  }

  reduction(): null {
    return null;
  }

  private clear(): void {
    for (const p of this.networks) {
      this.k.x.reverbFree(p);
      this.k.x.release(p);
    }
    this.networks = [];
  }

  free(): void {
    this.clear();
    [this.wetRamp, this.dryRamp, this.inRamp].forEach((p) => this.k.x.release(p));
    this.wet?.free();
  }
}

/** A room: sixteen delay lines that feed each other, in any width. */
export const reverb: StageKind = {
  type: 'reverb',
  name: 'Reverb',
  startsOn: true,
  params: [
    { id: 'decay', label: 'Decay', unit: 's', min: 0.1, max: 12, default: 1.2, step: 0.05, digits: 2, log: true },
    { id: 'preDelay', label: 'Pre-delay', unit: 'ms', min: 0, max: 250, default: 10, step: 1, digits: 0 },
    { id: 'damping', label: 'Damping', unit: '%', min: 0, max: 95, default: 50, step: 1, digits: 0 },
    { id: 'size', label: 'Size', unit: 'm', min: 2, max: 40, default: 12, step: 0.5, digits: 1, log: true },
    { id: 'mix', label: 'Mix', unit: '%', min: 0, max: 100, default: 100, step: 1, digits: 0 },
    { id: 'level', label: 'Level', unit: 'dB', min: -40, max: 20, default: 0, step: 0.5, digits: 1 },
    { id: 'seed', label: 'Variant', unit: '', min: 1, max: 99, default: 1, step: 1, digits: 0 },
    linkParam,
  ],
  presets: [
    // Values are our own, chosen by ear and by what such places measure; common practice, no source.
    { name: 'Booth, dry', values: { decay: 0.15, preDelay: 0, damping: 80, size: 2 } },
    { name: 'Phone box, glass and tin', values: { decay: 0.3, preDelay: 1, damping: 15, size: 2 } },
    { name: 'Small room', values: { decay: 0.4, preDelay: 2, damping: 60, size: 4 } },
    { name: "Boat's cabin, wood", values: { decay: 0.35, preDelay: 1, damping: 65, size: 3 } },
    { name: 'Outdoors, by a wall', values: { decay: 0.5, preDelay: 55, damping: 60, size: 30 } },
    { name: 'Stairwell, tiled', values: { decay: 2.2, preDelay: 8, damping: 20, size: 10 } },
    { name: 'Lamp room, stone', values: { decay: 1.8, preDelay: 12, damping: 35, size: 9 } },
    { name: 'Harbour, open water', values: { decay: 1.8, preDelay: 28, damping: 45, size: 22 } },
    { name: 'Hall', values: { decay: 2.6, preDelay: 25, damping: 55, size: 24 } },
  ],
  delay: () => 0,
  tail: (v) => valueOf(reverb, v, 'decay') + valueOf(reverb, v, 'preDelay') / 1000,
  summary: (v) => `${valueOf(reverb, v, 'decay').toFixed(1)} s · ${valueOf(reverb, v, 'size')} m`,
  create: (k, rate, channels) => new ReverbRunner(k, rate, channels),
};
