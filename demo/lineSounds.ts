import { readFileSync } from 'node:fs';
import path from 'node:path';
import { FLACDecoder } from '@wasm-audio-decoders/flac';
import { resample } from '../src/core/files';
import type { Kernels } from '../src/core/kernels';
import { appDir } from '../src/server/config';
import index from './lines/index.json';
import { CHARACTERS } from './script';
import { RATE } from './sounds/random';

/** The spoken lines by their number in the script, mono at 48 kHz. */
export async function lineSounds(k: Kernels): Promise<Map<number, Float32Array>> {
  const found = new Map<number, Float32Array>();
  for (const character of CHARACTERS) {
    const decoder = new FLACDecoder();
    await decoder.ready;
    const bytes = readFileSync(path.join(appDir(), 'demo/lines', `${character.toLowerCase()}.flac`));
    const { channelData, sampleRate } = await decoder.decodeFile(new Uint8Array(bytes));
    decoder.free();
    for (const { line, from, frames } of index[character]) {
      found.set(line, resample(k, channelData[0]!.subarray(from, from + frames), sampleRate, RATE));
    }
  }
  return found;
}
