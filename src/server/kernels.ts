import { readFileSync } from 'node:fs';
import path from 'node:path';
import { Kernels } from '@/core/kernels';
import { appDir } from './config';
import { shared } from './shared';

const compiled = () =>
  shared('kernels-module', () => new WebAssembly.Module(readFileSync(path.join(appDir(), 'build', 'kernels.wasm'))));

/** Kernels with a memory of their own. */
export const newKernels = (): Kernels => new Kernels(compiled());
