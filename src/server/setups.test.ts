// Versions, templates and another sample rate, on a database and folder of their own.
import { readdirSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { describe, expect, it } from 'vitest';
import { DATA_OFFSET, FrameCodec, parseWav, wavHeader } from '@/core/files';
import { newSession, readAs, NewSession, type EditJson } from '@/core/session';
import { withDatabase } from '../../tests/support/database';
import { newKernels, put, sine } from '../../tests/support/kernels';
import * as sessions from './sessions';
import * as media from './media';
import * as templates from './templates';
import * as rates from './sessions/changeRate';

withDatabase();
const folder = process.env.WIDE_ROOM_DATA!;
const k = newKernels();

const FORMAT = {
  sampleRate: 48000,
  wordLength: 24,
  fileKind: 'Broadcast WAV',
  frameRate: '25',
  startTimecode: '10:00:00:00',
  layout: '5.1',
} as const;

const { fileKind: _always, ...STATED } = FORMAT;

function wav(frames: number): Uint8Array<ArrayBuffer> {
  const set = put(k, [sine(frames, 48000, 997, 0.5)]);
  const codec = new FrameCodec(k, 24, 1, frames);
  const { bytes } = codec.encode(set.table, frames);
  const out = new Uint8Array(DATA_OFFSET + bytes.length);
  out.set(wavHeader({ format: 24, channels: 1, sampleRate: 48000, frames, mask: 4 }));
  out.set(bytes, DATA_OFFSET);
  return out;
}

let count = 0;
const edit = (id: string, ...edits: EditJson[]) => sessions.edit(id, `e${count++}`, edits);
const docOf = async (id: string) => (await sessions.openSession(id)).doc;

/** A session with one track and one clip of a second. */
async function session(): Promise<string> {
  const id = await sessions.createSession(newSession('Test', 'TS', { ...FORMAT }));
  const body = new Blob([wav(48000)]).stream() as ReadableStream<Uint8Array>;
  const { media: ref } = await media.importFile(id, 'tone.wav', body, FORMAT);
  await edit(
    id,
    { type: 'addTrack', id: 'a', name: 'Narrator', layout: 'mono', destination: 'nar' },
    { type: 'addClip', id: 'c', track: 'a', start: 96000, media: ref },
  );
  return id;
}
const asked = (part: Partial<NewSession> = {}) =>
  readAs(NewSession, { name: 'From it', code: 'FI', ...STATED, ...part }, 'New session');

describe('versions', () => {
  it('go back and lose nothing: undo and an automatic version both bring back what came after', async () => {
    const id = await session();
    const kept = await sessions.keepVersion(id, 'before the client');
    await edit(id, { type: 'setTrack', track: 'a', name: 'Keeper', level: -6 });
    expect(await sessions.compareVersion(id, kept.id)).toEqual([
      'Narrator is called Keeper',
      'Keeper at -6.0 dB instead of 0.0',
    ]);
    const after = await docOf(id);
    await sessions.restoreVersion(id, kept.id);
    expect((await docOf(id)).tracks[0]!.name).toBe('Narrator');
    const [automatic] = await sessions.listVersions(id);
    expect(automatic).toMatchObject({ automatic: true, name: 'before going back to before the client' });
    await sessions.travel(id, 'undo');
    expect(await docOf(id)).toEqual(after);
    await sessions.restoreVersion(id, automatic!.id);
    expect((await docOf(id)).tracks[0]!.name).toBe('Keeper');
  });
  it('are made by themselves before risky steps, twenty of them are kept, named ones always', async () => {
    const id = await session();
    await sessions.keepVersion(id, 'mine');
    await edit(id, { type: 'removeTrack', track: 'a' });
    expect((await sessions.listVersions(id)).map((v) => v.name)).toEqual(['before: remove track, Narrator', 'mine']);
    for (let i = 0; i < 24; i++) await sessions.keepVersion(id, `auto ${i}`, true);
    const list = await sessions.listVersions(id);
    expect(list.filter((v) => v.automatic)).toHaveLength(20);
    expect(list.some((v) => v.name === 'mine')).toBe(true);
  });
  it('need a name, and an unknown one is told', async () => {
    const id = await session();
    await expect(sessions.keepVersion(id, '  ')).rejects.toThrow(/Give the version a name/);
    await expect(sessions.restoreVersion(id, 'gone')).rejects.toThrow(/no version "gone"/);
  });
});

describe('another rate', () => {
  it('converts every file beside the old one, keeps every second, and undo goes back', async () => {
    const id = await session();
    const before = await docOf(id);
    await rates.changeRate(id, 96000);
    const doc = await docOf(id);
    expect(doc.format.sampleRate).toBe(96000);
    const clip = doc.tracks[0]!.clips[0]!;
    expect(clip).toMatchObject({ start: 192000, length: 96000 });
    const source = await media.FileSource.open(await media.pathOfMedia(clip.media));
    expect(await parseWav(source)).toMatchObject({ sampleRate: 96000, frames: 96000, channels: 1 });
    await source.close();
    await sessions.travel(id, 'undo');
    expect(await docOf(id)).toEqual(before);
    await expect(rates.changeRate(id, 22050)).rejects.toThrow(/not at 22050/);
    await expect(rates.changeRate(id, 48000)).rejects.toThrow(/already/);
  });
});

describe('templates', () => {
  it('begin a new session with its files, at another rate and in another layout', async () => {
    const { id } = await templates.keepTemplate(await session(), { name: 'Lighthouse', category: 'film', media: true });
    const made = await templates.sessionFromTemplate(id, asked({ sampleRate: 96000, layout: 'stereo' }));
    const doc = await docOf(made);
    expect(doc).toMatchObject({ name: 'From it', code: 'FI', format: { sampleRate: 96000, layout: 'stereo' } });
    expect(doc.buses.every((b) => b.layout === 'stereo')).toBe(true);
    expect(doc.tracks[0]!.clips[0]).toMatchObject({ start: 192000, length: 96000 });
    expect(await media.pathOfMedia(doc.tracks[0]!.clips[0]!.media)).toContain(made);
  });
  it('tell how far they are, and given up on the way they leave no file and no session', async () => {
    const { id } = await templates.keepTemplate(await session(), { name: 'Told', category: 'film', media: true });
    const told: unknown[] = [];
    await templates.sessionFromTemplate(id, asked(), (making) => told.push(making));
    expect(told).toEqual([{ done: 0, total: 1, name: expect.stringMatching(/^tone.*\.wav$/) }]);
    const folders = () => readdirSync(path.join(folder, 'sessions')).toSorted();
    const [before, listed] = [folders(), (await sessions.listSessions()).length];
    const given = new AbortController();
    given.abort(new Error('given up'));
    await expect(templates.sessionFromTemplate(id, asked(), () => {}, given.signal)).rejects.toThrow('given up');
    expect(folders()).toEqual(before);
    expect(await sessions.listSessions()).toHaveLength(listed);
  });
  it('travel as one file: out, removed, in again, the same', async () => {
    const { id } = await templates.keepTemplate(await session(), { name: 'Travels', category: 'film', media: true });
    const { stream, name } = await templates.templateArchive(id);
    const parts: Buffer[] = [];
    for await (const part of stream) parts.push(part as Buffer);
    const file = path.join(folder, name);
    writeFileSync(file, Buffer.concat(parts));
    const before = (await templates.listTemplates()).find((t) => t.id === id)!;
    await templates.removeTemplate(id);
    const back = await templates.importTemplate(file);
    const after = (await templates.listTemplates()).find((t) => t.id === back.id)!;
    expect(after).toEqual({ ...before, id: back.id });
    expect(readdirSync(templates.templateDir(back.id))).toHaveLength(1);
  });
  it('a file that is none is refused and leaves nothing', async () => {
    const file = path.join(folder, 'no.zip');
    writeFileSync(file, 'this is no archive');
    const folders = readdirSync(path.join(folder, 'templates'));
    await expect(templates.importTemplate(file)).rejects.toThrow(/no ZIP archive/);
    expect(readdirSync(path.join(folder, 'templates'))).toEqual(folders);
  });
  it('the shipped ones are there, and begin a session', async () => {
    const list = await templates.listTemplates();
    expect(list.filter((t) => t.shipped)).toHaveLength(5);
    const doc = await docOf(await templates.sessionFromTemplate('narration', asked({ layout: 'stereo' })));
    expect(doc.tracks.map((t) => t.name)).toEqual(['Narrator', 'Room tone']);
    await expect(templates.templateArchive('narration')).rejects.toThrow(/ships with every/);
  });
});
