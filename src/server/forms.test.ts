// Files of one channel each through everything that reads, copies or converts a session's files.
import { readdirSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { beforeEach, expect, it } from 'vitest';
import { withDatabase } from '../../tests/support/database';
import { newKernels, noise, put } from '../../tests/support/kernels';
import { applied, FORMAT } from '../../tests/support/session';
import { FrameCodec, partNames } from '@/core/files';
import { newSession, type NewSession } from '@/core/session';
import * as sessions from './sessions';
import * as media from './media';
import * as recordings from './recordings';
import * as templates from './templates';

withDatabase();
const k = newKernels();
const FRAMES = 24_000;
const sound = [noise(FRAMES, 0.3, 1), noise(FRAMES, 0.1, 2)];

let id = '';
let count = 0;

const docOf = async (session: string) => (await sessions.openSession(session)).doc;
const mediaDir = (session: string) => path.join(process.env.WIDE_ROOM_DATA!, 'sessions', session, 'media');
const takeOf = async (session = id) => (await docOf(session)).tracks[0]!.takes[0]!;

/** A session of one file a channel with a recorded stereo take. */
beforeEach(async () => {
  const doc = applied(
    newSession('Test', 'TS', { ...FORMAT }),
    { type: 'setFormat', perChannel: true },
    { type: 'addTrack', id: 's', name: 'Surf', layout: 'stereo', destination: 'amb' },
  );
  id = await sessions.createSession(doc);
  const rid = `take-${count++}`;
  await recordings.beginRecording(id, { id: rid, track: 's', start: 48_000, chains: [[]] });
  const set = put(k, sound);
  const { bytes } = new FrameCodec(k, 24, 2, FRAMES).encode(set.table, FRAMES);
  for (const part of ['processed', 'dry']) await recordings.writeChunk(rid, part, 0, new Uint8Array(bytes));
  await recordings.finishRecording(rid, { frames: FRAMES });
});

it('loudness, peaks and blocks are those of both channels', async () => {
  const { media: file } = await takeOf();
  const { integrated } = await media.mediaLoudness(file, FRAMES);
  // Half a second of noise at -10.5 and -20 dBFS peak: well above silence, and the same as of the plain file.
  expect(integrated).toBeGreaterThan(-25);
  const at = await media.pathOfMedia(file);
  const peaks = new Int16Array((await media.peaksOf(at, 0, (p) => media.makePeaks(k, p))).buffer);
  expect(peaks.length).toBe(2 * Math.ceil(FRAMES / 256));
  expect(Math.max(...peaks) / 32_767).toBeCloseTo(0.3, 2);
  const blocks = await media.readBlocks([{ media: file, from: 100, frames: 300 }], () => 2);
  const [left, right] = [0, 1].map((c) => new Float32Array(blocks.buffer).subarray(c * 300, c * 300 + 300));
  for (let i = 0; i < 300; i++) {
    expect(left![i]).toBeCloseTo(sound[0]![100 + i]!, 6);
    expect(right![i]).toBeCloseTo(sound[1]![100 + i]!, 6);
  }
});

it('a room tone and an own file are cut from them, each in the same form', async () => {
  await sessions.edit(id, 'name', [{ type: 'shapeClip', clip: `clip-take-${count - 1}`, name: 'Wave' }]);
  const own = await media.ownFile(id, await docOf(id), `clip-take-${count - 1}`, 5_000);
  expect(own).toMatchObject({ channels: 2, frames: 5_000 });
  expect(partNames(own.name)).toHaveLength(2);
  for (const part of partNames(own.name)) expect(readdirSync(mediaDir(id))).toContain(part);
});

it('another rate converts them, beside the old ones', async () => {
  const { changeRate } = await import('./sessions/changeRate');
  await changeRate(id, 96_000);
  const { media: file, length } = await takeOf();
  expect(length).toBe(2 * FRAMES);
  const source = await media.openFile(await media.pathOfMedia(file));
  expect(await media.openAudio(k, source)).toMatchObject({ channels: 2, sampleRate: 96_000, frames: 2 * FRAMES });
  await source.close();
});

it('a template holds them, travels as one file, and begins a session with them', async () => {
  const kept = await templates.keepTemplate(id, { name: 'Split', category: 'film', media: true });
  const { stream, name } = await templates.templateArchive(kept.id);
  const parts: Buffer[] = [];
  for await (const part of stream) parts.push(part as Buffer);
  const file = path.join(process.env.WIDE_ROOM_DATA!, name);
  writeFileSync(file, Buffer.concat(parts));
  const back = await templates.importTemplate(file);
  expect(readdirSync(templates.templateDir(back.id)).filter((f) => /_[LR]\.wav$/.test(f))).toHaveLength(2);
  const asked = { name: 'Next', code: 'NX', layout: '5.1', sampleRate: 48_000 };
  const made = await templates.sessionFromTemplate(back.id, {
    ...asked,
    format: () => ({ ...FORMAT, perChannel: false }),
    check: () => {},
  } as unknown as NewSession);
  const doc = await docOf(made);
  expect(doc.format.perChannel).toBe(true);
  const blocks = await media.readBlocks([{ media: doc.tracks[0]!.clips[0]!.media, from: 0, frames: 10 }], () => 2);
  expect(new Float32Array(blocks.buffer)[10]).toBeCloseTo(sound[1]![0]!, 6);
});

it('the header of each file follows what is noted of the take', async () => {
  const stop = recordings.followTakes();
  const take = await takeOf();
  await sessions.edit(id, 'circle', [{ type: 'setTake', track: 's', take: take.id, circled: true }]);
  const { parseWav } = await import('@/core/files');
  for (const part of partNames((await docOf(id)).media[take.media]!.name)) {
    const says = async () => {
      const source = await media.FileSource.open(path.join(mediaDir(id), part));
      return (await parseWav(source).finally(() => source.close())).ixml;
    };
    await expect.poll(says).toMatchObject({ circled: true, tracks: [expect.any(String)] });
  }
  stop();
});
