// Builds what Next does not: the kernels, the audio worklets and the server's worker threads.
import { execFileSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { copyFileSync, mkdirSync, readFileSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { build } from 'esbuild';
import { writeKernelFace } from './kernelFace';

const root = path.resolve(import.meta.dirname, '..');
const at = (...parts: string[]) => path.join(root, ...parts);
const hashOf = (file: string) => createHash('sha256').update(readFileSync(file)).digest('hex').slice(0, 10);

mkdirSync(at('build'), { recursive: true });
execFileSync(
  process.execPath,
  [at('node_modules/assemblyscript/bin/asc.js'), 'src/kernels/index.ts', '--target', 'release', '--bindings', 'raw'],
  { cwd: root, stdio: 'inherit' },
);
await writeKernelFace(at('build/kernels.d.ts'), at('build/kernels.wasm'), at('src/core/kernels/exports.ts'));

rmSync(at('public/worklets'), { recursive: true, force: true });
mkdirSync(at('public/worklets'), { recursive: true });
const assets: Record<string, string> = {};
const publish = (name: string, file: string, ext: string) => {
  const target = `worklets/${name}.${hashOf(file)}.${ext}`;
  copyFileSync(file, at('public', target));
  assets[name] = `/${target}`;
};
publish('kernels', at('build/kernels.wasm'), 'wasm');
for (const [name, entry] of [
  ['engine', 'src/audio/worklets/engine.worklet.ts'],
  ['standin', 'src/standins/standin.worklet.ts'],
  ['console', 'src/standins/console.worklet.ts'],
  ['room', 'src/standins/room.worklet.ts'],
] as const) {
  const outfile = at('build', `${name}.js`);
  // A worklet has no decorators' metadata to keep: the engine reads the session as plain data.
  await build({
    entryPoints: [at(entry)],
    outfile,
    bundle: true,
    format: 'esm',
    target: 'es2022',
    minify: true,
    platform: 'neutral',
    mainFields: ['module', 'main'],
    alias: { '@': at('src') },
    logLevel: 'warning',
  });
  publish(name, outfile, 'js');
}
mkdirSync(at('src/audio/generated'), { recursive: true });
writeFileSync(
  at('src/audio/generated/assets.ts'),
  `// Written by scripts/build-parts.ts.\nexport const ASSETS = ${JSON.stringify(assets, null, 2)} as const;\n`,
);

await build({
  entryPoints: {
    print: at('src/server/prints/printWorker.ts'),
    part: at('src/server/prints/partWorker.ts'),
    proof: at('src/server/prints/proofWorker.ts'),
    media: at('src/server/media/mediaWorker.ts'),
    copy: at('src/server/database/copyWorker.ts'),
    cli: at('scripts/cli.ts'),
  },
  outdir: at('dist/workers'),
  outExtension: { '.js': '.mjs' },
  bundle: true,
  format: 'esm',
  target: 'node20',
  platform: 'node',
  packages: 'external',
  alias: { '@': at('src') },
  logLevel: 'warning',
});

await build({
  entryPoints: [at('scripts/demo.ts'), at('scripts/serve.ts')],
  outdir: at('dist/demo'),
  outExtension: { '.js': '.mjs' },
  bundle: true,
  // What only a first start needs is not loaded by the others.
  splitting: true,
  format: 'esm',
  target: 'node20',
  platform: 'node',
  packages: 'external',
  alias: { '@': at('src') },
  logLevel: 'warning',
});

mkdirSync(at('public/standins'), { recursive: true });
for (const file of readdirSync(at('demo/lines')).filter((f) => f.endsWith('.flac')))
  copyFileSync(at('demo/lines', file), at('public/standins', file));
