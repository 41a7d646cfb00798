// What Next does not build: the kernels, the audio worklets, the server's threads and the commands.
import { execFile } from 'node:child_process';
import { createHash } from 'node:crypto';
import { copyFileSync, existsSync, mkdirSync, readFileSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { promisify } from 'node:util';
import { build, type BuildOptions } from 'esbuild';
import { writeKernelFace } from './kernelFace';

const root = path.resolve(import.meta.dirname, '..');
const at = (...parts: string[]) => path.join(root, ...parts);
const hashOf = (file: string) => createHash('sha256').update(readFileSync(file)).digest('hex').slice(0, 10);

/** Compiles the kernels and writes their typed face. Throws with the compiler's words where they do not compile. */
export async function buildKernels(): Promise<void> {
  mkdirSync(at('build'), { recursive: true });
  await promisify(execFile)(
    process.execPath,
    [at('node_modules/assemblyscript/bin/asc.js'), 'src/kernels/index.ts', '--target', 'release', '--bindings', 'raw'],
    { cwd: root },
  ).catch((error: Error & { stderr?: string }) => {
    throw new Error(error.stderr ?? error.message);
  });
  await writeKernelFace(at('build/kernels.d.ts'), at('build/kernels.wasm'), at('src/core/kernels/exports.ts'));
}

const WORKLETS = [
  ['engine', 'src/audio/worklets/engine.worklet.ts'],
  ['standin', 'src/standins/standin.worklet.ts'],
  ['console', 'src/standins/console.worklet.ts'],
  ['room', 'src/standins/room.worklet.ts'],
] as const;

const COMMON = {
  bundle: true,
  format: 'esm',
  alias: { '@': at('src') },
  logLevel: 'warning',
} satisfies BuildOptions;

/** Bundles the worklets and gives them and the kernels names by what they hold; pages read those from assets.ts. */
export async function buildWorklets(): Promise<void> {
  for (const [name, entry] of WORKLETS)
    await build({
      ...COMMON,
      entryPoints: [at(entry)],
      outfile: at('build', `${name}.js`),
      // A worklet has no decorators' metadata to keep: the engine reads the session as plain data.
      target: 'es2022',
      minify: true,
      platform: 'neutral',
      mainFields: ['module', 'main'],
    });
  const files = [
    ['kernels', at('build/kernels.wasm'), 'wasm'],
    ...WORKLETS.map(([n]) => [n, at('build', `${n}.js`), 'js']),
  ];
  const assets = Object.fromEntries(
    files.map(([name, file, ext]) => [name!, { file: file!, url: `worklets/${name}.${hashOf(file!)}.${ext}` }]),
  );
  const urls = JSON.stringify(
    Object.fromEntries(Object.entries(assets).map(([name, { url }]) => [name, `/${url}`])),
    null,
    2,
  );
  const text = `// Written by scripts/parts.ts.
export const ASSETS = ${urls} as const;

// In development a page whose engine was built again loads itself anew: what runs of it cannot be exchanged.
// (A worker has no document; that it has no window is not known where it is bundled.)
const page = globalThis as { builtOf?: string; document?: Document };
if (process.env.NODE_ENV === 'development' && page.document) {
  const now = Object.values(ASSETS).join();
  if (page.builtOf && page.builtOf !== now) location.reload();
  page.builtOf = now;
}
`;
  const target = at('src/audio/generated/assets.ts');
  const all = Object.values(assets);
  // Written only when they differ: whoever watches would build once more.
  if (
    existsSync(target) &&
    readFileSync(target, 'utf8') === text &&
    all.every(({ url }) => existsSync(at('public', url)))
  )
    return;
  rmSync(at('public/worklets'), { recursive: true, force: true });
  mkdirSync(at('public/worklets'), { recursive: true });
  for (const { file, url } of all) copyFileSync(file, at('public', url));
  mkdirSync(path.dirname(target), { recursive: true });
  writeFileSync(target, text);
}

const NODE = {
  ...COMMON,
  outExtension: { '.js': '.mjs' },
  target: 'node20',
  platform: 'node',
  packages: 'external',
} as const;

/** Bundles the server's threads, the commands, and what starts the server. */
export async function buildWorkers(): Promise<void> {
  await Promise.all([
    build({
      ...NODE,
      entryPoints: {
        print: at('src/server/prints/printWorker.ts'),
        part: at('src/server/prints/partWorker.ts'),
        proof: at('src/server/prints/proofWorker.ts'),
        media: at('src/server/media/mediaWorker.ts'),
        copy: at('src/server/database/copyWorker.ts'),
        cli: at('scripts/cli.ts'),
      },
      outdir: at('dist/workers'),
    }),
    // What only a first start needs is not loaded by the others.
    build({
      ...NODE,
      entryPoints: [at('scripts/demo.ts'), at('scripts/serve.ts')],
      outdir: at('dist/demo'),
      splitting: true,
    }),
  ]);
  mkdirSync(at('public/standins'), { recursive: true });
  for (const file of readdirSync(at('demo/lines')).filter((f) => f.endsWith('.flac')))
    copyFileSync(at('demo/lines', file), at('public/standins', file));
}
