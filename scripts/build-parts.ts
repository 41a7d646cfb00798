// Builds what Next does not. The kernels only where their sources changed, since that takes longest.
import { createHash } from 'node:crypto';
import { existsSync, readFileSync, readdirSync, mkdirSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { buildKernels, buildWorkers, buildWorklets } from './parts';

const root = path.resolve(import.meta.dirname, '..');
const sources = createHash('sha256');
for (const file of [
  ...readdirSync(path.join(root, 'src/kernels'))
    .filter((f) => f.endsWith('.ts'))
    .sort()
    .map((f) => `src/kernels/${f}`),
  ...['asconfig.json', 'package-lock.json', 'scripts/kernelFace.ts', 'scripts/parts.ts'],
])
  sources.update(file).update(readFileSync(path.join(root, file)));
const stamp = path.join(root, '.setup/kernels');
const now = sources.digest('hex');
const there =
  existsSync(path.join(root, 'build/kernels.wasm')) && existsSync(path.join(root, 'src/core/kernels/exports.ts'));
if (!there || !existsSync(stamp) || readFileSync(stamp, 'utf8') !== now) {
  await buildKernels();
  mkdirSync(path.dirname(stamp), { recursive: true });
  writeFileSync(stamp, now);
}
await buildWorklets();
await buildWorkers();
