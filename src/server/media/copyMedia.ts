import { copyFileSync } from 'node:fs';
import { diskPaths } from './fileSource';

/** Copies the file or files that a name stands for; `to` has the same name, elsewhere. */
export function copyMedia(from: string, to: string): void {
  const targets = diskPaths(to);
  diskPaths(from).forEach((file, i) => copyFileSync(file, targets[i]!));
}
