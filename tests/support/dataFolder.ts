import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { layEmptyDatabase } from './emptyDatabase';

/** A data folder of its own for one test file; returns what removes it. */
export function freshDataFolder(): () => void {
  const dir = mkdtempSync(path.join(tmpdir(), 'wide-room-data-'));
  layEmptyDatabase(dir);
  process.env.WIDE_ROOM_DATA = dir;
  process.env.WIDE_ROOM_APP = path.resolve(import.meta.dirname, '../..');
  process.env.WIDE_ROOM_LOG = 'silent';
  return () => rmSync(dir, { recursive: true, force: true });
}
