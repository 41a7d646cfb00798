// Starts the production build with the demo session. `npm run demo` sets everything up before.
import { spawn, type ChildProcess } from 'node:child_process';
import { existsSync, rmSync, writeFileSync } from 'node:fs';
import { get as getPlain } from 'node:http';
import { get as getTls } from 'node:https';
import { createServer } from 'node:net';
import { hostname } from 'node:os';
import path from 'node:path';
import { Command } from 'commander';
import { createStream } from 'rotating-file-stream';
import { dataDir } from '../src/server/config';
import { lockFolder } from '../src/server/database/lock';
import { addresses } from '../src/server/sharing/addresses';

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
  const { summed } = await import('../src/server/media');
  const { installDemo } = await import('../demo/install');
  await openDatabase();
  await installDemo((file) => console.log(file), plain);
  // Otherwise the first start would read all files once more, while the first page waits.
  await summed();
  await closeDatabase();
  writeFileSync(demoMark(), new Date().toISOString());
}

interface Options {
  port: string;
  fresh?: boolean;
  plain?: boolean;
  demo: boolean;
  layOut?: boolean;
  data?: string;
  lan?: boolean;
  name?: string[];
  cert?: string;
  key?: string;
}

/** What must be there before the page answers to other machines. */
async function mayOpen({ cert, key }: Options): Promise<void> {
  const { knownSeats } = await import('../src/server/gate');
  if (!cert !== !key) throw new Error('A certificate needs its key: --cert FILE --key FILE.');
  for (const file of [cert, key]) if (file && !existsSync(file)) throw new Error(`There is no file ${file}.`);
  if (knownSeats().length === 0)
    throw new Error(
      'Nobody could sign in: there is no seat yet. Make one first: npm run wide-room -- seat add NAME --role engineer',
    );
  if (!cert)
    console.log(
      'Without a certificate (--cert, --key) other machines see and edit, but their browsers give no microphone and no\nsound engine to a page that does not come by https. docs/operations.md tells how to put a proxy before it.',
    );
}

/** Resolves when the server answers; its own certificate may be one that nobody has signed. */
const answers = (scheme: string, port: number): Promise<void> =>
  new Promise((resolve, reject) => {
    const options = { host: '127.0.0.1', port, path: '/api/sessions', rejectUnauthorized: false };
    (scheme === 'https' ? getTls : getPlain)(options, (answer) => {
      answer.resume();
      resolve();
    }).on('error', reject);
  });

/** The folder that the options name, from now on that of this process and of all that it starts. */
function beIn(options: Options): void {
  process.env.WIDE_ROOM_DATA = path.resolve(options.data ?? process.env.WIDE_ROOM_DATA ?? path.join(root, 'data'));
  process.env.WIDE_ROOM_APP = root;
}

async function main(options: Options): Promise<void> {
  if (options.layOut) {
    beIn(options);
    if (!options.demo || options.fresh || existsSync(demoMark())) return;
    // Where somebody works on the folder, or it cannot be had, the start that follows says so.
    const free = await lockFolder().catch(() => null);
    await free?.();
    if (free) await layOutDemo(options.plain === true);
    return;
  }
  const port = Number(options.port);
  if (!Number.isInteger(port) || port < 1 || port > 65535)
    throw new Error(`"${options.port}" is no port; choose a number from 1 to 65535.`);
  if (!(await portFree(port)))
    throw new Error(`Port ${port} is taken. Stop what uses it, or choose another: npm run demo -- --port ${port + 1}`);
  beIn(options);
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
  if (options.demo && !existsSync(demoMark())) await layOutDemo(options.plain === true);

  const scheme = options.cert ? 'https' : 'http';
  const names = [...addresses(), hostname().toLowerCase(), ...(options.name ?? [])];
  if (options.lan) await mayOpen(options);
  const server: ChildProcess = spawn(process.execPath, [path.join(root, 'dist/demo/serve.mjs')], {
    cwd: root,
    stdio: ['ignore', 'pipe', 'inherit'],
    env: {
      ...process.env,
      NEXT_TELEMETRY_DISABLED: '1',
      NODE_ENV: 'production',
      WIDE_ROOM_PORT: String(port),
      ...(options.lan ? { WIDE_ROOM_LAN: '1', WIDE_ROOM_HOSTS: names.join(',') } : {}),
      ...(options.cert && options.key
        ? { WIDE_ROOM_CERT: path.resolve(options.cert), WIDE_ROOM_KEY: path.resolve(options.key) }
        : {}),
    },
  });
  const logFile = path.join(dataDir(), 'server.log');
  // Five files of five megabytes; what was written before a start stays.
  server.stdout!.pipe(createStream('server.log', { path: dataDir(), size: '5M', maxFiles: 5 }));
  console.log(`Server log:  ${logFile}`);
  let told = false;
  server.stdout!.on('data', (text: Buffer) => {
    if (told || !text.toString().includes('Ready at')) return;
    told = true;
    // Asked once before it is told: then the database is open, and the first page comes at once.
    const url = `${scheme}://127.0.0.1:${port}`;
    answers(scheme, port).then(
      () => {
        console.log(`\nWide Room is at ${url}  (Ctrl+C stops it)\n`);
        if (options.lan) console.log(`For others: ${names.map((n) => `${scheme}://${n}:${port}`).join('  ')}\n`);
      },
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
  .option('--no-demo', 'starts without the demo sessions')
  .option('--lay-out', 'lays the demo out where it is not yet, and starts nothing')
  .option('--data <folder>', 'where sessions and media are kept')
  .option('--lan', 'answer to other machines too, to those who sign in')
  .option('--name <host...>', 'further names that this machine is known by, as a proxy passes them')
  .option('--cert <file>', 'certificate for https')
  .option('--key <file>', 'its key')
  .action(main)
  .parseAsync(process.argv[2] === '--' ? [...process.argv.slice(0, 2), ...process.argv.slice(3)] : process.argv)
  .catch((error: Error) => {
    console.error(error.message);
    process.exit(1);
  });
