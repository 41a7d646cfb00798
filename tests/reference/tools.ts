import { execFileSync, spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { DATA_OFFSET, FrameCodec, parseWav, wavHeader, type WavSpec } from '@/core/files';
import type { Kernels } from '@/core/kernels';
import { put } from '../support/kernels';
import { MemorySource } from '../support/memorySource';

export const folder = (): string => mkdtempSync(path.join(tmpdir(), 'wide-room-'));
export const run = (command: string, ...args: string[]): string =>
  execFileSync(command, args, { encoding: 'utf8', stdio: ['ignore', 'pipe', 'pipe'], maxBuffer: 1 << 28 });
export const both = (command: string, ...args: string[]): string => {
  const r = spawnSync(command, args, { encoding: 'utf8', maxBuffer: 1 << 28 });
  return r.stdout + r.stderr;
};

/** Writes planar samples as one of our files. */
export function writeWav(k: Kernels, file: string, channels: Float32Array[], spec: Partial<WavSpec> = {}): void {
  const frames = channels[0]!.length;
  const full: WavSpec = { format: 24, channels: channels.length, sampleRate: 48000, frames, mask: 0, ...spec };
  const set = put(k, channels);
  const codec = new FrameCodec(k, full.format, channels.length, frames);
  const { bytes } = codec.encode(set.table, frames);
  const out = new Uint8Array(DATA_OFFSET + bytes.length + (bytes.length & 1));
  out.set(wavHeader(full));
  out.set(bytes, DATA_OFFSET);
  writeFileSync(file, out);
  codec.free();
  set.free();
}

/** Reads a WAV of any tool as planar samples. */
export async function readWav(k: Kernels, file: string): Promise<Float32Array[]> {
  const source = new MemorySource(new Uint8Array(readFileSync(file)));
  const info = await parseWav(source);
  const codec = new FrameCodec(k, info.format, info.channels, info.frames);
  codec.decode(await source.read(info.dataOffset, source.size));
  const out = Array.from({ length: info.channels }, (_, c) => codec.planar.view(c, info.frames).slice());
  codec.free();
  return out;
}
