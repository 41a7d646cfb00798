import { expect, it } from 'vitest';
import { newKernels, noise, put } from '../../../tests/support/kernels';
import { AudioWriter, DATA_OFFSET, SampleFormat } from '.';

it('what is written is what was given, though the kernels\u2019 memory moves while the disk is slow', async () => {
  const k = newKernels();
  const n = 4096;
  const blocks = [1, 2, 3].map((seed) => noise(n, 0.5, seed));
  const file = new Uint8Array(DATA_OFFSET + 4 * 3 * n + 4096);
  const sink = {
    // Somebody else needs more memory meanwhile: all views of it are void afterwards.
    put: async (at: number, bytes: Uint8Array) => {
      await new Promise((resolve) => setTimeout(resolve, 1));
      k.x.alloc(4 << 20);
      file.set(bytes, at);
    },
  };
  const spec = { kind: 'wav' as const, format: SampleFormat.float32, channels: 1, sampleRate: 48_000 };
  const writer = new AudioWriter(k, sink, spec as never, n);
  for (const block of blocks) await writer.write(put(k, [block]).table, n);
  await writer.finish();
  const samples = new Float32Array(file.buffer, DATA_OFFSET, 3 * n);
  blocks.forEach((block, b) => expect(samples.subarray(b * n, (b + 1) * n)).toEqual(block));
});
