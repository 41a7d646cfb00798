// The log of a long session stays as long as its last thousand steps, or its last five thousand changes; what came before
// is a version.
import { asc, eq } from 'drizzle-orm';
import { expect, it } from 'vitest';
import { newSession } from '@/core/session';
import { withDatabase } from '../../../tests/support/database';
import { FORMAT, monoTrack } from '../../../tests/support/session';
import * as database from '../database';
import * as sessions from '.';

withDatabase();

const level = async (id: string) => (await sessions.loadSession(id)).doc.tracks[0]!.level;

it('of 1,560 steps the last thousand can be taken back, and the session before them is a version', async () => {
  const id = await sessions.createSession(newSession('Long', 'LO', { ...FORMAT }));
  await sessions.edit(id, 'first', [monoTrack('a', 'Voice')]);
  const e = database.tables.edits;
  const quick = { session: id, kind: 'edit' as const, label: 'set track', edits: [], at: new Date() };
  // Each as an edit leaves it: a level, and the one before.
  const to = (value: number) => [{ op: 'replace' as const, path: ['tracks', 0, 'level'], value }];
  const rows = Array.from({ length: 1_400 }, (_, i) => ({
    ...{ ...quick, revision: i + 2, editId: `q${i}` },
    ...{ patches: to(-(i + 1) / 100), inverse: to(-i / 100) },
  }));
  const { sessions: s } = database.tables;
  const { doc } = await sessions.loadSession(id);
  const now = { ...doc, tracks: [{ ...doc.tracks[0]!, level: -14 }] };
  await (await database.db()).insert(e).values(rows);
  await (await database.db()).update(s).set({ doc: now, revision: 1_401 }).where(eq(s.id, id));
  sessions.forget(id);
  sessions.forgetSteps(id);
  const steps = 160;
  for (let i = 1; i <= steps; i++)
    await sessions.edit(id, `p${i}`, [{ type: 'setTrack', track: 'a', level: -14 - i / 10 }]);

  const left = await (
    await database.db()
  )
    .select({ revision: e.revision })
    .from(e)
    .where(eq(e.session, id))
    .orderBy(asc(e.revision));
  expect(left.length).toBeLessThanOrEqual(sessions.KEPT_STEPS + 500);
  const undoable = (await sessions.historyList(id)).filter((step) => step.mine && step.done);
  expect(undoable.length).toBeGreaterThanOrEqual(sessions.KEPT_STEPS);
  const packed = (await sessions.listVersions(id)).find((v) => v.name === 'before the last 1000 steps')!;
  expect(packed.revision).toBe(left[0]!.revision - 1);

  for (let i = 0; i < steps + 20; i++) await sessions.travel(id, 'undo');
  expect(await level(id)).toBe(-13.8);
  for (let i = 0; i < steps + 20; i++) await sessions.travel(id, 'redo');
  expect(await level(id)).toBe(-14 - steps / 10);

  await sessions.restoreVersion(id, packed.id);
  // The first edit made the track; each after it took a hundredth.
  expect(await level(id)).toBe(-(packed.revision - 1) / 100);
  await sessions.travel(id, 'undo');
  expect(await level(id)).toBe(-14 - steps / 10);
});

it('a day of taking back and making again is packed too, and what is left can still be taken back', async () => {
  const id = await sessions.createSession(newSession('To and fro', 'TF', { ...FORMAT }));
  await sessions.edit(id, 'first', [monoTrack('a', 'Voice')]);
  const { edits: e, sessions: s } = database.tables;
  const at = ['tracks', 0, 'level'];
  const set = (value: number) => [{ op: 'replace' as const, path: at, value }];
  const both = { session: id, label: 'set track', edits: [], at: new Date() };
  // An edit to -1 and its undo, nearly 2,900 times: hardly a step that could be taken back, and 5,700 rows.
  const rows = Array.from({ length: 2_870 }, (_, i) => [
    { ...both, kind: 'edit' as const, revision: 2 * i + 2, editId: `e${i}`, patches: set(-1), inverse: set(0) },
    {
      ...{ ...both, kind: 'undo' as const, undoes: 2 * i + 2, revision: 2 * i + 3, editId: `u${i}` },
      ...{ patches: set(0), inverse: set(-1) },
    },
  ]).flat();
  for (let i = 0; i < rows.length; i += 1_000) await (await database.db()).insert(e).values(rows.slice(i, i + 1_000));
  const last = rows.at(-1)!.revision;
  await (await database.db()).update(s).set({ revision: last }).where(eq(s.id, id));
  sessions.forget(id);
  sessions.forgetSteps(id);
  await sessions.edit(id, 'now', [{ type: 'setTrack', track: 'a', level: -3 }]);

  const left = await (await database.db()).select({ revision: e.revision }).from(e).where(eq(e.session, id));
  expect(left).toHaveLength(sessions.KEPT_CHANGES);
  const packed = (await sessions.listVersions(id)).find((v) => v.name === 'before the last 5000 changes')!;
  expect(packed.revision).toBe(last + 1 - sessions.KEPT_CHANGES);
  await sessions.travel(id, 'undo');
  expect(await level(id)).toBe(0);
  await sessions.travel(id, 'redo');
  expect(await level(id)).toBe(-3);
  await sessions.restoreVersion(id, packed.id);
  // Every second row stands after an edit.
  expect(await level(id)).toBe(packed.revision % 2 === 0 ? -1 : 0);
});
