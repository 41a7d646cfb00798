// What nothing of a session uses any more is found, told and removed; what an undo or a version would need stays or is told.
import { existsSync, writeFileSync } from 'node:fs';
import { expect, it } from 'vitest';
import { withDatabase } from '../../../tests/support/database';
import { FORMAT, mono, monoTrack } from '../../../tests/support/session';
import { newSession } from '@/core/session';
import * as sessions from '../sessions';
import * as config from '../config';
import * as media from '../media';
import * as archives from '.';

withDatabase();

let n = 0;
const edit = (id: string, ...edits: object[]) => sessions.edit(id, `u${n++}`, edits);
async function session(): Promise<{ id: string; file: string; on: () => boolean }> {
  const id = await sessions.createSession(newSession('Unused', 'UN', { ...FORMAT }));
  const file = `unused-${n++}`;
  const at = config.mediaPath(id, `${file}.wav`);
  writeFileSync(at, Buffer.alloc(4_000, 7));
  await media.addMedia({
    ...{ id: file, session: id, file: `${file}.wav`, kind: 'file' },
    ...{ channels: 1, frames: 9_600, sampleRate: 48_000 },
  });
  await edit(id, monoTrack('a', 'Voice'), {
    ...{ type: 'addClip', id: 'c', track: 'a', start: 0, media: { ...mono(file, 9_600), name: `${file}.wav` } },
  });
  return { id, file, on: () => existsSync(at) };
}

it('a file in use, by the session or by a version of it, is left alone', async () => {
  const { id, file, on } = await session();
  expect(await archives.unusedFiles(id)).toEqual({ files: [], bytes: 0, steps: 0, versions: 0 });
  await sessions.keepVersion(id, 'with it');
  await edit(id, { type: 'removeClip', clip: 'c' });
  await edit(id, { type: 'removeMedia', media: [file] });
  expect((await archives.freeUnused(id)).files).toEqual([]);
  expect(on()).toBe(true);
});

it('one that was cleared goes when that is asked, with the steps that would bring it back', async () => {
  const { id, file, on } = await session();
  await edit(id, { type: 'setTrack', track: 'a', level: -2 });
  await edit(id, { type: 'removeClip', clip: 'c' });
  await edit(id, { type: 'removeMedia', media: [file] });
  await edit(id, { type: 'setTrack', track: 'a', level: -4 });
  expect(on()).toBe(true);
  expect(await archives.unusedFiles(id)).toEqual({ files: [`${file}.wav`], bytes: 4_000, steps: 3, versions: 1 });
  await archives.freeUnused(id);
  expect(on()).toBe(false);
  expect(await media.mediaOf(id)).toEqual([]);
  expect(await archives.unusedFiles(id)).toEqual({ files: [], bytes: 0, steps: 0, versions: 0 });
  // Undo goes on past them: only what needs no file is taken back.
  await sessions.travel(id, 'undo');
  await sessions.travel(id, 'undo');
  const { doc } = await sessions.loadSession(id);
  expect([doc.tracks[0]!.level, doc.tracks[0]!.clips]).toEqual([0, []]);
  await expect(sessions.travel(id, 'undo')).rejects.toThrow(/nothing left to undo/);
});
