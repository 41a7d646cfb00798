// Takes on the server: one format, one writer, checksums, and a start that nothing can stop.
import { appendFileSync, readFileSync, rmSync, truncateSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { crc32 } from 'node:zlib';
import { eq } from 'drizzle-orm';
import { beforeEach, describe, expect, it } from 'vitest';
import { withDatabase } from '../../../tests/support/database';
import { FORMAT, monoTrack } from '../../../tests/support/session';
import { DATA_OFFSET, parseWav } from '@/core/files';
import { newSession, type EditJson } from '@/core/session';
import { MemorySource } from '../../../tests/support/memorySource';
import * as database from '../database';
import * as sessions from '../sessions';
import * as recordings from '.';

withDatabase();

let n = 0;
let session = '';
let id = '';
const editOf = (...edits: EditJson[]) => sessions.edit(session, `e${n++}`, edits);
beforeEach(async () => {
  session = await sessions.createSession(newSession('Test', 'TS', { ...FORMAT }));
  await editOf(monoTrack('narrator'));
  id = `take-${n++}-x`;
});
const doc = async () => (await sessions.openSession(session)).doc;
const fileAt = (name: string) => path.join(process.env.WIDE_ROOM_DATA!, 'sessions', session, 'media', name);
const headerOf = (name: string) => parseWav(new MemorySource(new Uint8Array(readFileSync(fileAt(name)))));
const begin = (more: object = {}) =>
  recordings.beginRecording(session, { id, track: 'narrator', start: 0, chains: [[]], ...more });
const bytes = (frames: number, seed = 1) =>
  Uint8Array.from({ length: frames * 3 }, (_, i) => (i * 31 + seed * 7) % 251);
const both = async (frames: number, offset = 0, seed = 1) => {
  for (const part of ['processed', 'dry']) await recordings.writeChunk(id, part, offset * 3, bytes(frames, seed));
};
const states = async () => {
  const r = database.tables.recordings;
  const [row] = await (await database.db()).select().from(r).where(eq(r.id, id));
  return { state: row!.state, reason: row!.reason };
};

describe('a take keeps its format from its beginning', () => {
  it.each([
    [{ wordLength: 16 }],
    [{ fileKind: 'AIFF' }],
    [{ perChannel: true }],
    [{ sampleRate: 96000 }],
    [{ startTimecode: '00:00:00:00' }],
    [{ frameRate: '24' }],
  ] as const)('while it rolls %j is refused with the reason, and afterwards it is not', async (change) => {
    await begin();
    await both(100);
    await expect(editOf({ type: 'setFormat', ...change })).rejects.toThrow(/TS_narrator_T01.wav is being recorded/);
    // Another layout of the mix changes nothing in the file.
    await editOf({ type: 'setFormat', layout: 'stereo' });
    await both(100, 100);
    await recordings.finishRecording(id, { frames: 200 });
    expect(await headerOf('TS_narrator_T01.wav')).toMatchObject({ frames: 200, sampleRate: 48000, format: 24 });
    if ('sampleRate' in change) return;
    await editOf({ type: 'setFormat', ...change });
  });
  it('also where an undo or a version would change it', async () => {
    await editOf({ type: 'setFormat', wordLength: 16 });
    await begin({ format: { sampleRate: 48000, wordLength: 16 } });
    await expect(sessions.travel(session, 'undo')).rejects.toThrow(/format stays/);
    await expect(
      sessions.replaceDoc(session, 'x', (now) => ({ ...now, format: { ...now.format, wordLength: 24 } })),
    ).rejects.toThrow(/format stays/);
  });
  it('a take that waited in a browser comes in its own bits, whatever the session has by then', async () => {
    await editOf({ type: 'setFormat', wordLength: 16 });
    await begin({ block: 3, format: { sampleRate: 48000, wordLength: 24 } });
    await both(300);
    await recordings.finishRecording(id, { frames: 300 });
    expect(await headerOf('TS_narrator_T01.wav')).toMatchObject({ frames: 300, format: 24 });
  });
  it('one of another rate is kept as a file and set aside with the reason', async () => {
    await begin({ format: { sampleRate: 44100, wordLength: 24 } }).catch((error: Error) =>
      expect(error.message).toMatch(/44100/),
    );
    await begin();
    await both(50);
    const r = database.tables.recordings;
    const [row] = await (await database.db()).select().from(r).where(eq(r.id, id));
    await (
      await database.db()
    )
      .update(r)
      .set({ format: { ...row!.format!, sampleRate: 44100 } })
      .where(eq(r.id, id));
    await recordings.recoverRecordings();
    expect(await recordings.recordingsAside(session)).toMatchObject([
      { file: 'TS_narrator_T01.wav', reason: expect.stringMatching(/44100 Hz.*bring it in/) },
    ]);
  });
});

describe('samples', () => {
  it('that come again as others are refused, and what was kept first stays', async () => {
    await begin();
    await both(100);
    await both(100);
    await expect(recordings.writeChunk(id, 'dry', 30, bytes(50, 2))).rejects.toMatchObject({ status: 422 });
    await expect(recordings.writeChunk(id, 'dry', 30, bytes(50, 2))).rejects.toThrow(
      /differ from those that are kept from byte 30/,
    );
    expect(readFileSync(fileAt('TS_narrator_T01_dry.wav')).subarray(DATA_OFFSET)).toEqual(Buffer.from(bytes(100)));
  });
  it('altered on their way are not kept', async () => {
    await begin();
    const good = bytes(100);
    await expect(recordings.writeChunk(id, 'dry', 0, good, crc32(good) ^ 1)).rejects.toThrow(/altered on its way/);
    expect(await recordings.writeChunk(id, 'dry', 0, good, crc32(good))).toEqual({ received: 300 });
  });
  it('by many writers at once leave a header as long as the take', async () => {
    await begin();
    const sizes = Array.from({ length: 40 }, (_, i) => i);
    // Each sends what the others may have sent already, as after answers that did not come.
    await Promise.all(
      sizes.map(async (i) => {
        for (let at = 0; at <= i; at++)
          await recordings
            .writeChunk(id, 'dry', at * 30, bytes(10, at))
            .catch((e: { status?: number }) => expect(e.status).toBe(409));
      }),
    );
    expect((await headerOf('TS_narrator_T01_dry.wav')).frames).toBe(400);
  });
  it('fewer than are there do not end a take', async () => {
    await begin();
    await both(100);
    await expect(recordings.finishRecording(id, { frames: 60 })).rejects.toThrow(
      /100 frames .* are there, more than the 60/,
    );
    await recordings.finishRecording(id, { frames: 100 });
    expect((await doc()).tracks[0]!.takes[0]!.length).toBe(100);
    expect((await headerOf('TS_narrator_T01.wav')).frames).toBe(100);
  });
  it('that a power cut replaced are asked for once more, and then they are right', async () => {
    await begin();
    await both(1000);
    // Of the right length, with other bytes in the middle.
    const file = fileAt('TS_narrator_T01.wav');
    const broken = readFileSync(file);
    broken.fill(0, DATA_OFFSET + 300, DATA_OFFSET + 900);
    writeFileSync(file, broken);
    const sums = { processed: crc32(bytes(1000)), dry: crc32(bytes(1000)) };
    await expect(recordings.finishRecording(id, { frames: 1000, sums })).rejects.toMatchObject({
      status: 409,
      facts: { expected: 0 },
    });
    await both(1000);
    expect((await recordings.finishRecording(id, { frames: 1000, sums })).faults).toEqual([]);
    expect(readFileSync(file).subarray(DATA_OFFSET)).toEqual(Buffer.from(bytes(1000)));
  });
  it('that differ for good are entered, and the take says so', async () => {
    await begin();
    await both(100);
    const sums = { processed: 1, dry: crc32(bytes(100)) };
    const done = await recordings.finishRecording(id, { frames: 100, sums, last: true });
    expect(done.faults).toEqual([expect.stringMatching(/processed.*checksum differs/)]);
    expect((await doc()).tracks[0]!.takes[0]!.faults).toEqual(done.faults);
  });
  it('cut off between sound and header are recovered as far as the sound goes', async () => {
    await begin();
    await both(200);
    // Killed before the header told of the second half.
    for (const name of ['TS_narrator_T01.wav', 'TS_narrator_T01_dry.wav']) appendFileSync(fileAt(name), bytes(200, 3));
    expect((await headerOf('TS_narrator_T01.wav')).frames).toBe(200);
    await recordings.recoverRecordings();
    expect((await headerOf('TS_narrator_T01.wav')).frames).toBe(400);
    expect((await headerOf('TS_narrator_T01_dry.wav')).frames).toBe(400);
    expect((await doc()).tracks[0]!.takes[0]).toMatchObject({ length: 400, recovered: true });
  });
});

describe('what is known of a take', () => {
  it('stands on it and in its files: gaps, changes of its chain', async () => {
    await begin();
    await both(48_000);
    const limiter = { id: 'l', type: 'limiter', on: true, values: { ceiling: -3 } };
    await recordings.finishRecording(id, {
      frames: 48_000,
      facts: { gaps: [{ at: 12_000, frames: 4_800 }], chainChanges: [{ at: 24_000, chains: [[limiter]] }] },
    });
    expect((await doc()).tracks[0]!.takes[0]).toMatchObject({
      gaps: [{ at: 12_000, frames: 4_800 }],
      chainChanges: [{ at: 24_000, chains: [[limiter]] }],
    });
    const { ixml } = await headerOf('TS_narrator_T01.wav');
    expect(ixml?.note).toMatch(/Sound missing: 0.10 s at 0.25 s/);
  });
});

describe('at a start', () => {
  const row = () => ({
    id,
    session,
    track: 'narrator',
    take: 1,
    start: 0,
    channels: 1,
    state: 'rolling' as const,
    file: 'TS_narrator_T01.wav',
    dryFile: 'TS_narrator_T01_dry.wav',
    chains: [[]],
    lineNames: [],
  });
  it('what cannot be entered is refused when it comes', async () => {
    await expect(begin({ purpose: { cue: 'a b' } })).rejects.toThrow(/cue must be an id/);
    await expect(begin({ chains: [[{ id: 'x', type: 'magic', on: true, values: {} }]] })).rejects.toThrow(
      /no stage "magic"/,
    );
    await expect(begin({ start: 0.5 })).rejects.toThrow(/integer/);
    await expect(begin({ track: '__proto__' })).rejects.toThrow();
    await expect(begin({ block: 4 })).rejects.toThrow(/3 bytes, not 4/);
  });
  it('one bad recording of an earlier release is set aside with its reason, and the others are entered', async () => {
    const good = id;
    await begin();
    await both(100);
    id = `bad-${n++}-x`;
    await (
      await database.db()
    )
      .insert(database.tables.recordings)
      .values({ ...row(), file: 'TS_bad_T02.wav', dryFile: 'TS_bad_T02_dry.wav', purpose: { cue: 'a b' } });
    for (const name of ['TS_bad_T02.wav', 'TS_bad_T02_dry.wav'])
      writeFileSync(fileAt(name), new Uint8Array(DATA_OFFSET + 300));
    await recordings.recoverRecordings();
    expect(await states()).toMatchObject({ state: 'aside', reason: expect.stringMatching(/cue must be an id/) });
    expect(readFileSync(fileAt('TS_bad_T02.wav')).length).toBe(DATA_OFFSET + 300);
    expect((await doc()).tracks[0]!.takes.map((t) => t.id)).toEqual([good]);
    expect(await recordings.recordingsAside(session)).toHaveLength(1);
    // The next start goes by it.
    await recordings.recoverRecordings();
  });
  it('files that are gone leave an empty take behind and stop nothing', async () => {
    await begin();
    await both(10);
    for (const name of ['TS_narrator_T01.wav', 'TS_narrator_T01_dry.wav']) rmSync(fileAt(name));
    await recordings.recoverRecordings();
    expect(await states()).toMatchObject({ state: 'empty' });
  });
  it('a header that was torn off stops nothing', async () => {
    await begin();
    await both(10);
    truncateSync(fileAt('TS_narrator_T01.wav'), 20);
    await recordings.recoverRecordings();
    expect(await states()).toMatchObject({ state: 'empty' });
  });
});

describe('positions', () => {
  // 23:59:00 at 96 kHz needs 33 bits.
  it.each([
    ['48 kHz', 86_340 * 48_000],
    ['96 kHz', 86_340 * 96_000],
  ])('of a session at time of day are kept at %s', async (_, start) => {
    await begin({ start });
    await both(100);
    await recordings.finishRecording(id, { frames: 100 });
    const [track] = (await doc()).tracks;
    expect([track!.takes[0]!.start, track!.clips[0]!.start]).toEqual([start, start]);
    expect((await headerOf('TS_narrator_T01.wav')).bext?.timeReference).toBe(36_000 * 48_000 + start);
  });
});

describe('the track that a take comes onto', () => {
  it('stays while it rolls: neither removed nor made wider, also not by an undo', async () => {
    await begin();
    await both(100);
    for (const gone of [
      { type: 'removeTrack', track: 'narrator' },
      { type: 'setTrack', track: 'narrator', layout: 'stereo' },
    ] as EditJson[])
      await expect(editOf(gone)).rejects.toThrow(/A take is being recorded on .+ so the track stays/);
    await expect(sessions.travel(session, 'undo')).rejects.toThrow(/so the track stays/);
    await editOf({ type: 'setTrack', track: 'narrator', level: -3 });
    await recordings.finishRecording(id, { frames: 100 });
    expect((await doc()).tracks[0]!.takes).toHaveLength(1);
    await editOf({ type: 'removeTrack', track: 'narrator' });
  });
  it('is missed where it went all the same: the take is set aside with its file, and that is told', async () => {
    await begin();
    await both(100);
    // As an earlier release left it.
    const { sessions: s } = database.tables;
    const whole = await doc();
    await (
      await database.db()
    )
      .update(s)
      .set({ doc: { ...whole, tracks: [] } })
      .where(eq(s.id, session));
    sessions.forget(session);
    await expect(recordings.finishRecording(id, { frames: 100 })).rejects.toThrow(/was removed meanwhile/);
    expect(await states()).toMatchObject({ state: 'aside', reason: expect.stringContaining('is kept') as string });
    expect((await recordings.recordingsAside(session)).map((r) => r.id)).toEqual([id]);
    expect((await headerOf('TS_narrator_T01.wav')).frames).toBe(100);
  });
  it('takes what is begun at once, each under a number of its own', async () => {
    const ids = Array.from({ length: 20 }, (_, i) => `many-${n}-${i}`);
    const begun = await Promise.all(
      ids.map((one) => recordings.beginRecording(session, { id: one, track: 'narrator', start: 0, chains: [[]] })),
    );
    expect(new Set(begun.map((b) => b.file)).size).toBe(20);
    const same = await Promise.all(ids.map(() => begin()));
    expect(new Set(same.map((b) => b.file)).size).toBe(1);
  });
});
