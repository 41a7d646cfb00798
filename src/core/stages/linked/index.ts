// Two stages that the engine places by itself where the stems of a reference are limited together: the detector looks at
// the sum of the stems, the applier gives each stem the gain that the sum would get. One arithmetic with the limiter.
import type { Kernels } from '@/core/kernels';
import { limiter, LimiterPasses, passDelays } from '../limiter';
import { type Key, type StageKind, type StageRunner, type StageValues } from '../stage';

/** Channels that the detector's node has more than the sum: one for the gain curve of each pass. */
export const curveCount = (values: StageValues): number => passDelays(values, 48_000).length;

class Detector implements StageRunner {
  private readonly passes: LimiterPasses;
  private curves = 1;

  constructor(
    private readonly k: Kernels,
    rate: number,
    private readonly channels: number,
    curves: number,
  ) {
    this.curves = curves;
    this.passes = new LimiterPasses(k, rate, channels - curves);
  }

  set(values: StageValues, on: boolean): void {
    this.passes.set({ ...values, link: 1 }, on, values.margin ?? 0);
  }

  run(chans: number, n: number): void {
    const first = (chans >> 2) + this.channels - this.curves;
    const curves = Array.from({ length: this.curves }, (_, i) => this.k.heapU32[first + i]!);
    this.passes.detect(chans, n, curves);
  }

  reduction(): number {
    return this.passes.reduction();
  }

  free(): void {
    this.passes.free();
  }
}

class Applier implements StageRunner {
  private readonly lines: { size: number; at: number; rings: number[] }[];

  constructor(
    private readonly k: Kernels,
    private readonly channels: number,
    delays: readonly number[],
  ) {
    this.lines = delays.map((size) => ({
      size,
      at: 0,
      rings: Array.from({ length: channels }, () => k.x.alloc(size * 4)),
    }));
  }

  set(): void {}

  /** `key`: the detector's node, its curves in the last channels. */
  run(chans: number, n: number, key?: Key | null): void {
    const { k } = this;
    this.lines.forEach((line, pass) => {
      let next = line.at;
      for (let c = 0; c < this.channels; c++) {
        const buf = k.heapU32[(chans >> 2) + c]!;
        next = k.x.delayRun(line.rings[c]!, line.size, line.at, buf, n);
        if (key) k.x.applyCurve(buf, k.heapU32[(key.table >> 2) + key.channels - this.lines.length + pass]!, n);
      }
      line.at = next;
    });
  }

  reduction(): null {
    return null;
  }

  free(): void {
    for (const line of this.lines) line.rings.forEach((r) => this.k.x.release(r));
  }
}

const INNER = { presets: [], startsOn: true, summary: () => '' };

/** Looks at the sum. What comes out of it is the curves, not the sum: it delays nothing. */
const detectorOf = (type: string, limits: number): StageKind => ({
  ...INNER,
  type,
  name: 'Linked limiter',
  params: [
    ...limiter.params.filter((p) => p.id !== 'link'),
    { id: 'margin', label: 'Margin', unit: 'dB', min: 0, max: 1, default: 0, step: 0.001, digits: 3 },
  ],
  delay: () => 0,
  create: (k, rate, channels) => new Detector(k, rate, channels, curveCount({ limits })),
});

/** Delays a stem as the detector does and multiplies it by its curves. */
const applierOf = (type: string, limits: number): StageKind => ({
  ...INNER,
  type,
  name: 'Linked gain',
  params: [],
  takesKey: true,
  delay: (_values, rate) => passDelays({ limits }, rate).reduce((sum, d) => sum + d, 0),
  create: (k, rate, channels) => new Applier(k, channels, passDelays({ limits }, rate)),
});

/** By what they look at: the two kinds have curves and delays of their own. */
export const DETECTORS = { sample: detectorOf('detectSample', 0), true: detectorOf('detectTrue', 1) } as const;
export const APPLIERS = { sample: applierOf('applySample', 0), true: applierOf('applyTrue', 1) } as const;
