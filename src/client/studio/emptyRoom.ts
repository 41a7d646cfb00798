import type { Engine } from './engine';

/** Sound of a line, straight from its device: nothing need be armed or patched for it. */
export interface LineSound {
  samples: Float32Array;
  sampleRate: number;
}

/**
 * Records a line of a device for so many seconds; `onShare` is told how much of it is there, 0 to 1. Throws when the
 * device is off, and the signal's reason when it is given up.
 */
export async function recordLine(
  engine: Pick<Engine, 'sound'>,
  { device, channel, seconds }: { device: string; channel: number; seconds: number },
  onShare: (share: number) => void,
  signal: AbortSignal,
): Promise<LineSound> {
  const player = await engine.sound();
  const { sampleRate } = player.context;
  const samples = new Float32Array(Math.round(seconds * sampleRate));
  let at = 0;
  await new Promise<void>((resolve, reject) => {
    const end = player.listen(device, (channels) => {
      const given = channels[channel];
      if (!given) return;
      const n = Math.min(given.length, samples.length - at);
      samples.set(given.subarray(0, n), at);
      at += n;
      onShare(at / samples.length);
      if (at < samples.length) return;
      end();
      resolve();
    });
    signal.addEventListener('abort', () => {
      end();
      reject(signal.reason as Error);
    });
  });
  return { samples, sampleRate };
}

/** Sounds samples once, in the middle; returns what ends it. */
export async function hearSamples(
  engine: Pick<Engine, 'sound'>,
  channels: readonly Float32Array[],
): Promise<() => void> {
  const player = await engine.sound();
  const n = channels[0]?.length ?? 0;
  const mono = new Float32Array(n);
  for (const c of channels) for (let i = 0; i < n; i++) mono[i] = mono[i]! + c[i]! / channels.length;
  return player.soundOnce(mono);
}
