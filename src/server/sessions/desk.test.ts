// Sessions in the list of all of them: duplicated, removed, brought back, gone for good.
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { expect, it } from 'vitest';
import { withDatabase } from '../../../tests/support/database';
import { FORMAT, mono, monoTrack } from '../../../tests/support/session';
import { newSession } from '@/core/session';
import * as sessions from '.';
import * as config from '../config';
import * as media from '../media';
import * as archives from '../archives';
import * as database from '../database';

withDatabase();

let n = 0;
async function session(name: string): Promise<string> {
  const id = await sessions.createSession(newSession(name, 'DK', { ...FORMAT }));
  const file = `desk-${n++}`;
  writeFileSync(config.mediaPath(id, `${file}.wav`), Buffer.alloc(4_000, 7));
  await media.addMedia({
    ...{ id: file, session: id, file: `${file}.wav`, kind: 'file' },
    ...{ channels: 1, frames: 96_000, sampleRate: 48_000 },
  });
  await sessions.edit(id, `d${n++}`, [
    monoTrack('a', 'Voice'),
    { type: 'addClip', id: 'c', track: 'a', start: 48_000, media: { ...mono(file, 96_000), name: `${file}.wav` } },
  ]);
  return id;
}
const on = async (id: string) => (await sessions.sessionDesk()).find((s) => s.id === id);

it('each is there with what one chooses by, the one that was changed last first', async () => {
  const [first, second] = [await session('First'), await session('Second')];
  expect(await on(first)).toMatchObject({
    ...{ name: 'First', tracks: 1, seconds: 3, bytes: 4_000, sampleRate: 48_000, layout: '5.1', removedAt: null },
    folder: config.sessionDir(first),
  });
  await sessions.edit(first, `d${n++}`, [{ type: 'setTrack', track: 'a', level: -3 }]);
  const order = (await sessions.sessionDesk()).map((s) => s.id);
  expect(order.indexOf(first)).toBeLessThan(order.indexOf(second));
});

it('one is there twice: files of its own, its versions, and what is changed in one stays out of the other', async () => {
  const id = await session('Lamp');
  await sessions.keepVersion(id, 'for the client');
  const made = await archives.duplicateSession(id, 'Lamp, copy');
  const [was, is] = [(await sessions.loadSession(id)).doc, (await sessions.loadSession(made.id)).doc];
  expect(is.name).toBe('Lamp, copy');
  expect(is.tracks[0]!.clips[0]!.media).not.toBe(was.tracks[0]!.clips[0]!.media);
  const [row] = await media.mediaOf(made.id);
  expect(readFileSync(config.mediaPath(made.id, row!.file))).toEqual(Buffer.alloc(4_000, 7));
  expect((await sessions.listVersions(made.id)).map((v) => v.name)).toEqual(['for the client']);
  await sessions.edit(made.id, `d${n++}`, [{ type: 'removeClip', clip: 'c' }]);
  expect((await sessions.loadSession(id)).doc.tracks[0]!.clips).toHaveLength(1);
  await expect(archives.duplicateSession(id, ' ')).rejects.toThrow(/1 to 80 letters/);
});

it('one that is removed is in the bin: not opened, not listed, brought back as it was', async () => {
  const id = await session('Gone');
  const { doc } = await sessions.loadSession(id);
  await sessions.removeSession(id);
  expect((await sessions.listSessions()).map((s) => s.id)).not.toContain(id);
  expect((await on(id))!.goesAt! > new Date(Date.now() + 29 * 24 * 3600_000).toISOString()).toBe(true);
  await expect(sessions.openSession(id)).rejects.toThrow(/"Gone" was removed and is in the bin/);
  await expect(sessions.edit(id, `d${n++}`, [{ type: 'setTrack', track: 'a', level: 0 }])).rejects.toThrow(
    /in the bin/,
  );
  // Nobody has waited for thirty days yet.
  expect(await sessions.emptyBin()).toBe(0);
  await sessions.restoreSession(id);
  expect((await sessions.loadSession(id)).doc).toEqual(doc);
});

it('after thirty days it goes for good, with its files; what is not in the bin stays', async () => {
  const [gone, kept] = [await session('Old'), await session('Kept')];
  await sessions.removeSession(gone);
  expect(await sessions.emptyBin(Date.now() + 31 * 24 * 3600_000)).toBe(1);
  expect(await on(gone)).toBeUndefined();
  expect(existsSync(config.sessionDir(gone))).toBe(false);
  expect(existsSync(config.sessionDir(kept))).toBe(true);
  await expect(sessions.restoreSession(gone)).rejects.toThrow(/no session/);
});

it('one in which something is recorded, or a print is in line, stays', async () => {
  const id = await session('Busy');
  const { db, tables } = database;
  const row = { id: 'p-busy', session: id, version: 1, state: 'waiting' as const, start: 0, end: 1 };
  await (await db()).insert(tables.prints).values({ ...row, doc: (await sessions.loadSession(id)).doc });
  await expect(sessions.removeSession(id)).rejects.toThrow(/Print 1 of Busy is in line; cancel it first/);
  expect((await on(id))!.removedAt).toBeNull();
});
