import { readFileSync } from 'node:fs';
import { ChannelSet, Kernels } from '@/core/kernels';

/** The compiled kernels, as the page gets them. */
export const wasm = new WebAssembly.Module(readFileSync(new URL('../../build/kernels.wasm', import.meta.url)));

/** Kernels of their own for one test file. */
export const newKernels = (): Kernels => new Kernels(wasm);

/** Puts planar samples into kernel memory. */
export function put(k: Kernels, channels: readonly ArrayLike<number>[]): ChannelSet {
  const set = new ChannelSet(k, channels.length, channels[0]!.length);
  channels.forEach((samples, c) => set.view(c).set(samples));
  return set;
}

/** A sine of `amplitude`; `phase` in degrees. */
export function sine(frames: number, rate: number, freq: number, amplitude: number, phase = 0): Float32Array {
  return Float32Array.from(
    { length: frames },
    (_, i) => amplitude * Math.sin((2 * Math.PI * freq * i) / rate + (phase * Math.PI) / 180),
  );
}

/** Repeatable white noise in ±amplitude. */
export function noise(frames: number, amplitude: number, seed = 1): Float32Array {
  let s = seed >>> 0 || 1;
  return Float32Array.from({ length: frames }, () => {
    s ^= s << 13;
    s >>>= 0;
    s ^= s >>> 17;
    s ^= s << 5;
    s >>>= 0;
    return amplitude * (s / 2 ** 31 - 1);
  });
}

/** Runs `work` over [0, frames) in blocks of `size`. */
export function inBlocks(frames: number, size: number, work: (at: number, n: number) => void): void {
  for (let at = 0; at < frames; at += size) work(at, Math.min(size, frames - at));
}
