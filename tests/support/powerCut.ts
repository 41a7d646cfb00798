import { spawn } from 'node:child_process';
import {
  closeSync,
  cpSync,
  existsSync,
  fstatSync,
  ftruncateSync,
  openSync,
  readdirSync,
  readSync,
  rmSync,
  writeSync,
} from 'node:fs';
import path from 'node:path';

const PAGE = 4096;
const ROOT = path.resolve(import.meta.dirname, '../..');

export interface Cut {
  /** The last edit that was acknowledged. */
  acknowledged: number;
  /** How long each took, ms. */
  took: number[];
}

/** Makes edits in a data folder until `enough` of this run are acknowledged, then pulls the plug. */
export function editUntilCut(live: string, durable: string, enough: number): Promise<Cut> {
  const child = spawn(
    process.execPath,
    [
      '--import',
      path.join(import.meta.dirname, 'lossyDisk.mjs'),
      '--import',
      'tsx',
      path.join(import.meta.dirname, 'editForever.ts'),
    ],
    {
      cwd: ROOT,
      env: {
        ...process.env,
        WIDE_ROOM_DATA: live,
        WIDE_ROOM_APP: ROOT,
        WIDE_ROOM_LOG: 'silent',
        LOSSY_LIVE: live,
        LOSSY_DURABLE: durable,
      },
      stdio: ['ignore', 'pipe', 'pipe'],
    },
  );
  return new Promise((resolve, reject) => {
    let text = '';
    let errors = '';
    child.stderr.on('data', (piece: Buffer) => (errors += piece.toString()));
    child.stdout.on('data', (piece: Buffer) => {
      text += piece.toString();
      if ([...text.matchAll(/^edit /gm)].length >= enough) child.kill('SIGKILL');
    });
    child.once('close', () => {
      // A line that was cut off was not heard: it is not acknowledged.
      const said = [...text.matchAll(/^edit (\d+) ([\d.]+)\n/gm)];
      if (said.length === 0) reject(new Error(`no edit was made: ${text} ${errors}`));
      else resolve({ acknowledged: Number(said.at(-1)![1]), took: said.map((s) => Number(s[2])) });
    });
  });
}

/**
 * What the power cut leaves: the synced state, and of each page that was written and not synced, at random, the new or
 * the old content. Both folders are that afterwards.
 */
export function losePages(live: string, durable: string, random: () => number): { pages: number; lost: number } {
  const told = { pages: 0, lost: 0 };
  const walk = (dir: string): void => {
    for (const entry of readdirSync(path.join(live, dir), { withFileTypes: true })) {
      const at = path.join(dir, entry.name);
      if (entry.isDirectory()) walk(at);
      else if (entry.isFile()) loseIn(path.join(live, at), path.join(durable, at), random, told);
    }
  };
  walk('database');
  rmSync(path.join(durable, 'database'), { recursive: true, force: true });
  cpSync(path.join(live, 'database'), path.join(durable, 'database'), { recursive: true });
  return told;
}

function loseIn(live: string, durable: string, random: () => number, told: { pages: number; lost: number }): void {
  const a = openSync(live, 'r+');
  const b = existsSync(durable) ? openSync(durable, 'r') : null;
  const [fresh, old] = [Buffer.alloc(PAGE), Buffer.alloc(PAGE)];
  const sizes = [fstatSync(a).size, b === null ? 0 : fstatSync(b).size] as const;
  let end: number = sizes[1];
  for (let at = 0; at < Math.max(...sizes); at += PAGE) {
    fresh.fill(0);
    old.fill(0);
    const n = readSync(a, fresh, 0, PAGE, at);
    const was = b === null ? 0 : readSync(b, old, 0, PAGE, at);
    if (n === was && fresh.equals(old)) continue;
    told.pages++;
    if (random() < 0.5) {
      told.lost++;
      if (was > 0 || at < sizes[1]) writeSync(a, old, 0, Math.max(was, 0), at);
      else if (n > 0) writeSync(a, old, 0, n, at);
    } else end = Math.max(end, at + n);
  }
  ftruncateSync(a, end);
  closeSync(a);
  if (b !== null) closeSync(b);
}
