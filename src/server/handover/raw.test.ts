import { execFileSync } from 'node:child_process';
import { createWriteStream, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { pipeline } from 'node:stream/promises';
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest';
import { freshDataFolder } from '../../../tests/support/dataFolder';
import { samplesOf } from '../../../tests/support/files';
import { newKernels, noise, put } from '../../../tests/support/kernels';
import { FORMAT, mono, monoTrack } from '../../../tests/support/session';
import { firstDifference } from '../../../tests/support/stages';
import { DATA_OFFSET, FrameCodec, parseAudio, wavHeader } from '@/core/files';
import { newSession } from '@/core/session';
import { MemorySource } from '../../../tests/support/memorySource';

const removeFolder = freshDataFolder();
const k = newKernels();
const FRAMES = 24_000;
const dirs: string[] = [];

function wav(samples: Float32Array): Uint8Array {
  const set = put(k, [samples]);
  const codec = new FrameCodec(k, 24, 1, samples.length);
  const out = new Uint8Array(DATA_OFFSET + samples.length * 3);
  out.set(wavHeader({ format: 24, channels: 1, sampleRate: 48_000, frames: samples.length, mask: 4 }));
  out.set(codec.encode(set.table, samples.length).bytes, DATA_OFFSET);
  return out;
}

const sounds = { through: noise(FRAMES, 0.2, 1), dry: noise(FRAMES, 0.3, 2) };

beforeAll(async () => {
  const { openDatabase } = await import('../database');
  const { createSession, edit } = await import('../sessions');
  const { addMedia } = await import('../media');
  const { makeSessionDir, mediaPath } = await import('../config');
  await openDatabase();
  await createSession(newSession('Raw', 'RW', { ...FORMAT }), 'raw');
  makeSessionDir('raw');
  for (const [id, samples] of Object.entries(sounds)) {
    writeFileSync(mediaPath('raw', `${id}.wav`), wav(samples));
    await addMedia({
      id,
      session: 'raw',
      file: `${id}.wav`,
      kind: 'file',
      channels: 1,
      frames: FRAMES,
      sampleRate: 48_000,
    });
  }
  await edit('raw', 'start', [
    monoTrack('a', 'Voice'),
    monoTrack('b', 'Empty'),
    {
      ...{
        type: 'addTake',
        id: 't',
        track: 'a',
        start: 4_800,
        chains: [[]],
        recordedAt: '2026-03-02T09:00:00Z',
        recovered: false,
      },
      media: { ...mono('through', FRAMES, 'take'), name: 'through.wav' },
      dry: { ...mono('dry', FRAMES, 'dry'), name: 'dry.wav' },
    },
    { type: 'addStage', owner: { kind: 'track', id: 'a' }, id: 'l', stage: 'limiter' },
    { type: 'setTrack', track: 'a', level: -12 },
  ]);
}, 240_000);
afterAll(async () => {
  const { closeDatabase } = await import('../database');
  await closeDatabase();
  removeFolder();
  dirs.forEach((d) => rmSync(d, { recursive: true, force: true }));
});

const WISH = { tracks: ['a'], as: 'joined', sound: 'processed', takes: 'circled', handles: 0 };

async function unpacked(part: object): Promise<string> {
  const { makeRaw, rawArchive, readWish } = await import('.');
  const { token } = await makeRaw('raw', readWish({ ...WISH, ...part }));
  const { stream } = await rawArchive(token);
  const dir = mkdtempSync(path.join(tmpdir(), 'wide-room-raw-test-'));
  dirs.push(dir);
  await pipeline(stream, createWriteStream(path.join(dir, 'raw.zip')));
  // Fetched once, it is gone.
  await vi.waitFor(() => expect(rawArchive(token)).rejects.toThrow(/fetched already/));
  execFileSync('unzip', ['-q', 'raw.zip'], { cwd: dir });
  execFileSync('sha256sum', ['--check', '--quiet', 'SHA256SUMS'], { cwd: dir });
  return dir;
}
const wavs = (dir: string) => readdirSync(dir).filter((f) => f.endsWith('.wav'));
const fileIn = (dir: string, name: string) => new MemorySource(new Uint8Array(readFileSync(path.join(dir, name))));

describe('raw tracks', { timeout: 120_000 }, () => {
  it.each([
    ['processed', 'RW_Voice.wav', 'through'],
    ['dry', 'RW_Voice_DRY.wav', 'dry'],
  ] as const)('joined, %s: from the start of the session, through no chain and no level', async (sound, name, from) => {
    const dir = await unpacked({ tracks: ['a', 'b'], sound });
    expect(wavs(dir)).toEqual([name]);
    const [x] = await samplesOf(k, fileIn(dir, name));
    expect(x).toHaveLength(4_800 + FRAMES);
    expect(x!.subarray(0, 4_800).every((v) => v === 0)).toBe(true);
    const [own] = await samplesOf(k, new MemorySource(wav(sounds[from])));
    expect(firstDifference(x!.subarray(4_800), own!)).toBe(-1);
    const info = await parseAudio(fileIn(dir, name));
    expect(info.bext?.timeReference).toBe(36_000 * 48_000);
    expect(readFileSync(path.join(dir, 'takes.csv'), 'utf8')).toMatch(/Voice,1,,10:00:00:02,.*through\.wav,dry\.wav/);
  });
  it('clips with handles: as they lie in their recordings, with what there is around them', async () => {
    const { edit } = await import('../sessions');
    const [clip] = (await (await import('../sessions')).loadSession('raw')).doc.tracks[0]!.clips;
    // 0.05 s are cut off at its begin, 0.2 s at its end.
    await edit('raw', 'trim', [
      { type: 'trimClip', clip: clip!.id, start: 4_800 + 2_400, length: FRAMES - 2_400 - 9_600 },
      { type: 'shapeClip', clip: clip!.id, fadeIn: { frames: 480, curve: 'even' } },
    ]);
    const dir = await unpacked({ as: 'clips', handles: 0.1 });
    expect(wavs(dir)).toEqual(['RW_Voice_C001.wav']);
    const [x] = await samplesOf(k, fileIn(dir, 'RW_Voice_C001.wav'));
    const [own] = await samplesOf(k, new MemorySource(wav(sounds.through)));
    // All there is before it, a tenth of a second behind it, and no fade.
    expect(firstDifference(x!, own!.subarray(0, FRAMES - 9_600 + 4_800))).toBe(-1);
    expect((await parseAudio(fileIn(dir, 'RW_Voice_C001.wav'))).bext?.timeReference).toBe(36_000 * 48_000 + 4_800);
    const list = readFileSync(path.join(dir, 'clips.csv'), 'utf8');
    expect(list).toMatch(/RW_Voice_C001\.wav,Voice,.*,0\.150,0\.250,0\.050,0\.100/);
    // The same on paper, as another program reads it.
    const paper = execFileSync('pdftotext', ['-layout', path.join(dir, 'clips.pdf'), '-'], { encoding: 'utf8' });
    for (const words of ['Raw: Clips', 'RW_Voice_C001.wav', '0.250']) expect(paper).toContain(words);
    await edit('raw', 'back', [
      { type: 'trimClip', clip: clip!.id, start: 4_800, length: FRAMES },
      { type: 'shapeClip', clip: clip!.id, fadeIn: { frames: 0, curve: 'even' } },
    ]);
  });
  it('takes as they were recorded, only the circled ones unless all are asked', async () => {
    await expect(unpacked({ as: 'takes' })).rejects.toThrow(/no circled takes; there is nothing to hand over/);
    const dir = await unpacked({ as: 'takes', takes: 'all', sound: 'dry' });
    expect(wavs(dir)).toEqual(['RW_Voice_T01_DRY.wav']);
    expect(readFileSync(path.join(dir, 'RW_Voice_T01_DRY.wav'))).toEqual(Buffer.from(wav(sounds.dry)));
  });
  it.each([
    [{ tracks: ['none'] }, /no track "none"/],
    [{ tracks: ['b'] }, /no clips; there is nothing/],
    [{ tracks: [] }, /no track was chosen/],
    [{ tracks: 'a' }, /tracks must be an array/],
    [{ as: 'odd' }, /as must be one of/],
  ])('%o is refused with what is wrong', async (part, why) => {
    await expect(unpacked(part)).rejects.toThrow(why);
  });
  it('a file that is missing stops it', async () => {
    const { mediaPath } = await import('../config');
    rmSync(mediaPath('raw', 'dry.wav'));
    await expect(unpacked({ sound: 'dry' })).rejects.toThrow(/dry\.wav could not be read.*Nothing was handed over/);
    await expect(unpacked({ as: 'takes', takes: 'all', sound: 'dry' })).rejects.toThrow(
      /missing; nothing was handed over/,
    );
  });
});
