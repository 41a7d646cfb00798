// What was being made when the server was killed is gone at the next start; what was finished stays.
import { existsSync, mkdirSync, readdirSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { createWriteStream } from 'node:fs';
import { pipeline } from 'node:stream/promises';
import { describe, expect, it } from 'vitest';
import yazl from 'yazl';
import { newSession, type TemplateFile } from '@/core/session';
import { withDatabase } from '../../tests/support/database';
import { FORMAT, mono, monoTrack, sessionWith } from '../../tests/support/session';
import * as sessions from './sessions';
import * as templates from './templates';
import * as unfinished from './unfinished';
import * as scratch from './scratch';

withDatabase();
const folder = process.env.WIDE_ROOM_DATA!;

const at = (...names: string[]) => path.join(folder, ...names);

describe('at a start', () => {
  it('what was never finished is removed, and nothing else', async () => {
    const kept = await sessions.createSession(newSession('Kept', 'KP', { ...FORMAT }));
    writeFileSync(at('sessions', kept, '.unfinished'), '');
    writeFileSync(at('sessions', kept, 'media', 'take.wav'), 'sound');
    writeFileSync(at('sessions', kept, 'media', '.abc.part'), 'half a file');
    writeFileSync(at('sessions', kept, 'media', '.abc.part.decoded'), 'half a file');
    for (const made of [at('sessions', 'half', 'media'), at('templates', 'half'), at('sessions', 'unknown', 'media')])
      mkdirSync(made, { recursive: true });
    writeFileSync(at('sessions', 'half', '.unfinished'), '');
    writeFileSync(at('templates', 'half', '.unfinished'), '');
    // Of a database that was put back from its copy: sound is never thrown away.
    writeFileSync(at('sessions', 'unknown', 'media', 'take.wav'), 'sound');
    writeFileSync(path.join(await scratch.scratchFolder(), 'upload'), 'x');

    await scratch.clearScratch();
    await unfinished.clearUnfinished();
    expect(readdirSync(at('sessions')).sort()).toEqual([kept, 'unknown'].sort());
    expect(readdirSync(at('templates'))).toEqual([]);
    expect(readdirSync(at('sessions', kept))).toEqual(['media']);
    expect(readdirSync(at('sessions', kept, 'media'))).toEqual(['take.wav']);
    expect(existsSync(at('scratch'))).toBe(false);
  });
  it('what fails while it is made leaves nothing either', async () => {
    const dir = at('sessions', 'failing');
    await expect(
      unfinished.making(dir, () => {
        expect(readdirSync(dir)).toEqual(['.unfinished']);
        return Promise.reject(new Error('no'));
      }),
    ).rejects.toThrow('no');
    expect(existsSync(dir)).toBe(false);
    await expect(scratch.inScratch(() => Promise.reject(new Error('no')))).rejects.toThrow('no');
    expect(readdirSync(at('scratch'))).toEqual([]);
  });
});

describe('a template from outside', () => {
  const session = sessionWith(monoTrack('a', 'Voice'), {
    ...{ type: 'addClip', id: 'c', track: 'a', start: 0 },
    media: { ...mono('m', 4_800), name: 'v.wav' },
  });
  let n = 0;
  async function zipped(about: object, files: Record<string, Buffer>): Promise<string> {
    const zip = new yazl.ZipFile();
    zip.addBuffer(Buffer.from(JSON.stringify(about)), 'template.json');
    for (const [name, bytes] of Object.entries(files)) zip.addBuffer(bytes, name);
    zip.end();
    const file = at(`t${n++}.zip`);
    await pipeline(zip.outputStream, createWriteStream(file));
    return file;
  }
  const good: TemplateFile = {
    ...{ format: 'wide-room-template', version: 1, name: 'T', category: 'own', session, files: { m: 'v.wav' } },
  };
  it.each<[string, object, Record<string, Buffer>, RegExp]>([
    ['a track that is empty', { ...good, session: { ...session, tracks: [{}] } }, {}, /is damaged/],
    ['a rate of nothing', { ...good, session: { ...session, format: { ...FORMAT, sampleRate: 0 } } }, {}, /sampleRate/],
    ['a form of the future', { ...good, session: { ...session, version: 99 } }, {}, /later release/],
    ['a file outside', { ...good, files: { m: '../../v.wav' } }, {}, /outside its folder/],
    [
      'a file that it does not know',
      { ...good, files: { x: 'v.wav' } },
      { 'media/v.wav': Buffer.from('x') },
      /does not know/,
    ],
    [
      'a file that would fill the disk',
      good,
      { 'media/v.wav': Buffer.alloc(80 << 20) },
      /more than its sound can take/,
    ],
    ['a file that is no sound', good, { 'media/v.wav': Buffer.alloc(10_000) }, /./],
    ['a file that it lacks', good, {}, /lacks its file media\/v.wav/],
    ['null', null as never, {}, /no template/],
  ])('is refused and leaves nothing: %s', async (_, about, files, why) => {
    const file = await zipped(about, files);
    const there = readdirSync(at('templates'));
    await expect(templates.importTemplate(file)).rejects.toThrow(why);
    expect(readdirSync(at('templates'))).toEqual(there);
  });
});
