import { spawn } from 'node:child_process';
import { cpSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { freePort } from '../../support/server';

const ROOT = path.resolve(import.meta.dirname, '../../..');
/** Scratch folders: in memory where the script that runs the tests finds room for them. */
const SCRATCH = path.join(tmpdir(), 'wide-room-e2e');
export const TEMPLATE = path.join(SCRATCH, 'template');

export interface TestServer {
  url: string;
  data: string;
  /** Ends it as Ctrl+C does. */
  stop(): Promise<void>;
  /** Ends it at once, as a power cut does. */
  kill(): Promise<void>;
}

/** Starts the production build on a folder; resolves when it answers. */
export async function startServer({
  data,
  port,
  plain = true,
  args = [],
}: {
  data: string;
  port?: number;
  /** Whether a demo that is not there yet is laid out without groups, returns and lanes. */
  plain?: boolean;
  /** What else the start is told. */
  args?: readonly string[];
}): Promise<TestServer> {
  const at = port ?? (await freePort());
  // A group of its own, so that a kill takes the server that the script started as well.
  const child = spawn(
    process.execPath,
    ['dist/demo/demo.mjs', '--port', String(at), '--data', data, ...(plain ? ['--plain'] : []), ...args],
    {
      cwd: ROOT,
      env: { ...process.env, WIDE_ROOM_APP: ROOT },
      detached: true,
      stdio: ['ignore', 'pipe', 'pipe'],
    },
  );
  let text = '';
  const ended = new Promise<void>((resolve) => child.once('exit', () => resolve()));
  await new Promise<void>((resolve, reject) => {
    const take = (piece: Buffer) => {
      text += piece.toString();
      if (text.includes('Wide Room is at')) resolve();
    };
    child.stdout.on('data', take);
    child.stderr.on('data', take);
    child.once('exit', () => reject(new Error(`the server did not start:\n${text}`)));
  });
  const end = async (signal: NodeJS.Signals) => {
    if (child.exitCode === null && child.signalCode === null) process.kill(-child.pid!, signal);
    await ended;
  };
  return { url: `http://127.0.0.1:${at}`, data, stop: () => end('SIGTERM'), kill: () => end('SIGKILL') };
}

/** A fresh copy of the demo's data for one test file. */
export function freshData(name: string): string {
  const data = path.join(SCRATCH, name);
  rmSync(data, { recursive: true, force: true });
  cpSync(TEMPLATE, data, { recursive: true });
  return data;
}
