// npm run dev [-- --port N]: the demo's data, the pages as Next rebuilds them, and beside it whatever Next does not build
// (kernels, worklets, the server's threads), built again as its sources change. Open pages load themselves anew.
import { spawn } from 'node:child_process';
import { existsSync, watch } from 'node:fs';
import path from 'node:path';
import { Command } from 'commander';
import { buildKernels, buildWorkers, buildWorklets } from './parts';

const root = path.resolve(import.meta.dirname, '..');
const at = (...parts: string[]) => path.join(root, ...parts);

/** What is built from a source, by the beginning of its path. */
const MADE_FROM: readonly [source: RegExp, make: (() => Promise<void>)[]][] = [
  // Their typed face is a source of all that follows.
  [/^src\/kernels\//, [buildKernels, buildWorklets, buildWorkers]],
  [/^src\/core\//, [buildWorklets, buildWorkers]],
  [/^src\/(audio\/worklets|standins)\//, [buildWorklets]],
  [/^(src\/server|scripts|demo)\//, [buildWorkers]],
];
const WRITTEN = /^src\/(core\/kernels\/exports|audio\/generated\/)|\.test\.tsx?$/;

const ended = (args: string[]): Promise<void> =>
  new Promise((resolve, reject) =>
    spawn(process.execPath, args, { cwd: root, stdio: 'inherit', env: { ...process.env, WIDE_ROOM_APP: root } }).once(
      'exit',
      (code) => (code === 0 ? resolve() : reject(new Error(`${args[0]} ended with ${code}.`))),
    ),
  );

/** Builds what is waiting, in the order of MADE_FROM; what comes meanwhile is built after it. */
const waiting = new Set<() => Promise<void>>();
let turn: Promise<void> = Promise.resolve();
async function buildWaiting(): Promise<void> {
  if (waiting.size === 0) return;
  const began = performance.now();
  const steps = [buildKernels, buildWorklets, buildWorkers].filter((step) => waiting.delete(step));
  try {
    for (const step of steps) await step();
    console.log(
      `Built again in ${((performance.now() - began) / 1000).toFixed(1)} s: ${steps.map((s) => s.name).join(', ')}`,
    );
  } catch (error) {
    // What was built before stays in use until it is mended.
    console.error((error as Error).message);
  }
}

async function main({ port, data }: { port: string; data: string }): Promise<void> {
  await import('./build-parts');
  await ended(['dist/demo/demo.mjs', '--lay-out', '--data', data]);
  for (const dir of ['src', 'scripts', 'demo'])
    watch(at(dir), { recursive: true }, (_, file) => {
      const name = `${dir}/${file ?? ''}`;
      if (WRITTEN.test(name) || !existsSync(at(name))) return;
      for (const [source, make] of MADE_FROM) if (source.test(name)) make.forEach((step) => waiting.add(step));
      // An editor writes a file in several steps.
      setTimeout(() => {
        turn = turn.then(buildWaiting);
      }, 100);
    });
  const next = spawn(process.execPath, [at('node_modules/next/dist/bin/next'), 'dev', '-H', '127.0.0.1', '-p', port], {
    cwd: root,
    stdio: 'inherit',
    env: { ...process.env, WIDE_ROOM_DATA: path.resolve(data), WIDE_ROOM_APP: root, NEXT_TELEMETRY_DISABLED: '1' },
  });
  for (const signal of ['SIGINT', 'SIGTERM'] as const) process.on(signal, () => next.kill(signal));
  next.on('exit', (code) => process.exit(code ?? 0));
}

new Command('dev')
  .option('--port <port>', 'port to listen on', '4610')
  .option('--data <folder>', 'where sessions and media are kept', at('data'))
  .action(main)
  .parseAsync(process.argv[2] === '--' ? [...process.argv.slice(0, 2), ...process.argv.slice(3)] : process.argv)
  .catch((error: Error) => {
    console.error(error.message);
    process.exit(1);
  });
