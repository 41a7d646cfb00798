// Files in other forms than WAV, AIFF and FLAC, made by ffmpeg and sox; what comes in is held against what went out.
import { execFileSync } from 'node:child_process';
import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { freshDataFolder } from '../../../tests/support/dataFolder';
import { FORMAT } from '../../../tests/support/session';
import { newSession } from '@/core/session';
import { toDb } from '@/core/units';

const removeFolder = freshDataFolder();
const made = mkdtempSync(path.join(tmpdir(), 'wide-room-forms-'));
let media: typeof import('.');
let sessions: typeof import('../sessions');
let database: typeof import('../database');
let id = '';

beforeAll(async () => {
  database = await import('../database');
  sessions = await import('../sessions');
  media = await import('.');
  await database.openDatabase();
  id = await sessions.createSession(newSession('Forms', 'FO', { ...FORMAT }));
});
afterAll(async () => {
  await database.closeDatabase();
  removeFolder();
  rmSync(made, { recursive: true });
});

const ffmpeg = (...args: string[]) => execFileSync('ffmpeg', ['-v', 'error', '-y', ...args]);
const at = (name: string) => path.join(made, name);
const body = (file: string) => new Blob([readFileSync(file)]).stream() as ReadableStream<Uint8Array>;
const folder = () => path.join(process.env.WIDE_ROOM_DATA!, 'sessions', id, 'media');
const left = () => readdirSync(folder()).filter((f) => f.startsWith('.') || f.includes('.part'));

/** Root mean square of a second of sound, from half a second on, in dBFS. */
async function level(file: string): Promise<number> {
  const bytes = await media.readBlocks([{ media: file, from: 24_000, frames: 48_000 }], () => 1);
  const samples = new Float32Array(bytes.buffer);
  return toDb(Math.sqrt(samples.reduce((sum, v) => sum + v * v, 0) / samples.length));
}

// A sine of ffmpeg has an amplitude of an eighth: -18.06 dBFS, and 3.01 dB less as a mean (ffmpeg's documentation of "sine").
const TONE = ['-f', 'lavfi', '-i', 'sine=frequency=997:sample_rate=48000:duration=3'];
const MEAN = -21.07;

describe('files in other forms', () => {
  it.each([
    ['MP3', 'tone.mp3', ['-c:a', 'libmp3lame', '-b:a', '192k'], 0.3],
    ['AAC', 'tone.m4a', ['-c:a', 'aac', '-b:a', '192k'], 0.2],
    ['VORBIS', 'tone.ogg', ['-c:a', 'libvorbis', '-q:a', '6'], 0.2],
    ['PCM_MULAW', 'tone-mulaw.wav', ['-c:a', 'pcm_mulaw'], 0.2],
    ['PCM_ALAW', 'tone-alaw.wav', ['-c:a', 'pcm_alaw'], 0.2],
    ['ADPCM_IMA_WAV', 'tone-adpcm.wav', ['-c:a', 'adpcm_ima_wav'], 0.3],
    ['PCM_S16BE', 'tone.au', ['-c:a', 'pcm_s16be'], 0.02],
  ])('%s comes in with its length and level, and says where it comes from', async (codec, name, how, within) => {
    ffmpeg(...TONE, ...how, at(name));
    const { media: file, notes } = await media.importFile(id, name, body(at(name)), FORMAT);
    expect(notes.join(' ')).toContain(`Decoded from ${codec} by ffmpeg`);
    expect(file).toMatchObject({ channels: 1, sampleRate: 48_000 });
    // The ends of lossy forms are padded by up to two of their frames.
    expect(Math.abs(file.frames - 144_000)).toBeLessThan(3_000);
    expect(Math.abs((await level(file.id)) - MEAN)).toBeLessThan(within);
    expect(left()).toEqual([]);
  });

  it('the sound of a picture comes in, and what the picture says of itself', async () => {
    ffmpeg(
      ...['-f', 'lavfi', '-i', 'testsrc=d=3:s=320x180:r=24'],
      ...TONE,
      ...['-c:v', 'libx264', '-pix_fmt', 'yuv420p', '-c:a', 'aac', '-timecode', '10:00:05:00', at('lamp.mp4')],
    );
    const { file, facts } = await media.takePicture(id, 'lamp.mp4', body(at('lamp.mp4')));
    expect(facts).toEqual({ rate: '24/1', timecode: '10:00:05:00', hasSound: true });
    const name = file.split('/').at(-1)!;
    const taken = await media.pictureSound(id, name, FORMAT);
    if ('asked' in taken) throw new Error('nothing was to be asked');
    expect(taken.media.name).toMatch(/^lamp-sound/);
    expect(Math.abs((await level(taken.media.id)) - MEAN)).toBeLessThan(0.2);
    await media.removePicture(id, name);
    await expect(media.pictureFile(id, name, null)).rejects.toMatchObject({ status: 404 });
  });

  it('a list that leads to other files is not followed', async () => {
    writeFileSync(at('secret.wav'), 'x');
    for (const [name, text] of [
      ['list.m3u8', `#EXTM3U\n#EXT-X-TARGETDURATION:3\n#EXTINF:3,\nfile://${at('tone.mp3')}\n#EXT-X-ENDLIST\n`],
      ['list.txt', `ffconcat version 1.0\nfile ${at('tone.mp3')}\n`],
    ] as const) {
      writeFileSync(at(name), text);
      await expect(media.importFile(id, name, body(at(name)), FORMAT)).rejects.toThrow(/no sound that could be read/);
    }
    expect(left()).toEqual([]);
  });

  it('where there is no ffmpeg it is said what to do, and nothing stays', async () => {
    const { PATH } = process.env;
    process.env.PATH = made;
    await expect(media.importFile(id, 'tone.mp3', body(at('tone.mp3')), FORMAT))
      .rejects.toThrow(/ffmpeg is installed.*apt install ffmpeg.*not taken in/s)
      .finally(() => (process.env.PATH = PATH));
    expect(left()).toEqual([]);
  });
});

describe('a file at another rate', () => {
  const old = async () => {
    ffmpeg('-f', 'lavfi', '-i', 'sine=frequency=997:sample_rate=44100:duration=3', at('old.wav'));
    const taken = await media.importAsking(id, 'old.wav', body(at('old.wav')), FORMAT);
    if (!('asked' in taken)) throw new Error('it was not asked about');
    return taken.asked;
  };
  it('waits until one says that it shall be converted', async () => {
    const before = (await media.mediaOf(id)).length;
    const asked = await old();
    expect(asked).toMatchObject({ name: 'old.wav', from: 44_100, to: 48_000 });
    expect(await media.mediaOf(id)).toHaveLength(before);
    const taken = await media.finishImport(id, asked.id, true, FORMAT);
    expect(taken!.media).toMatchObject({ frames: 144_000, sampleRate: 48_000 });
    expect(Math.abs((await level(taken!.media.id)) - MEAN)).toBeLessThan(0.02);
    expect(left()).toEqual([]);
  });
  it('is gone when it shall not, and is answered for once', async () => {
    const asked = await old();
    expect(left()).toHaveLength(1);
    expect(await media.finishImport(id, asked.id, false, FORMAT)).toBeNull();
    expect(left()).toEqual([]);
    await expect(media.finishImport(id, asked.id, true, FORMAT)).rejects.toMatchObject({ status: 410 });
    await expect(media.finishImport('elsewhere', (await old()).id, true, FORMAT)).rejects.toMatchObject({
      status: 410,
    });
  });
});
