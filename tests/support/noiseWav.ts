import { DATA_OFFSET, FrameCodec, wavHeader } from '@/core/files';
import { newKernels, noise, put } from './kernels';

/** A mono file of noise at 48 kHz and 24 bits. */
export function noiseWav(seconds: number): Uint8Array<ArrayBuffer> {
  const k = newKernels();
  const frames = seconds * 48_000;
  const set = put(k, [noise(frames, 0.3, 5)]);
  const { bytes } = new FrameCodec(k, 24, 1, frames).encode(set.table, frames);
  const out = new Uint8Array(DATA_OFFSET + bytes.length);
  out.set(wavHeader({ format: 24, channels: 1, sampleRate: 48_000, frames, mask: 4 }));
  out.set(bytes, DATA_OFFSET);
  return out;
}
