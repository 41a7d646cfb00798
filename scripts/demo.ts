// Starts the production build with the demo session. `npm run demo` sets everything up before.
import { spawn, type ChildProcess } from 'node:child_process';
import { createWriteStream, existsSync, rmSync, writeFileSync } from 'node:fs';
import { createServer } from 'node:net';
import path from 'node:path';
import { Command } from 'commander';
import { dataDir } from '../src/server/config';
import { lockFolder } from '../src/server/database/lock';

const root = path.resolve(process.env.WIDE_ROOM_APP ?? path.join(import.meta.dirname, '..'));

function portFree(port: number): Promise<boolean> {
  return new Promise((resolve) => {
    const probe = createServer();
    probe.once('error', () => resolve(false));
    probe.listen(port, '127.0.0.1', () => probe.close(() => resolve(true)));
  });
}

/** Says that the demo was laid out here once: a start need not look, and whoever removes the session is rid of it. */
const demoMark = (): string => path.join(dataDir(), 'demo-installed');

// Loaded only where it is needed: the database and the sounds take longer to load than everything else.
async function layOutDemo(plain: boolean): Promise<void> {
  const { closeDatabase, openDatabase } = await import('../src/server/database');
  const { installDemo } = await import('../demo/install');
  await openDatabase();
  await installDemo((file) => console.log(file), plain);
  await closeDatabase();
  writeFileSync(demoMark(), new Date().toISOString());
}

async function main(options: { port: string; fresh?: boolean; plain?: boolean; data?: string }): Promise<void> {
  const port = Number(options.port);
  if (!Number.isInteger(port) || port < 1 || port > 65535)
    throw new Error(`"${options.port}" is no port; choose a number from 1 to 65535.`);
  if (!(await portFree(port)))
    throw new Error(`Port ${port} is taken. Stop what uses it, or choose another: npm run demo -- --port ${port + 1}`);
  process.env.WIDE_ROOM_DATA = path.resolve(options.data ?? process.env.WIDE_ROOM_DATA ?? path.join(root, 'data'));
  process.env.WIDE_ROOM_APP = root;
  if (options.fresh && existsSync(dataDir())) {
    // Only a folder that is ours, and that nobody works on, is removed.
    if (!existsSync(path.join(dataDir(), 'database')))
      throw new Error(`${dataDir()} is no data folder of Wide Room; it was left as it is.`);
    await (
      await lockFolder()
    )();
    rmSync(dataDir(), { recursive: true });
  }
  console.log(`Data folder: ${dataDir()}`);
  await (
    await lockFolder()
  )();
  if (!existsSync(demoMark())) await layOutDemo(options.plain === true);

  const server: ChildProcess = spawn(
    process.execPath,
    [
      path.join(root, 'node_modules/next/dist/bin/next'),
      'start',
      '-H',
      '127.0.0.1',
      '-p',
      String(port),
      '--keepAliveTimeout',
      '75000',
    ],
    {
      cwd: root,
      stdio: ['ignore', 'pipe', 'inherit'],
      env: { ...process.env, NEXT_TELEMETRY_DISABLED: '1' },
    },
  );
  const logFile = path.join(dataDir(), 'server.log');
  server.stdout!.pipe(createWriteStream(logFile));
  console.log(`Server log:  ${logFile}`);
  let told = false;
  server.stdout!.on('data', (text: Buffer) => {
    if (told || !text.toString().includes('Ready')) return;
    told = true;
    // Asked once before it is told: then the database is open, and the first page comes at once.
    const url = `http://127.0.0.1:${port}`;
    fetch(`${url}/api/sessions`).then(
      () => console.log(`\nWide Room is at ${url}  (Ctrl+C stops it)\n`),
      // It did not start: it says why itself, and its end ends this.
      () => {},
    );
  });
  let stopping = false;
  for (const signal of ['SIGINT', 'SIGTERM'] as const) {
    process.on(signal, () => {
      stopping = true;
      server.kill('SIGTERM');
    });
  }
  server.on('exit', (code) => {
    if (stopping) console.log('Stopped; everything is kept.');
    process.exit(stopping ? 0 : (code ?? 1));
  });
}

new Command('demo')
  .option('--port <port>', 'port to listen on', '4610')
  .option('--fresh', 'start over: removes the data folder')
  .option('--plain', 'lays the demo out without groups, returns, lanes and a second reference')
  .option('--data <folder>', 'where sessions and media are kept')
  .action(main)
  .parseAsync(process.argv[2] === '--' ? [...process.argv.slice(0, 2), ...process.argv.slice(3)] : process.argv)
  .catch((error: Error) => {
    console.error(error.message);
    process.exit(1);
  });
