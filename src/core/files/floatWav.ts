import { wavHeader } from './wavHeader';

/** A WAV of 32-bit float samples in memory, planar channels of equal length (frames at `sampleRate`, Hz). */
export function floatWav(channels: readonly Float32Array[], sampleRate: number): Uint8Array<ArrayBuffer> {
  const frames = channels[0]?.length ?? 0;
  const head = wavHeader({ format: 132, channels: channels.length, sampleRate, frames, mask: 0 });
  const out = new Uint8Array(head.length + frames * channels.length * 4);
  out.set(head);
  const view = new DataView(out.buffer, head.length);
  channels.forEach((samples, c) => {
    for (let i = 0; i < frames; i++) view.setFloat32((i * channels.length + c) * 4, samples[i]!, true);
  });
  return out;
}
