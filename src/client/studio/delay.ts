import { delayBetween } from '@/core/measure';
import type { Engine } from './engine';

export interface MeasuredDelay {
  /** Samples from sounding to arriving. */
  delay: number;
  /** 1: what arrived is what was sent. */
  likeness: number;
}

/** Length of the burst, how long an answer is waited for (s), and its level (linear, -20 dBFS). */
const BURST_SECONDS = 0.05;
const WAIT_SECONDS = 0.8;
const LEVEL = 0.1;
/** Listening begins this long before the burst (s). */
const LEAD_SECONDS = 0.3;

/** A burst of noise with a flat spectrum, the same each time. */
function burst(frames: number): Float32Array<ArrayBuffer> {
  let s = 0x9e3779b9;
  return Float32Array.from({ length: frames }, () => {
    s ^= s << 13;
    s ^= s >>> 17;
    s ^= s << 5;
    return LEVEL * ((s >>> 0) / 2 ** 31 - 1);
  });
}

/** Sounds a burst and finds it on a line of an open device. Throws when the device is off. */
export async function measureDelay(engine: Engine, device: string, line: number): Promise<MeasuredDelay> {
  const player = await engine.sound();
  const rate = player.context.sampleRate;
  const sent = burst(Math.round(BURST_SECONDS * rate));
  const frames = Math.round((WAIT_SECONDS + LEAD_SECONDS) * rate);
  const heard = new Float32Array(frames);
  let first: number | null = null;
  let filled = 0;
  let at = 0;
  await new Promise<void>((resolve) => {
    const end = player.listen(device, (channels, frame) => {
      const samples = channels[line];
      if (!samples || filled >= frames) return;
      first ??= frame;
      heard.set(samples.subarray(0, Math.min(samples.length, frames - filled)), filled);
      filled += samples.length;
      if (filled >= frames) {
        end();
        resolve();
      }
    });
    at = player.sound(sent, LEAD_SECONDS);
  });
  // The burst begins at frame `at` of the sound's clock; the listening began at `first`.
  const from = Math.max(0, at - first!);
  const { delay, likeness } = delayBetween(sent, heard.subarray(from), frames - from - sent.length);
  return { delay: delay + from + first! - at, likeness };
}
