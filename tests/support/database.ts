import { afterAll, beforeAll } from 'vitest';
import { closeDatabase, openDatabase } from '@/server/database';
import { freshDataFolder } from './dataFolder';

/** A data folder and an open database of its own for one test file. */
export function withDatabase(): void {
  const removeFolder = freshDataFolder();
  beforeAll(() => openDatabase());
  afterAll(async () => {
    await closeDatabase();
    removeFolder();
  });
}
