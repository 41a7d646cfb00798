// What edits leave behind is given free: the database of a session that is worked on for months stays as large as its
// documents.
import { expect, it } from 'vitest';
import { newSession } from '@/core/session';
import { withDatabase } from '../../../tests/support/database';
import { FORMAT } from '../../../tests/support/session';
import { shrink, tidied, tidyOf, TIDY_AFTER } from './tidy';
import * as database from '.';
import * as sessions from '../sessions';

withDatabase();

async function size(): Promise<number> {
  const found = await (
    await database.databaseClient()
  ).query<{ size: number }>(`select pg_total_relation_size('sessions')::float8 as size`);
  return found.rows[0]!.size;
}

/** As many changes as are made until what they left is given free, each of them with a document of several kilobytes. */
async function work(id: string): Promise<void> {
  const client = await database.databaseClient();
  for (let i = 0; i < TIDY_AFTER; i++) {
    await client.query(
      `update sessions set doc = jsonb_set(doc, '{notes}', to_jsonb((select string_agg(md5(random()::text), '') from generate_series(1, 300)))) where id = $1`,
      [id],
    );
    database.countChange();
  }
  await tidied();
}

it('the table of sessions does not grow with the changes; what once grew is given back', async () => {
  const id = await sessions.createSession(newSession('Months', 'MO', { ...FORMAT }));
  await work(id);
  const once = await size();
  // What each change leaves is there until then.
  expect(once).toBeGreaterThan(1_000_000);
  await work(id);
  expect(await size()).toBeLessThan(1.5 * once);

  // As it was before anything tidied.
  const client = await database.databaseClient();
  tidyOf(null);
  // The first takes the room that is free.
  for (let round = 0; round < 2; round++) await work(id);
  expect(await size()).toBeGreaterThan(1.8 * once);
  tidyOf(client);
  await shrink(client, 1_000_000);
  expect(await size()).toBeLessThan(200_000);
  expect((await sessions.loadSession(id)).doc.name).toBe('Months');
});
