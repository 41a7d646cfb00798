import { execFileSync, spawnSync } from 'node:child_process';
import { cpSync, readdirSync, rmSync, statSync } from 'node:fs';
import path from 'node:path';

export interface SmallDisk {
  /** Room for so many bytes beside what lies there already. */
  resize(spare: number): void;
  end(): void;
}

// Whoever may not mount asks for it, as when packages are installed.
const asRoot = (command: string, ...args: string[]) =>
  process.getuid?.() === 0
    ? execFileSync(command, args, { stdio: 'pipe' })
    : execFileSync('sudo', ['-n', command, ...args], { stdio: 'pipe' });

/** Whether a file system of its own can be had on this machine. */
export const canMount = (): boolean =>
  process.getuid?.() === 0 || spawnSync('sudo', ['-n', 'true'], { stdio: 'ignore' }).status === 0;

/** Puts a folder on a disk of its own (in memory) that has `spare` bytes left. */
export function smallDisk(folder: string, spare: number): SmallDisk {
  const kept = `${folder}-before`;
  cpSync(folder, kept, { recursive: true });
  const used = readdirSync(kept).reduce((n, f) => n + Math.ceil(statSync(path.join(kept, f)).size / 4096) * 4096, 0);
  const size = (more: number) => `size=${used + more}`;
  asRoot('mount', '-t', 'tmpfs', '-o', `${size(spare)},mode=777`, 'tmpfs', folder);
  cpSync(kept, folder, { recursive: true });
  rmSync(kept, { recursive: true });
  return {
    resize: (more) => void asRoot('mount', '-o', `remount,${size(more)}`, folder),
    end: () => void asRoot('umount', '-l', folder),
  };
}
