import { defaultsOf, stageKind, type Key, type StageRunner, type StageValues } from '@/core/stages';
import type { Kernels } from '@/core/kernels';
import { inBlocks, put } from './kernels';

export interface StageRun {
  rate?: number;
  block?: number;
  on?: boolean;
  /** Key channels, as long as the sound. */
  key?: Float32Array[];
  /** Called before each block with its first sample. */
  before?: (runner: StageRunner, at: number, values: StageValues) => void;
}

/** Runs `channels` through a stage; returns new arrays and the deepest reduction. */
export function runStage(
  k: Kernels,
  type: string,
  values: StageValues,
  channels: readonly Float32Array[],
  { rate = 48000, block = 512, on = true, key, before }: StageRun = {},
) {
  const kind = stageKind(type);
  const runner = kind.create(k, rate, channels.length);
  const all = { ...defaultsOf(kind), ...values };
  runner.set(all, on);
  const out = channels.map((c) => c.slice());
  inBlocks(channels[0]!.length, block, (at, n) => {
    before?.(runner, at, all);
    const part = (from: readonly Float32Array[]) => from.map((c) => c.subarray(at, at + n));
    const set = put(k, part(out));
    const ears = key ? put(k, part(key)) : null;
    const given: Key | null = ears ? { table: ears.table, channels: key!.length } : null;
    runner.run(set.table, n, given);
    out.forEach((c, i) => c.set(set.view(i, n), at));
    set.free();
    ears?.free();
  });
  const reduction = runner.reduction();
  runner.free();
  return { out, reduction };
}

export const rms = (x: Float32Array): number => Math.sqrt(x.reduce((s, v) => s + v * v, 0) / x.length);
export const dB = (x: number): number => 20 * Math.log10(Math.abs(x));
export const gainOf = (db: number): number => Math.pow(10, db / 20);
export const peak = (x: Float32Array): number => x.reduce((m, v) => Math.max(m, Math.abs(v)), 0);
/** First sample at which two signals differ, or -1: says more than two long arrays printed beside each other. */
export function firstDifference(a: Float32Array, b: Float32Array): number {
  if (a.length !== b.length) return Math.min(a.length, b.length);
  return a.findIndex((v, i) => v !== b[i]);
}
