import { describe, expect, it } from 'vitest';
import { newKernels, noise, put } from '../../../tests/support/kernels';
import { newStage } from '@/core/session';
import { chainDelay, Redo } from '.';

const k = newKernels();
const RATE = 48000;
const limiter = (id: string) => newStage(id, 'limiter', true);
const lowCut = (id: string) => newStage(id, 'lowCut', true);

async function redo(
  channels: Float32Array[],
  chains: Parameters<typeof chainDelay>[0][],
  block: number,
): Promise<Float32Array[]> {
  const out = channels.map(() => [] as number[]);
  const r = new Redo(k, RATE, chains, async (set, from, n) => {
    out.forEach((o, c) => o.push(...set.view(c).subarray(from, from + n)));
  });
  for (let at = 0; at < channels[0]!.length; at += block) {
    const set = put(
      k,
      channels.map((c) => c.subarray(at, at + block)),
    );
    await r.run(set.table, Math.min(block, channels[0]!.length - at));
    set.free();
  }
  await r.finish();
  return out.map((o) => Float32Array.from(o));
}

describe('a chain redone on a dry copy', () => {
  it('is as long, and stands at the same samples although the chain delays', async () => {
    const x = noise(20_000, 0.01);
    expect(chainDelay([limiter('l')], RATE)).toBeGreaterThan(0);
    // So quiet that the limiter does nothing: what is left of it is its delay.
    const [y] = await redo([x], [[limiter('l')]], 4096);
    expect(y).toEqual(x);
  });
  it('brings channels of different delay level with each other', async () => {
    const x = noise(9000, 0.01);
    const [a, b] = await redo([x, x], [[limiter('l')], []], 1000);
    expect(a).toEqual(x);
    expect(b).toEqual(x);
  });
  it('does not depend on the blocks it is fed with', async () => {
    const x = noise(15_000, 0.5);
    const chain = [lowCut('c'), newStage('k', 'compressor', true), limiter('l')];
    expect(await redo([x], [chain], 15_000)).toEqual(await redo([x], [chain], 777));
  });
});
