import { earAlpha, earDelay, HEAD_CORNER, HEAD_RADIUS, incidence, SPEED_OF_SOUND } from '@/core/acoustics';
import type { Kernels } from '@/core/kernels';
import { LAYOUTS, ownLayoutOf, type Layout } from '@/core/speakers';
import type { StageKind, StageRunner, StageValues } from '../stage';

export const headType = (layout: Layout): string => `head/${layout.id}`;

/** Nothing reaches an ear sooner than by the radius of the head: delays are counted from there. */
const EARLIEST = HEAD_RADIUS / SPEED_OF_SOUND;
const EARS = ['left', 'right'] as const;
const HALF_POWER = Math.SQRT1_2;
/** Frames that are worked on at a time: a ring must hold them beside its delays. */
const MOST = 1024;

interface Way {
  channel: number;
  /** Samples, with parts. */
  delay: number;
  gain: number;
  /** One pole, one zero. */
  b0: number;
  b1: number;
  a1: number;
  x1: number;
  y1: number;
}

/** The loudspeakers of a layout as two ears hear them around a head that is a sphere; an LFE reaches both alike. */
class HeadRunner implements StageRunner {
  private readonly ways: Way[][];
  private readonly rings: Float32Array[];
  private readonly mask: number;
  private at = 0;
  private on = true;

  constructor(
    private readonly k: Kernels,
    rate: number,
    private readonly channels: number,
    layout: Layout,
  ) {
    const size = 2 ** Math.ceil(Math.log2(MOST + EARLIEST * 4 * rate + 4));
    this.mask = size - 1;
    this.rings = Array.from({ length: channels }, () => new Float32Array(size));
    this.ways = EARS.map((ear) =>
      layout.speakers.slice(0, channels).map((s, channel): Way => {
        if (s.lfe) return { channel, delay: EARLIEST * rate, gain: HALF_POWER, b0: 1, b1: 0, a1: 0, x1: 0, y1: 0 };
        const theta = incidence(s.azimuth, s.elevation, ear);
        // Bilinear transform of (1 + alpha s / 2w0) / (1 + s / 2w0).
        const c = rate / (2 * Math.PI * HEAD_CORNER);
        const alpha = earAlpha(theta);
        const norm = 1 / (1 + c);
        return {
          ...{ channel, delay: (EARLIEST + earDelay(theta)) * rate, gain: 1 },
          ...{ b0: (1 + alpha * c) * norm, b1: (1 - alpha * c) * norm, a1: (1 - c) * norm, x1: 0, y1: 0 },
        };
      }),
    );
  }

  set(_values: StageValues, on: boolean): void {
    this.on = on;
  }

  run(chans: number, frames: number): void {
    for (let from = 0; from < frames; from += MOST) this.part(chans, from, Math.min(MOST, frames - from));
  }

  private part(chans: number, from: number, n: number): void {
    const { heap, heapU32 } = this.k;
    const base = (c: number) => (heapU32[(chans >> 2) + c]! >> 2) + from;
    for (let c = 0; c < this.channels; c++) {
      const [ring, at] = [this.rings[c]!, base(c)];
      for (let i = 0; i < n; i++) ring[(this.at + i) & this.mask] = heap[at + i]!;
      if (this.on) heap.fill(0, at, at + n);
    }
    if (this.on)
      for (let ear = 0; ear < Math.min(EARS.length, this.channels); ear++)
        for (const way of this.ways[ear]!) this.add(way, heap, base(ear), n);
    this.at += n;
  }

  private add(way: Way, heap: Float32Array, to: number, n: number): void {
    const ring = this.rings[way.channel]!;
    const whole = Math.floor(way.delay);
    const rest = way.delay - whole;
    for (let i = 0; i < n; i++) {
      const at = this.at + i - whole;
      const x = ring[at & this.mask]! * (1 - rest) + ring[(at - 1) & this.mask]! * rest;
      const y = way.b0 * x + way.b1 * way.x1 - way.a1 * way.y1;
      way.x1 = x;
      way.y1 = y;
      heap[to + i] = heap[to + i]! + way.gain * y;
    }
  }

  reduction(): null {
    return null;
  }

  free(): void {}
}

function kindOf(layout: Layout): StageKind {
  return {
    ...{ type: headType(layout), name: 'Head', params: [], presets: [], startsOn: true },
    delay: () => 0,
    summary: () => `${layout.name} around a spherical head`,
    create: (k, rate, channels) => new HeadRunner(k, rate, channels, layout),
  };
}

const standard = new Map(LAYOUTS.map((l) => [headType(l), kindOf(l)]));

/** The head for a layout, by the type of its stage; undefined for another type. The engine places it by itself. */
export function headKind(type: string): StageKind | undefined {
  const known = standard.get(type);
  if (known || !type.startsWith('head/')) return known;
  const layout = ownLayoutOf(type.slice('head/'.length));
  if (!layout) return undefined;
  const made = kindOf(layout);
  standard.set(type, made);
  return made;
}
