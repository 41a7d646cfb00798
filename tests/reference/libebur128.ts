// libebur128 through a few lines of C, compiled once.
import { existsSync, mkdirSync } from 'node:fs';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import { run } from './tools';

const source = fileURLToPath(new URL('./libebur128.c', import.meta.url));
const program = fileURLToPath(new URL('../../build/reference/libebur128', import.meta.url));

function build(): string {
  if (!existsSync(program)) {
    mkdirSync(path.dirname(program), { recursive: true });
    run('gcc', '-O2', '-o', program, source, '-lebur128');
  }
  return program;
}

export interface Ebur128 {
  integrated: number;
  range: number;
  momentary: number;
  /** Linear. */
  truePeak: number;
}

/** Measures interleaved f32 samples; five and six channels are taken as L R C (LFE) Ls Rs. */
export const libebur128 = (file: string, channels: number, rate: number): Ebur128 =>
  JSON.parse(run(build(), file, String(channels), String(rate))) as Ebur128;
