// A whole session leaves one machine as an archive and stands on another as it was.
import { execFileSync } from 'node:child_process';
import { createWriteStream, mkdtempSync, readFileSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { pipeline } from 'node:stream/promises';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { eq } from 'drizzle-orm';
import yazl from 'yazl';
import { freshDataFolder } from '../../../tests/support/dataFolder';
import { FORMAT, mono, monoTrack } from '../../../tests/support/session';
import { faultOf, newSession, type SessionDoc } from '@/core/session';

const removeFolder = freshDataFolder();
const dir = mkdtempSync(path.join(tmpdir(), 'wide-room-archives-'));
let database: typeof import('../database');
let sessions: typeof import('../sessions');
let archives: typeof import('.');
let config: typeof import('../config');
let media: typeof import('../media');

const bytes = Buffer.from(Array.from({ length: 9_000 }, (_, i) => (i * 7) % 256));
let n = 0;

/** A session with a clip, a version, and some steps, one of them taken back. */
async function session(): Promise<string> {
  const id = await sessions.createSession(newSession('Lamp', 'LP', { ...FORMAT }));
  const file = `voice-${n++}`;
  writeFileSync(config.mediaPath(id, `${file}.wav`), bytes);
  await media.addMedia({
    ...{ id: file, session: id, file: `${file}.wav`, kind: 'file' },
    ...{ channels: 1, frames: 4_800, sampleRate: 48_000 },
  });
  await sessions.edit(id, `e${n++}`, [monoTrack('a', 'Voice')]);
  await sessions.edit(id, `e${n++}`, [
    { type: 'addClip', id: 'c', track: 'a', start: 0, media: { ...mono(file, 4_800), name: `${file}.wav` } },
  ]);
  await sessions.keepVersion(id, 'for the client');
  await sessions.edit(id, `e${n++}`, [{ type: 'setTrack', track: 'a', level: -6 }]);
  return id;
}

async function archived(id: string, history = false): Promise<string> {
  const { stream } = await archives.sessionArchive(id, history);
  const file = path.join(dir, `${n++}.zip`);
  await pipeline(stream, createWriteStream(file));
  return file;
}

/** Takes a session off this machine, as if it were another one. */
async function gone(id: string): Promise<void> {
  const { db, tables } = database;
  await (await db()).delete(tables.sessions).where(eq(tables.sessions.id, id));
  rmSync(config.sessionDir(id), { recursive: true, force: true });
}

const folders = () => readdirSync(path.join(config.dataDir(), 'sessions')).sort();

beforeAll(async () => {
  database = await import('../database');
  sessions = await import('../sessions');
  archives = await import('.');
  config = await import('../config');
  media = await import('../media');
  await database.openDatabase();
}, 240_000);
afterAll(async () => {
  await database.closeDatabase();
  removeFolder();
  rmSync(dir, { recursive: true, force: true });
});

describe('on another machine', () => {
  it('a session stands as it was: document, files, versions, and its steps can be taken back', async () => {
    const id = await session();
    const { doc, revision } = await sessions.loadSession(id);
    const file = await archived(id, true);
    execFileSync('unzip', ['-q', file, '-d', path.join(dir, 'whole')]);
    execFileSync('sha256sum', ['--check', '--quiet', 'SHA256SUMS'], { cwd: path.join(dir, 'whole') });
    await gone(id);
    const made = await archives.bringSession(file);
    expect(made).toMatchObject({ name: 'Lamp', notes: [] });
    const there = await sessions.loadSession(made.id);
    expect(there.doc).toEqual(doc);
    expect(there.revision).toBe(revision);
    const [row] = await media.mediaOf(made.id);
    expect(readFileSync(config.mediaPath(made.id, row!.file)).equals(bytes)).toBe(true);
    const [version] = await sessions.listVersions(made.id);
    expect(version).toMatchObject({ name: 'for the client', automatic: false });
    expect((await sessions.openSession(made.id)).undo).toBe('set track level');
    await sessions.travel(made.id, 'undo');
    expect((await sessions.loadSession(made.id)).doc.tracks[0]!.level).toBe(0);
    await sessions.edit(made.id, 'on', [{ type: 'setTrack', track: 'a', level: -3 }]);
    expect((await sessions.loadSession(made.id)).doc.tracks[0]!.level).toBe(-3);
  });
  it('it comes without its steps where they were not wanted', async () => {
    const id = await session();
    const file = await archived(id);
    await gone(id);
    const made = await archives.bringSession(file);
    expect((await sessions.openSession(made.id)).undo).toBeNull();
    await sessions.edit(made.id, 'first', [{ type: 'setTrack', track: 'a', level: -3 }]);
  });
});

it('beside the session that it comes from its files get ids of their own, and both are whole', async () => {
  const id = await session();
  const { doc } = await sessions.loadSession(id);
  const made = await archives.bringSession(await archived(id, true));
  const { doc: copy } = await sessions.loadSession(made.id);
  expect(made.notes.join()).toMatch(/history stayed behind/);
  expect(faultOf(null, copy)).toBeNull();
  const own = (d: SessionDoc) => d.tracks[0]!.clips[0]!.media;
  expect(own(copy)).not.toBe(own(doc));
  expect((await media.mediaOf(made.id)).map((m) => m.id)).toEqual(Object.keys(copy.media));
  expect((await sessions.loadSession(id)).doc).toBe(doc);
});

it('a file that is missing is told before, in the archive and where it is brought in', async () => {
  const id = await session();
  const [row] = await media.mediaOf(id);
  rmSync(config.mediaPath(id, row!.file));
  expect((await archives.sessionArchiveFacts(id)).missing).toEqual([row!.file]);
  const made = await archives.bringSession(await archived(id));
  expect(made.notes.join()).toContain(`${row!.file} was missing when the archive was made`);
});

describe('an archive that is none, or not as it was, is refused and leaves nothing', () => {
  const zipped = async (files: Record<string, string | Buffer>): Promise<string> => {
    const zip = new yazl.ZipFile();
    for (const [name, text] of Object.entries(files)) zip.addBuffer(Buffer.from(text), name);
    zip.end();
    const file = path.join(dir, `${n++}.zip`);
    await pipeline(zip.outputStream, createWriteStream(file));
    return file;
  };
  const unpacked = (file: string): Record<string, Buffer> => {
    const at = mkdtempSync(path.join(dir, 'x-'));
    execFileSync('unzip', ['-q', file, '-d', at]);
    const all = readdirSync(at, { recursive: true, withFileTypes: true }).filter((e) => e.isFile());
    return Object.fromEntries(
      all.map((e) => {
        const full = path.join(e.parentPath, e.name);
        return [path.relative(at, full), readFileSync(full)];
      }),
    );
  };
  it.each<[string, (files: Record<string, Buffer>) => Record<string, string | Buffer>, RegExp]>([
    ['no session.json', ({ 'session.json': _, ...rest }) => rest, /holds no session.json/],
    ['no checksums', ({ SHA256SUMS: _, ...rest }) => rest, /holds no SHA256SUMS/],
    ['no JSON', (f) => ({ ...f, 'session.json': '{' }), /is no JSON/],
    ['another format', (f) => ({ ...f, 'session.json': '{"format":"x"}' }), /no archive of a session/],
    ['null', (f) => ({ ...f, 'session.json': 'null' }), /no archive of a session/],
    [
      'a later form',
      (f) => ({ ...f, 'session.json': '{"format":"wide-room-session","version":2}' }),
      /has the form 2, this release knows 1/,
    ],
    [
      'a name outside',
      (f) => ({
        ...f,
        'session.json': f['session.json']!.toString().replace(/voice-(\d+)\.wav","kind/, '../$1.wav","kind'),
      }),
      /tells its files in a way/,
    ],
    [
      'two files of one name',
      (f) => {
        const about = JSON.parse(f['session.json']!.toString()) as { media: { id: string }[] };
        about.media.push({ ...about.media[0]!, id: 'twin' });
        return { ...f, 'session.json': JSON.stringify(about) };
      },
      /tells of one file twice/,
    ],
    [
      'a clip without a file',
      (f) => ({ ...f, 'session.json': f['session.json']!.toString().replace(/"frames":4800/g, '"frames":10') }),
      /session is damaged: .* would reach beyond the sound/,
    ],
    [
      'a text that was changed',
      (f) => ({ ...f, 'session.json': f['session.json']!.toString().replace('"Lamp"', '"Limp"') }),
      /session.json is not as it was/,
    ],
    [
      'a file that was changed',
      (f) => Object.fromEntries(Object.entries(f).map(([k, v]) => [k, k.startsWith('media/') ? Buffer.from('x') : v])),
      /media\/voice-\d+.wav is not as it was/,
    ],
    [
      'a file far larger than its sound',
      (f) =>
        Object.fromEntries(Object.entries(f).map(([k, v]) => [k, k.startsWith('media/') ? Buffer.alloc(70 << 20) : v])),
      /voice-\d+.wav would be 73 MB, more than its sound can take/,
    ],
    [
      'a file that is gone',
      (f) => Object.fromEntries(Object.entries(f).filter(([k]) => !k.startsWith('media/'))),
      /lacks its file media\/voice/,
    ],
  ])('%s', async (_, spoiled, why) => {
    const file = await zipped(spoiled(unpacked(await archived(await session()))));
    const [before, count] = [folders(), (await sessions.listSessions()).length];
    await expect(archives.bringSession(file)).rejects.toThrow(why);
    expect(folders()).toEqual(before);
    expect(await sessions.listSessions()).toHaveLength(count);
  });
  it('no ZIP at all', async () => {
    const file = path.join(dir, 'text.zip');
    writeFileSync(file, 'no zip');
    await expect(archives.bringSession(file)).rejects.toThrow(/no ZIP archive/);
  });
});
