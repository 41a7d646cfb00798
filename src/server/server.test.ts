// The server's parts on a real database in a folder of its own.
import { readFileSync, readdirSync, existsSync, statSync, rmSync, truncateSync } from 'node:fs';
import path from 'node:path';
import { describe, expect, it } from 'vitest';
import { withDatabase } from '../../tests/support/database';
import { eventually } from '../../tests/support/eventually';
import { newKernels, noise, put, sine } from '../../tests/support/kernels';
import { DATA_OFFSET, FrameCodec, parseWav, wavHeader } from '@/core/files';
import { newSession, type EditJson, type SessionDoc } from '@/core/session';
import { MemorySource } from '../../tests/support/memorySource';
import * as sessions from './sessions';
import * as media from './media';
import * as recordings from './recordings';

withDatabase();
const k = newKernels();
const FORMAT = {
  sampleRate: 48000,
  wordLength: 24,
  fileKind: 'Broadcast WAV',
  frameRate: '25',
  startTimecode: '10:00:00:00',
  layout: '5.1',
} as const;

let count = 0;
const track = (id: string): EditJson => ({ type: 'addTrack', id, name: id, layout: 'mono', destination: 'nar' });
async function session(...edits: EditJson[]): Promise<string> {
  const id = await sessions.createSession(newSession('Test', 'TS', { ...FORMAT }));
  if (edits.length) await sessions.edit(id, `start-${count++}`, edits);
  return id;
}
const docOf = async (id: string): Promise<SessionDoc> => (await sessions.openSession(id)).doc;
const mediaDir = (id: string) => path.join(process.env.WIDE_ROOM_DATA!, 'sessions', id, 'media');

/** A 24-bit mono file as bytes. */
function wav(samples: Float32Array, rate = 48000): Uint8Array<ArrayBuffer> {
  const set = put(k, [samples]);
  const codec = new FrameCodec(k, 24, 1, samples.length);
  const { bytes } = codec.encode(set.table, samples.length);
  const out = new Uint8Array(DATA_OFFSET + bytes.length);
  out.set(wavHeader({ format: 24, channels: 1, sampleRate: rate, frames: samples.length, mask: 4 }));
  out.set(bytes, DATA_OFFSET);
  return out;
}
const stream = (bytes: Uint8Array<ArrayBuffer>) => new Blob([bytes]).stream() as ReadableStream<Uint8Array>;

describe('sessions', () => {
  it('store edits in order, and the same edit once', async () => {
    const id = await session();
    expect(await sessions.edit(id, 'a', [track('one')])).toMatchObject({ revision: 1 });
    expect(await sessions.edit(id, 'b', [track('two')])).toMatchObject({ revision: 2 });
    expect(await sessions.edit(id, 'a', [track('one')])).toMatchObject({ revision: 1 });
    expect((await docOf(id)).tracks.map((t) => t.id)).toEqual(['one', 'two']);
    expect((await sessions.changesSince(id, 1)).map((c) => c.editId)).toEqual(['b']);
  });
  it('apply a list of edits whole or not at all', async () => {
    const id = await session(track('one'));
    await expect(sessions.edit(id, 'x', [track('two'), track('one')])).rejects.toThrow(/already/);
    expect((await docOf(id)).tracks.map((t) => t.id)).toEqual(['one']);
  });
  it('keep order when many edits arrive at once', async () => {
    const id = await session();
    await Promise.all(Array.from({ length: 20 }, (_, i) => sessions.edit(id, `e${i}`, [track(`t${i}`)])));
    const open = await sessions.openSession(id);
    expect(open.revision).toBe(20);
    expect(open.doc.tracks.map((t) => t.id)).toEqual(Array.from({ length: 20 }, (_, i) => `t${i}`));
  });
  it('undo and redo; what belongs to a seat is not the session’s', async () => {
    const id = await session(track('one'));
    const before = await docOf(id);
    await sessions.edit(id, 'level', [{ type: 'setTrack', track: 'one', level: -6 }]);
    await expect(sessions.edit(id, 'dim', [{ type: 'setMonitor', dimmed: true }])).rejects.toThrow(/belongs to a seat/);
    expect((await sessions.openSession(id)).undo).toBe('set track level');
    await sessions.travel(id, 'undo');
    expect((await docOf(id)).tracks).toEqual(before.tracks);
    expect((await sessions.openSession(id)).redo).toBe('set track level');
    await sessions.travel(id, 'redo');
    expect((await docOf(id)).tracks[0]!.level).toBe(-6);
    await sessions.travel(id, 'undo');
    await sessions.edit(id, 'new', [track('two')]);
    await expect(sessions.travel(id, 'redo')).rejects.toThrow(/nothing to redo/);
  });
  it('undo everything there is, back to the beginning', async () => {
    const id = await session();
    for (let i = 0; i < 6; i++) await sessions.edit(id, `u${i}`, [track(`t${i}`)]);
    for (let i = 0; i < 6; i++) await sessions.travel(id, 'undo');
    expect((await docOf(id)).tracks).toEqual([]);
    await expect(sessions.travel(id, 'undo')).rejects.toThrow(/nothing left to undo/);
    for (let i = 0; i < 6; i++) await sessions.travel(id, 'redo');
    expect((await docOf(id)).tracks).toHaveLength(6);
  });
  it('tell their listeners of every change', async () => {
    const id = await session();
    const heard: number[] = [];
    const stop = sessions.subscribe(id, (e) => e.kind === 'change' && heard.push(e.change.revision));
    await sessions.edit(id, 'a', [track('one')]);
    stop();
    await sessions.edit(id, 'b', [track('two')]);
    expect(heard).toEqual([1]);
  });
  it('that do not exist are named', async () => {
    await expect(sessions.openSession('nothing')).rejects.toMatchObject({ status: 404 });
  });
});

describe('media', () => {
  const samples = noise(10_000, 0.5, 4);
  it('are taken in under a free name, with their facts', async () => {
    const id = await session();
    const first = await media.importFile(id, 'Whistle.wav', stream(wav(samples)), FORMAT);
    const second = await media.importFile(id, 'Whistle.wav', stream(wav(samples)), FORMAT);
    expect([first.media.name, second.media.name]).toEqual(['Whistle.wav', 'Whistle-2.wav']);
    expect(first.media).toMatchObject({ channels: 1, frames: 10_000, sampleRate: 48000, kind: 'file' });
    expect((await media.mediaOf(id)).map((m) => m.file).sort()).toEqual(['Whistle-2.wav', 'Whistle.wav']);
  });
  it('that come at once under one name each keep their own sound', { timeout: 300_000 }, async () => {
    const id = await session();
    const sounds = Array.from({ length: 30 }, (_, i) => noise(2_000, 0.5, 100 + i));
    // Every other one is converted on its way.
    const taken = await Promise.all(
      sounds.map((s, i) => media.importFile(id, 'Wind.wav', stream(wav(s, i % 2 ? 44_100 : 48_000)), FORMAT)),
    );
    expect(new Set(taken.map((t) => t.media.name)).size).toBe(30);
    for (const [i, { media: m }] of taken.entries()) {
      if (i % 2) continue;
      expect(Buffer.compare(readFileSync(path.join(mediaDir(id), m.name)), wav(sounds[i]!))).toBe(0);
    }
    expect(readdirSync(mediaDir(id)).filter((f) => f.endsWith('.part') || f.startsWith('.'))).toEqual([]);
  });
  it('with a name that is too long for a disk are taken in under a shorter one', async () => {
    const id = await session();
    const { media: m } = await media.importFile(id, `${'Wind'.repeat(100)}.wav`, stream(wav(noise(100, 0.5))), FORMAT);
    expect(m.name.length).toBeLessThan(220);
  });
  it.each([
    ['without samples', () => wav(new Float32Array(0)), /holds no samples/],
    [
      'that are none',
      () => new TextEncoder().encode('Dear engineer'),
      /no sound that could be read|no WAV, AIFF or FLAC/,
    ],
  ])('%s are refused and leave nothing behind', async (_, make, message) => {
    const id = await session();
    await expect(media.importFile(id, 'x.wav', stream(make()), FORMAT)).rejects.toThrow(message);
    expect(readdirSync(mediaDir(id))).toEqual([]);
  });
  it('of another rate are converted, and say so', async () => {
    const id = await session();
    const tone = sine(44_100, 44_100, 1000, 0.5);
    const { media: ref, notes } = await media.importFile(id, 'Old.wav', stream(wav(tone, 44_100)), FORMAT);
    expect(notes).toEqual([
      'Converted from 44100 to 48000 Hz (pass band to 95 %, alias and distortion below -125 dB).',
    ]);
    expect(ref).toMatchObject({ frames: 48_000, sampleRate: 48_000 });
    const got = new Float32Array(
      (await media.readBlocks([{ media: ref.id, from: 1000, frames: 40_000 }], () => 1)).buffer,
    );
    const wanted = sine(48_000, 48_000, 1000, 0.5);
    for (let i = 0; i < got.length; i++) expect(Math.abs(got[i]! - wanted[1000 + i]!)).toBeLessThan(1e-4);
    expect(readdirSync(mediaDir(id)).filter((f) => !f.endsWith('.peaks'))).toEqual(['Old.wav']);
  });
  it('of other bits are taken in as they are, and it is said', async () => {
    const id = await session();
    const { notes } = await media.importFile(id, 'Fine.wav', stream(wav(samples)), { ...FORMAT, wordLength: 32 });
    expect(notes).toEqual(['24 bit where the session has 32; nothing is lost.']);
    expect((await media.importFile(id, 'Fine.wav', stream(wav(samples)), FORMAT)).notes).toEqual([]);
  });
  it('by the hundred keep their samples and their names apart', { timeout: 300_000 }, async () => {
    const id = await session();
    const refs = [];
    // All under one name; every fifth is at another rate.
    for (let i = 0; i < 150; i++) {
      const rate = i % 5 ? 48_000 : [44_100, 96_000][i % 2]!;
      const body = stream(wav(sine(rate / 10, rate, 440, 0.1 + i / 1000), rate));
      refs.push((await media.importFile(id, 'Line.wav', body, FORMAT)).media);
    }
    expect(new Set(refs.map((r) => r.name)).size).toBe(150);
    expect(new Set(refs.map((r) => r.frames))).toEqual(new Set([4_800]));
    for (const i of [0, 1, 2, 148, 149]) {
      const bytes = await media.readBlocks([{ media: refs[i]!.id, from: 2_000, frames: 440 }], () => 1);
      const peak = new Float32Array(bytes.buffer).reduce((m, v) => Math.max(m, Math.abs(v)), 0);
      expect(peak).toBeCloseTo(0.1 + i / 1000, 3);
    }
  });
  it.each([
    [2_000, 1_000, 3_000],
    [9_000, 500, 4_000],
    [0, 10_000, 10_000],
  ])('become a file of its own for a clip: from %i, %i long, asked %i', async (offset, length, frames) => {
    const id = await session(track('a'));
    const { media: ref } = await media.importFile(id, 'Long.wav', stream(wav(samples)), FORMAT);
    await sessions.edit(id, 'own', [
      { type: 'addClip', id: 'c', track: 'a', start: 50_000, media: ref },
      { type: 'trimClip', clip: 'c', start: 50_000 + offset, length },
      { type: 'shapeClip', clip: 'c', name: 'Breath 1' },
    ]);
    const own = await media.ownFile(id, await docOf(id), 'c', frames);
    expect(own).toMatchObject({
      frames,
      channels: 1,
      name: expect.stringMatching(/^TS_Breath-1_.{4}\.wav$/) as string,
    });
    const read = new Float32Array((await media.readBlocks([{ media: own.id, from: 0, frames }], () => 1)).buffer);
    const there = samples.subarray(offset, offset + frames);
    for (let i = 0; i < frames; i++) expect(read[i]).toBeCloseTo(there[i] ?? 0, 6);
    await sessions.edit(id, 'give', [{ type: 'giveClipFile', clip: 'c', media: own }]);
    expect((await docOf(id)).tracks[0]!.clips).toMatchObject([
      { id: 'c', media: own.id, start: 50_000 + offset, offset: 0, length: frames },
    ]);
    await sessions.travel(id, 'undo');
    expect((await docOf(id)).tracks[0]!.clips[0]).toMatchObject({ media: ref.id, offset, length });
  });
  it('cut short are taken in as far as they go', async () => {
    const id = await session();
    const whole = wav(samples);
    const { media: ref, notes } = await media.importFile(
      id,
      'Torn.wav',
      stream(whole.slice(0, whole.length - 3000)),
      FORMAT,
    );
    expect(ref.frames).toBe(9000);
    expect(notes[0]).toMatch(/3000 bytes early/);
  });
  it('are read in pieces, silent beyond their end', async () => {
    const id = await session();
    const { media: ref } = await media.importFile(id, 'a.wav', stream(wav(samples)), FORMAT);
    const bytes = await media.readBlocks(
      [
        { media: ref.id, from: 100, frames: 50 },
        { media: ref.id, from: 9_990, frames: 20 },
      ],
      () => 1,
    );
    const floats = new Float32Array(bytes.buffer);
    expect(floats.length).toBe(70);
    for (let i = 0; i < 50; i++) expect(floats[i]).toBeCloseTo(samples[100 + i]!, 6);
    expect(Array.from(floats.subarray(60))).toEqual(Array<number>(10).fill(0));
    expect(() => media.readBlocks([{ media: ref.id, from: 0, frames: 1e9 }], () => 1)).toThrow(/at most/);
  });
  it('have peaks that are kept, and made anew when the file has grown', async () => {
    const id = await session();
    const { media: ref } = await media.importFile(id, 'p.wav', stream(wav(samples)), FORMAT);
    const file = path.join(mediaDir(id), ref.name);
    const make = (from: string) => media.makePeaks(k, from);
    const peaks = new Int16Array((await media.peaksOf(file, 0, make)).buffer);
    expect(peaks.length).toBe(Math.ceil(10_000 / 256) * 2);
    expect(peaks[1]! / 32767).toBeCloseTo(
      samples.subarray(0, 256).reduce((m, v) => Math.max(m, v), 0),
      3,
    );
    expect(existsSync(`${file}.peaks`)).toBe(true);
    expect(new Int16Array((await media.peaksOf(file, 0, make)).buffer)).toEqual(peaks);
    const coarse = new Int16Array((await media.peaksOf(file, 1, make)).buffer);
    expect(coarse.length).toBe(Math.ceil(10_000 / 4096) * 2);
    expect(coarse[1]).toBe(Math.max(...peaks.filter((_, i) => i % 2 && i < 32)));
  });
});

describe('recordings', () => {
  const begin = (id: string, rid: string, on = 'narrator') =>
    recordings.beginRecording(id, { id: rid, track: on, start: 48_000, chains: [[]] });
  const chunk = (frames: number, value = 7) => new Uint8Array(frames * 3).fill(value);
  const fileOf = async (id: string, name: string) =>
    parseWav(new MemorySource(new Uint8Array(readFileSync(path.join(mediaDir(id), name)))));

  it('are files that open anywhere from the first chunk on', async () => {
    const id = await session(track('narrator'));
    const { take, file } = await begin(id, 'open-1');
    expect([take, file]).toEqual([1, 'TS_narrator_T01.wav']);
    expect((await fileOf(id, file)).frames).toBe(0);
    await recordings.writeChunk('open-1', 'processed', 0, chunk(480));
    expect(await fileOf(id, file)).toMatchObject({
      frames: 480,
      sampleRate: 48000,
      bext: { timeReference: 36_001 * 48000, originator: 'Wide Room' },
    });
    expect((await fileOf(id, file)).ixml?.take).toBe('1');
  });
  it('end as a take on the track, with the dry copy; undo leaves the files', async () => {
    const id = await session(track('narrator'));
    await begin(id, 'end-1');
    for (const part of ['processed', 'dry']) await recordings.writeChunk('end-1', part, 0, chunk(960));
    await recordings.finishRecording('end-1', { frames: 960 });
    expect((await recordings.finishRecording('end-1', { frames: 960 })).state).toBe('finished');
    const [t] = (await docOf(id)).tracks;
    expect(t!.takes).toMatchObject([{ number: 1, start: 48_000, length: 960, recovered: false }]);
    expect(t!.clips).toHaveLength(1);
    await sessions.travel(id, 'undo');
    expect((await docOf(id)).tracks[0]!.takes).toEqual([]);
    expect(readdirSync(mediaDir(id)).sort()).toEqual(['TS_narrator_T01.wav', 'TS_narrator_T01_dry.wav']);
    expect((await begin(id, 'end-2')).take).toBe(2);
  });
  it('never share a file between two tracks of one name', async () => {
    const id = await session(
      track('a'),
      track('b'),
      { type: 'setTrack', track: 'a', name: 'Voice' },
      { type: 'setTrack', track: 'b', name: 'Voice' },
    );
    const files = [(await begin(id, 'same-a', 'a')).file, (await begin(id, 'same-b', 'b')).file];
    expect(files).toEqual(['TS_Voice_T01.wav', 'TS_Voice_b_T01.wav']);
  });
  it('accept repeats, refuse gaps and half frames, and say where to go on', async () => {
    const id = await session(track('narrator'));
    await begin(id, 'gap-1');
    expect(await recordings.writeChunk('gap-1', 'processed', 0, chunk(100))).toEqual({ received: 300 });
    expect(await recordings.writeChunk('gap-1', 'processed', 150, chunk(100))).toEqual({ received: 450 });
    expect(await recordings.writeChunk('gap-1', 'processed', 0, chunk(10))).toEqual({ received: 450 });
    await expect(recordings.writeChunk('gap-1', 'processed', 900, chunk(10))).rejects.toMatchObject({
      status: 409,
      facts: { expected: 450 },
    });
    await expect(recordings.writeChunk('gap-1', 'processed', 1, chunk(10))).rejects.toMatchObject({ status: 422 });
    await expect(recordings.writeChunk('gap-1', 'processed', 450, new Uint8Array(4))).rejects.toMatchObject({
      status: 422,
    });
    await expect(recordings.finishRecording('gap-1', { frames: 150 })).rejects.toMatchObject({
      status: 409,
      facts: { part: 'dry' },
    });
  });
  it('beyond four gigabytes are RF64, from the chunk that passes it on', async () => {
    const id = await session(track('narrator'));
    const { file } = await begin(id, 'long-1');
    // Six hours were recorded before: a file with a hole, so that the disk is spared.
    const before = 1_431_650_000;
    for (const name of [file, file.replace('.wav', '_dry.wav')])
      truncateSync(path.join(mediaDir(id), name), DATA_OFFSET + before * 3);
    const state = async () => {
      const source = await media.FileSource.open(path.join(mediaDir(id), file));
      return parseWav(source).finally(() => source.close());
    };
    for (const [frames, kind] of [
      [2_000, 'RIFF'],
      [10_000, 'RF64'],
    ] as const) {
      const have = (await recordings.recordingFacts('long-1')).received.processed;
      for (const part of ['processed', 'dry']) await recordings.writeChunk('long-1', part, have, chunk(frames));
      expect((await state()).kind).toBe(kind);
    }
    await recordings.finishRecording('long-1', { frames: before + 12_000 });
    expect(await state()).toMatchObject({ kind: 'RF64', frames: before + 12_000, notes: [] });
    expect((await docOf(id)).tracks[0]!.takes).toMatchObject([{ length: before + 12_000 }]);
    const end = await media.readBlocks([{ media: 'long-1-processed', from: before + 11_000, frames: 1_000 }], () => 1);
    expect(new Float32Array(end.buffer)[999]).not.toBe(0);
    for (const name of readdirSync(mediaDir(id))) rmSync(path.join(mediaDir(id), name));
  });
  it('whose last chunk a full disk took in part go on from the last whole frame', async () => {
    const id = await session(track('narrator'));
    const { file } = await begin(id, 'part-1');
    await recordings.writeChunk('part-1', 'processed', 0, chunk(100));
    truncateSync(path.join(mediaDir(id), file), DATA_OFFSET + 300 + 4);
    const { received } = await recordings.recordingFacts('part-1');
    expect(received.processed).toBe(303);
    expect(await recordings.writeChunk('part-1', 'processed', 303, chunk(100))).toEqual({ received: 603 });
  });
  it('that were cut off are entered at the next start as far as they came, and grow later', async () => {
    const id = await session(track('narrator'));
    await begin(id, 'cut-1');
    await recordings.writeChunk('cut-1', 'processed', 0, chunk(500));
    await recordings.writeChunk('cut-1', 'dry', 0, chunk(400));
    await recordings.recoverRecordings();
    const take = async () => (await docOf(id)).tracks[0]!.takes[0]!;
    expect(await take()).toMatchObject({ length: 400, recovered: true });
    await recordings.recoverRecordings();
    expect((await docOf(id)).tracks[0]!.takes).toHaveLength(1);
    await recordings.writeChunk('cut-1', 'processed', 1500, chunk(100));
    await recordings.writeChunk('cut-1', 'dry', 1200, chunk(200));
    await recordings.finishRecording('cut-1', { frames: 600 });
    expect((await take()).length).toBe(600);
    expect((await docOf(id)).tracks[0]!.clips[0]!.length).toBe(600);
  });
  it.each([
    [{ fileKind: 'AIFF' }, ['TS_surf_T01.aif', 'TS_surf_T01_dry.aif'], 'TS_surf_T01.aif'],
    [
      { perChannel: true },
      ['TS_surf_T01_L.wav', 'TS_surf_T01_R.wav', 'TS_surf_T01_dry_L.wav', 'TS_surf_T01_dry_R.wav'],
      'TS_surf_T01_{L,R}.wav',
    ],
  ] as const)('end in the form of the session: %j', async (form, files, name) => {
    const id = await session(
      { type: 'setFormat', ...form },
      {
        type: 'addTrack',
        id: 'surf',
        name: 'surf',
        layout: 'stereo',
        destination: 'nar',
      },
    );
    const rid = `form-${name.length}`;
    await begin(id, rid, 'surf');
    const bytes = Uint8Array.from({ length: 960 * 6 }, (_, i) => (i * 37) % 251);
    for (const part of ['processed', 'dry']) await recordings.writeChunk(rid, part, 0, bytes);
    // Asked twice at once, as a client does that got no answer in time.
    await Promise.all([
      recordings.finishRecording(rid, { frames: 960 }),
      recordings.finishRecording(rid, { frames: 960 }),
    ]);
    expect(readdirSync(mediaDir(id)).sort()).toEqual(files);
    const [take] = (await docOf(id)).tracks[0]!.takes;
    expect((await docOf(id)).media[take!.media]!.name).toBe(name);
    expect(take!.number).toBe(1);
    expect((await recordings.recordingFacts(rid)).received).toEqual({ processed: 960 * 6, dry: 960 * 6 });
    const there = new Float32Array(
      (await media.readBlocks([{ media: take!.media, from: 0, frames: 960 }], () => 2)).buffer,
    );
    const codec = new FrameCodec(k, 24, 2, 960);
    codec.decode(bytes);
    expect([...there]).toEqual([...codec.planar.view(0, 960), ...codec.planar.view(1, 960)]);
    // The next take does not run into it.
    expect((await begin(id, `${rid}-next`, 'surf')).take).toBe(2);
    const sizes = await media.sessionFiles(id);
    expect(sizes.bytes[take!.media]).toBe(
      files.filter((f) => !f.includes('dry')).reduce((n, f) => n + statSync(path.join(mediaDir(id), f)).size, 0),
    );
    const whole = await media.mediaFile(take!.media);
    expect((await new Response(whole.body).arrayBuffer()).byteLength).toBe(whole.size);
  });
  it('say in their header what the session says of the take: cue, circled, note', async () => {
    const stop = recordings.followTakes();
    const id = await session(track('narrator'), {
      type: 'addCues',
      cues: [{ id: 'q', number: '17', start: 0, end: 48_000, character: 'Pilot', text: 'Hold her there.' }],
    });
    await recordings.beginRecording(id, {
      id: 'noted',
      track: 'narrator',
      start: 0,
      chains: [[]],
      purpose: { cue: 'q' },
    });
    for (const part of ['processed', 'dry']) await recordings.writeChunk('noted', part, 0, chunk(960));
    await recordings.finishRecording('noted', { frames: 960 });
    const says = async () => (await fileOf(id, 'TS_narrator_T01.wav')).ixml;
    expect(await says()).toMatchObject({ scene: '17', take: '1' });
    await sessions.edit(id, 'note', [
      { type: 'setTake', track: 'narrator', take: 'noted', circled: true },
      { type: 'setTake', track: 'narrator', take: 'noted', note: 'the calm one' },
    ]);
    await eventually(async () => expect(await says()).toMatchObject({ circled: true, note: 'the calm one' }));
    await sessions.travel(id, 'undo');
    await eventually(async () => expect(await says()).toMatchObject({ circled: false }));
    expect((await fileOf(id, 'TS_narrator_T01.wav')).frames).toBe(960);
    stop();
  });
  it('that were ended by hand are heard until there, and what was recorded beyond lies under it', async () => {
    const id = await session(track('narrator'));
    await recordings.beginRecording(id, {
      id: 'hand',
      track: 'narrator',
      start: 48_000,
      chains: [[]],
      purpose: { show: { start: 48_300 } },
    });
    for (const part of ['processed', 'dry']) await recordings.writeChunk('hand', part, 0, chunk(2000));
    await recordings.finishRecording('hand', { frames: 2000, shownEnd: 49_500 });
    const [t] = (await docOf(id)).tracks;
    expect(t!.takes).toMatchObject([{ start: 48_000, length: 2000 }]);
    expect(t!.clips).toMatchObject([{ start: 48_300, offset: 300, length: 1200 }]);
  });
  it('that do not exist are named', async () => {
    await expect(recordings.writeChunk('none', 'dry', 0, chunk(1))).rejects.toMatchObject({ status: 404 });
    await expect(recordings.recordingFacts('none')).rejects.toMatchObject({ status: 404 });
  });
});

describe('answers', () => {
  it('are given to this machine alone, and not to other sites', async () => {
    const { route, json } = await import('./http');
    const answer = route(async () => json({ fine: true }));
    const status = async (method: string, headers: Record<string, string>) =>
      (await answer(new Request('http://localhost/api/x', { method, headers }), { params: Promise.resolve({}) }))
        .status;
    expect(await status('GET', { host: 'localhost:3000' })).toBe(200);
    expect(await status('POST', { host: '127.0.0.1:3000', origin: 'http://127.0.0.1:3000' })).toBe(200);
    expect(await status('GET', { host: 'rebound.example' })).toBe(421);
    // A look from another site is refused as well: none may make the server work.
    expect(await status('GET', { host: 'localhost:3000', origin: 'http://elsewhere.example' })).toBe(403);
    expect(await status('POST', { host: 'localhost:3000', origin: 'http://elsewhere.example' })).toBe(403);
    expect(await status('PUT', { host: 'localhost:3000', origin: 'null' })).toBe(403);
  });
  it('carry a message and the right status, whatever is thrown', async () => {
    const { route, Refused, json, body } = await import('./http');
    const { EditRefused } = await import('@/core/session');
    const { FileFault } = await import('@/core/files');
    const call = async (fail: () => never) => {
      const response = await route(async () => fail())(new Request('http://x/', { headers: { host: 'localhost' } }), {
        params: Promise.resolve({}),
      });
      return [response.status, ((await response.json()) as { message: string }).message] as const;
    };
    const thrower = (error: Error) => () => {
      throw error;
    };
    expect(await call(thrower(new Refused(409, 'busy')))).toEqual([409, 'busy']);
    expect(await call(thrower(new EditRefused('no such track')))).toEqual([422, 'no such track']);
    expect(await call(thrower(new FileFault('no WAV')))).toEqual([422, 'no WAV']);
    const full = Object.assign(new Error('ENOSPC: no space left on device, write'), { code: 'ENOSPC' });
    expect(await call(thrower(full))).toEqual([507, expect.stringMatching(/disk .* is full.*Make room/) as string]);
    // Each cause is told by itself, with the file that it is about.
    for (const [code, status, says] of [
      ['ENOENT', 410, /Voice.wav is missing.*put the file back/],
      ['ENAMETOOLONG', 422, /name is too long/],
      ['EACCES', 403, /may not use Voice.wav/],
      ['EROFS', 403, /can only be read/],
      ['EIO', 500, /look after the disk/],
    ] as const) {
      const error = Object.assign(new Error(code), { code, path: '/data/sessions/x/media/Voice.wav' });
      expect(await call(thrower(error))).toEqual([status, expect.stringMatching(says) as string]);
      expect(await call(thrower(new Error('a query failed', { cause: error })))).toEqual([
        status,
        expect.stringMatching(says) as string,
      ]);
    }
    const [status, message] = await call(thrower(new Error('secret path /etc')));
    expect(status).toBe(500);
    expect(message).not.toContain('secret');
    expect(json({}).headers.get('Cross-Origin-Resource-Policy')).toBe('same-origin');
    await expect(body(new Request('http://x/', { method: 'POST', body: 'not json' }))).rejects.toMatchObject({
      status: 400,
    });
  });
});

describe('paths', () => {
  const outside = () => readdirSync(path.join(process.env.WIDE_ROOM_DATA!, '..')).sort();
  it.each(['../../x', '..', '.', 'a/b', '..\\x', '__proto__', '', 'x'.repeat(41), 'a b', 'ä'])(
    '%j is no session',
    async (id) => {
      const { mediaPath, sessionDir } = await import('./config');
      const before = outside();
      expect(() => sessionDir(id)).toThrow(/There is no session/);
      expect(() => mediaPath(id, 'x.wav')).toThrow(/There is no session/);
      await expect(media.diskFree(id || '..')).rejects.toThrow(/There is no session/);
      await expect(sessions.openSession(id)).rejects.toMatchObject({ status: 404 });
      expect(outside()).toEqual(before);
    },
  );
  it.each(['../x.wav', 'a/../b', '..', '', 'x\0.wav', 'a\\b'])('%j is no file', async (file) => {
    const { mediaPath } = await import('./config');
    expect(() => mediaPath('lamp', file)).toThrow(/There is no file/);
  });
  it('are not made by looking', async () => {
    const before = readdirSync(path.join(process.env.WIDE_ROOM_DATA!, 'sessions')).sort();
    await media.diskFree('nowhere');
    await expect(media.pictureFile('nowhere', 'x.mp4', null)).rejects.toMatchObject({ status: 404 });
    expect(readdirSync(path.join(process.env.WIDE_ROOM_DATA!, 'sessions')).sort()).toEqual(before);
  });
  it('a route asks for ids before anything is looked up', async () => {
    const { route, json } = await import('./http');
    const answer = route<{ id: string }>(async () => json({ reached: true }));
    const call = async (id: string) =>
      (
        await answer(new Request('http://localhost/api/x', { headers: { host: 'localhost' } }), {
          params: Promise.resolve({ id }),
        })
      ).status;
    expect(await call('lamp')).toBe(200);
    for (const id of ['__proto__', 'constructor', 'a b', '../x y']) expect(await call(id)).toBe(404);
  });
});

describe('wide files', () => {
  it('of 64 channels are taken in, read and measured', async () => {
    const id = await session();
    const codec = new FrameCodec(k, 24, 64, 480);
    const set = put(
      k,
      Array.from({ length: 64 }, (_, c) => noise(480, 0.5, c + 1)),
    );
    const { bytes } = codec.encode(set.table, 480);
    const out = new Uint8Array(DATA_OFFSET + bytes.length);
    out.set(wavHeader({ format: 24, channels: 64, sampleRate: 48000, frames: 480, mask: 0 }));
    out.set(bytes, DATA_OFFSET);
    const { media: m } = await media.importFile(id, 'Wide.wav', stream(out), FORMAT);
    expect(m.channels).toBe(64);
    expect((await media.readBlocks([{ media: m.id, from: 0, frames: 480 }], () => 64)).length).toBe(64 * 480 * 4);
    expect((await media.mediaLoudness(m.id, 480)).truePeak).toBeLessThan(0);
  });
});

describe('files that are gone', () => {
  it('are named, whoever asks for them', async () => {
    const id = await session();
    const { media: m } = await media.importFile(id, 'Gone.wav', stream(wav(noise(100, 0.5))), FORMAT);
    rmSync(path.join(mediaDir(id), m.name));
    const { answerTo } = await import('./http/causes');
    const said = async (work: Promise<unknown>) =>
      work.then(
        () => 'nothing',
        (error: unknown) => answerTo(error)?.body.message ?? String(error),
      );
    const peaks = await media.pathOfMedia(m.id);
    for (const work of [
      () => media.readBlocks([{ media: m.id, from: 0, frames: 10 }], () => 1),
      () => media.mediaLoudness(m.id, 100),
      () => media.peaksOf(peaks, 0, async () => {}),
      () => media.mediaFile(m.id),
    ])
      expect(await said(work())).toMatch(/Gone.wav is missing/);
    // And the next request, for another file, is answered as ever.
    const { media: other } = await media.importFile(id, 'There.wav', stream(wav(noise(100, 0.5))), FORMAT);
    expect((await media.readBlocks([{ media: other.id, from: 0, frames: 10 }], () => 1)).length).toBe(40);
  });
});

it('a session that is read while it is stored is never kept as it was before', async () => {
  const id = await session(track('one'));
  const reading: Promise<unknown>[] = [];
  for (let i = 0; i < 40; i++) {
    reading.push(sessions.openSession(id), sessions.loadSession(id));
    await sessions.edit(id, `race-${i}`, [{ type: 'setTrack', track: 'one', level: -i / 2 }]);
    expect((await sessions.loadSession(id)).doc.tracks[0]!.level).toBe(-i / 2 || 0);
  }
  await Promise.all(reading);
  expect((await sessions.openSession(id)).revision).toBe(40);
});
