import { ChannelSet, type Kernels } from '@/core/kernels';
import { Resampler } from './resampler';

/** A whole signal at another rate; see Resampler. Throws RangeError when the rates do not fit each other. */
export function resample(k: Kernels, samples: Float32Array, from: number, to: number): Float32Array {
  if (from === to) return samples.slice();
  const frames = Math.max(1, samples.length);
  const r = new Resampler(k, from, to, 1, frames);
  const input = new ChannelSet(k, 1, frames);
  input.view(0).set(samples);
  const first = r.run(input.table, samples.length);
  const head = r.output.view(0, first).slice();
  const rest = r.finish();
  const out = new Float32Array(first + rest);
  out.set(head);
  out.set(r.output.view(0, rest), first);
  r.free();
  input.free();
  return out;
}
