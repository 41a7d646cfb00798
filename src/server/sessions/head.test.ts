import { beforeAll, expect, it } from 'vitest';
import { eq } from 'drizzle-orm';
import { withDatabase } from '../../../tests/support/database';
import { FORMAT, mono } from '../../../tests/support/session';
import { newSession, newTrack, type SessionDoc } from '@/core/session';
import * as database from '../database';
import * as sessions from '.';

withDatabase();
let id = '';
const CLIPS = 4000;

beforeAll(async () => {
  const doc = newSession('Long', 'LO', { ...FORMAT });
  const track = newTrack('t', 'Track', 'mono', 'dia');
  doc.media.m = mono('m', 48_000);
  track.clips = Array.from({ length: CLIPS }, (_, c) => ({
    ...{ id: `c${c}`, media: 'm', start: c * 48_000, offset: 0, length: 24_000, gain: 0, name: `Clip ${c}` },
  }));
  doc.tracks = [track];
  id = await sessions.createSession(doc);
});

const stored = async () => {
  const s = database.tables.sessions;
  const { revision, docRevision } = s;
  const [row] = await (await database.db()).select({ revision, docRevision }).from(s).where(eq(s.id, id));
  return row!;
};
const move = (n: number) => sessions.edit(id, `move-${n}`, [{ type: 'moveClip', clip: 'c7', start: 10 + n }]);
const startOf = (doc: SessionDoc) => doc.tracks[0]!.clips.find((c) => c.id === 'c7')!.start;

it('a large document is stored now and then; what is read is always as it was left', async () => {
  const wholes = new Set<number>();
  for (let n = 1; n <= 60; n++) {
    const { revision } = await move(n);
    const row = await stored();
    expect(row.revision).toBe(revision);
    wholes.add(row.docRevision ?? row.revision);
    if (n % 13 === 0) {
      // As after a restart.
      sessions.forget(id);
      const now = await sessions.loadSession(id);
      expect([now.revision, startOf(now.doc)]).toEqual([revision, 10 + n]);
      expect(now.doc).toEqual((await sessions.openSession(id)).doc);
    }
  }
  expect(wholes.size).toBeGreaterThan(1);
  expect(wholes.size).toBeLessThan(4);
});

it('a step that lies in no stored document is taken back, and made again', async () => {
  await move(200);
  await move(201);
  await sessions.travel(id, 'undo');
  sessions.forget(id);
  expect(startOf((await sessions.loadSession(id)).doc)).toBe(210);
  await sessions.travel(id, 'redo');
  expect(startOf((await sessions.loadSession(id)).doc)).toBe(211);
});

it('what lists show is stored at once', async () => {
  await move(300);
  expect((await stored()).docRevision).not.toBeNull();
  await sessions.edit(id, 'name', [{ type: 'setSession', name: 'Longer' }]);
  expect((await sessions.listSessions())[0]!.name).toBe('Longer');
  await move(301);
  const [facts] = await sessions.sessionDesk();
  expect(facts).toMatchObject({ name: 'Longer', tracks: 1, seconds: CLIPS - 0.5 });
});
