import { mkdirSync, mkdtempSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { afterAll, expect, it } from 'vitest';
import { freshDataFolder } from '../../../tests/support/dataFolder';
import { copies, makeCopy, openOrRestore } from './copies';
import { openDurable } from './durable';

const removeFolder = freshDataFolder();
const dir = mkdtempSync(path.join(tmpdir(), 'wide-room-copies-'));
afterAll(() => {
  removeFolder();
  rmSync(dir, { recursive: true, force: true });
});

it(
  'a database that does not open is replaced by its newest verified copy, and kept',
  { timeout: 300_000 },
  async () => {
    const at = path.join(dir, 'database');
    mkdirSync(at, { recursive: true });
    const client = await openDurable(at);
    await client.exec(`create table sessions (id text, doc jsonb); insert into sessions values ('lamp', '{"a":1}')`);
    expect(await makeCopy(client)).toMatch(/\.tar\.gz$/);
    expect(copies()).toHaveLength(1);
    await client.exec(`insert into sessions values ('later', '{}')`);
    await client.close();
    // Every file of its tables and its log is rubbish.
    const spoil = (folder: string): void => {
      for (const e of readdirSync(folder, { withFileTypes: true })) {
        if (e.isDirectory()) spoil(path.join(folder, e.name));
        else if (e.name !== 'PG_VERSION') writeFileSync(path.join(folder, e.name), 'rubbish');
      }
    };
    spoil(at);
    const opened = await openOrRestore(at);
    expect(opened.notice).toMatch(/did not open.*Its copy of .* is in use.*broken one is kept/s);
    expect((await opened.client.query('select id from sessions')).rows).toEqual([{ id: 'lamp' }]);
    expect(readdirSync(dir).some((f) => f.startsWith('database-broken-'))).toBe(true);
    await opened.client.close();
  },
);
