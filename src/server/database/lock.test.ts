// One process at a time works on a folder; one that was stopped for long finds out before it writes.
import { readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { afterAll, afterEach, describe, expect, it, vi } from 'vitest';
import { freshDataFolder } from '../../../tests/support/dataFolder';
import { DataFolderBusy, lockFolder, stillHolder } from './lock';

const removeFolder = freshDataFolder();
afterAll(removeFolder);
afterEach(() => vi.restoreAllMocks());
const holder = path.join(process.env.WIDE_ROOM_DATA!, 'holder.pid');

function sleptFor(ms: number): { said: string; code: number | null } {
  const told = { said: '', code: null as number | null };
  const now = Date.now() + ms;
  vi.spyOn(Date, 'now').mockReturnValue(now);
  vi.spyOn(process.stderr, 'write').mockImplementation((text) => ((told.said += String(text)), true));
  vi.spyOn(process, 'exit').mockImplementation((code) => {
    told.code = Number(code);
    throw new Error('ended');
  });
  try {
    stillHolder();
  } catch {
    // It ended.
  }
  return told;
}

describe('the holder of a data folder', () => {
  it('that slept goes on where the folder is still its own', async () => {
    const unlock = await lockFolder();
    expect(readFileSync(holder, 'utf8')).toBe(String(process.pid));
    expect(sleptFor(60_000)).toEqual({ said: '', code: null });
    await unlock();
  });
  it('that slept ends with a sentence where another one has it by now', async () => {
    const unlock = await lockFolder();
    writeFileSync(holder, '1');
    // Within a moment nobody took it over: the file is not even looked at.
    expect(sleptFor(1_000).code).toBeNull();
    vi.restoreAllMocks();
    const { said, code } = sleptFor(24_000);
    expect(code).toBe(70);
    expect(said).toMatch(/stopped for so long that another one took over the data folder .* nothing was changed/);
    vi.restoreAllMocks();
    writeFileSync(holder, String(process.pid));
    await unlock();
    // Who holds nothing is not asked.
    expect(sleptFor(60_000).code).toBeNull();
  });
  it('keeps others out, in words', async () => {
    const unlock = await lockFolder();
    writeFileSync(holder, '1');
    await expect(lockFolder()).rejects.toThrow(DataFolderBusy);
    writeFileSync(holder, String(process.pid));
    await unlock();
  });
});
