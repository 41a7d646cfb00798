import { mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { eq } from 'drizzle-orm';
import { describe, expect, it } from 'vitest';
import { withDatabase } from '../../../tests/support/database';
import { FORMAT, mono, monoTrack } from '../../../tests/support/session';
import { wavHeader } from '@/core/files';
import { newSession, type SessionDoc } from '@/core/session';
import * as database from '../database';
import * as sessions from '../sessions';
import * as media from '../media';
import * as doctor from '.';
import * as copies from '../database/copies';

withDatabase();
const folder = process.env.WIDE_ROOM_DATA!;

const FRAMES = 480;
async function session(): Promise<{ id: string; file: string }> {
  const id = await sessions.createSession(newSession('Lamp', 'LP', { ...FORMAT }));
  const file = path.join(folder, 'sessions', id, 'media', 'voice.wav');
  const header = wavHeader({ format: 24, channels: 1, sampleRate: 48_000, frames: FRAMES, mask: 4 });
  writeFileSync(file, Buffer.concat([header, Buffer.alloc(FRAMES * 3)]));
  await media.addMedia({
    ...{ id: `m-${id}`, session: id, file: 'voice.wav', kind: 'file' },
    ...{ channels: 1, frames: FRAMES, sampleRate: 48_000 },
  });
  await sessions.edit(id, `e-${id}`, [
    monoTrack('a', 'Voice'),
    { type: 'addClip', id: 'c', track: 'a', start: 0, media: { ...mono(`m-${id}`, FRAMES), name: 'voice.wav' } },
  ]);
  return { id, file };
}
async function looked() {
  const found = [];
  for await (const finding of doctor.sessionFindings()) found.push(finding);
  return found;
}

describe('the doctor', () => {
  it('finds nothing where nothing is wrong', async () => {
    await session();
    expect(await looked()).toEqual([
      { grade: 'good', what: 'Lamp: document, files and prints are whole.', advice: '' },
    ]);
  });
  it('names what is gone, cut short, damaged, or belongs to nothing, and what to do', async () => {
    const { id, file } = await session();
    // As long as it was, and other samples.
    await media.summed();
    const bytes = readFileSync(file);
    bytes[bytes.length - 2]! ^= 1;
    writeFileSync(file, bytes);
    expect((await looked()).filter((f) => f.grade === 'bad')).toMatchObject([
      { what: 'Lamp: voice.wav is not as it was: another checksum.' },
    ]);
    bytes[bytes.length - 2]! ^= 1;
    writeFileSync(file, bytes);
    const beside = path.join(path.dirname(file), 'lost.wav');
    writeFileSync(beside, 'x');
    mkdirSync(path.join(folder, 'sessions', 'nobody'));
    rmSync(file);
    const gone = await looked();
    expect(gone.map((f) => f.grade).sort()).toEqual(['bad', 'good', 'look', 'look']);
    expect(gone.map((f) => f.what).join('\n')).toMatch(
      /voice\.wav is not as it was[^]*lost\.wav belong to nothing[^]*sessions\/nobody/,
    );
    expect(gone.filter((f) => f.grade !== 'good').every((f) => f.advice.length > 20)).toBe(true);
    rmSync(beside);
    rmSync(path.join(folder, 'sessions', 'nobody'), { recursive: true });

    const short = wavHeader({ format: 24, channels: 2, sampleRate: 44_100, frames: 10, mask: 3 });
    writeFileSync(file, Buffer.concat([short, Buffer.alloc(60)]));
    expect((await looked()).find((f) => f.grade === 'bad')!.what).toMatch(
      /2 channels instead of 1, 44100 Hz instead of 48000, 10 samples instead of 480/,
    );

    const { sessions: s } = database.tables;
    const { doc } = await sessions.loadSession(id);
    const broken = { ...doc, tracks: [{ id: 'x' }] } as unknown as SessionDoc;
    await (await database.db()).update(s).set({ doc: broken }).where(eq(s.id, id));
    sessions.forget(id);
    expect((await looked()).find((f) => /The session is damaged/.test(f.what))).toMatchObject({ grade: 'bad' });
  });
  it('looks at folder and tools', async () => {
    expect((await doctor.folderFindings()).map((f) => f.grade)[0]).toBe('good');
    expect((await doctor.toolFindings()).map((f) => f.what).join('\n')).toMatch(
      /^Node \d+[^]*ffmpeg version[^]*ffprobe version/,
    );
    expect((await doctor.copyFindings()).map((f) => f.grade)).toEqual(['look']);
  });
});

it('copies of the database: the newest three and one of each of seven days are kept', () => {
  const at = (day: number, hour: number) =>
    `/c/202611${String(day).padStart(2, '0')}T${String(hour).padStart(2, '0')}0000Z.tar.gz`;
  const all = Array.from({ length: 12 }, (_, d) => [18, 12, 6, 0].map((h) => at(27 - d, h))).flat();
  const gone = new Set(copies.tooOld(all));
  expect(all.filter((f) => !gone.has(f))).toEqual([
    ...[at(27, 18), at(27, 12), at(27, 6)],
    ...[26, 25, 24, 23, 22, 21].map((d) => at(d, 18)),
  ]);
  expect(copies.tooOld(all.slice(0, 2))).toEqual([]);
});

it('checksums that are being taken end with the database, and do not open it again', async () => {
  await Promise.all([session(), session(), session()]);
  await database.closeDatabase();
  await media.summed();
  const { lockFolder } = await import('../database/lock');
  await (
    await lockFolder()
  )();
  await database.openDatabase();
  // Those that were not taken are, at the next start.
  await media.sumRest();
  await media.summed();
  const rows = await (await database.db()).select().from(database.tables.media);
  expect(rows.every((row) => row.sha256 !== null)).toBe(true);
});
