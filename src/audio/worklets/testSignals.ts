import { TEST, type Engine } from '@/core/engine';
import type { Kernels } from '@/core/kernels';
import { generator, type Generator } from '@/core/signals';
import type { TestSound } from '../messages';

const GLIDE_SECONDS = 0.01;

interface Sounding {
  parts: { channel: number; signal: Generator }[];
  /** Frames that it has sounded, and after which it ends by itself. */
  at: number;
  frames: number;
  /** Frame at which it began to go, or null. */
  going: number | null;
  glide: number;
}

/** Lays test signals into their node, each loudspeaker's into its channel; they come and go without a click. */
export class TestSignals {
  private list: Sounding[] = [];
  private begun: ((at: number) => void) | null = null;
  private readonly scratch: number;

  constructor(
    private readonly k: Kernels,
    private readonly rate: number,
    mostFrames: number,
  ) {
    this.scratch = k.x.alloc(mostFrames * 4);
  }

  /** Another sound in the place of what sounds; null: silence. `begun` is told the frame of its first sample. */
  set(sound: TestSound | null, begun: (at: number) => void): void {
    for (const s of this.list) s.going ??= s.at;
    this.begun = null;
    if (!sound) return;
    const { parts, frames = Infinity, glides } = sound;
    this.list.push({
      parts: parts.map(({ channel, signal }) => ({ channel, signal: generator(this.k, this.rate, signal) })),
      ...{ at: 0, frames, going: null, glide: glides ? Math.round(GLIDE_SECONDS * this.rate) : 0 },
    });
    this.begun = begun;
  }

  get idle(): boolean {
    return this.list.length === 0;
  }

  /** Adds the next `n` frames; `now`: frame of the sound's clock of the first. */
  run(engine: Engine, n: number, now: number): void {
    if (this.list.length === 0 || !engine.has(TEST)) return;
    const { buffer } = engine.node(TEST);
    const last = this.list.at(-1)!;
    if (this.begun && last.at === 0) this.begun(now);
    this.begun = null;
    for (const s of this.list) this.add(s, buffer, n);
    this.list = this.list.filter((s) => {
      const over = s.at >= s.frames || (s.going !== null && s.at >= s.going + s.glide);
      if (over) s.parts.forEach((p) => p.signal.free());
      return !over;
    });
  }

  private add(s: Sounding, buffer: { channels: number; view(c: number, n: number): Float32Array }, n: number): void {
    const { k, scratch } = this;
    const part = Math.min(n, s.frames - s.at);
    for (const { channel, signal } of s.parts) {
      k.x.clear(scratch, n);
      signal.run(scratch, n);
      if (channel >= buffer.channels) continue;
      const [from, to] = [k.f32(scratch, n), buffer.view(channel, n)];
      for (let i = 0; i < part; i++) to[i] = to[i]! + from[i]! * this.gainAt(s, s.at + i);
    }
    s.at += n;
  }

  private gainAt({ glide, going, frames }: Sounding, at: number): number {
    const out = going === null ? 1 : glide === 0 ? 0 : 1 - (at - going) / glide;
    if (glide === 0) return Math.max(0, out);
    return Math.max(0, Math.min(1, at / glide, out, (frames - at) / glide));
  }
}
