// Held against s3rver, an object store of its own that speaks the protocol (development dependency).
import { readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { startBucket, type Bucket } from '../../../tests/support/bucket';
import { freshDataFolder } from '../../../tests/support/dataFolder';
import { noiseWav } from '../../../tests/support/noiseWav';
import { FORMAT } from '../../../tests/support/session';
import { newSession } from '@/core/session';
import { placeOf } from './s3';

const removeFolder = freshDataFolder();
const folder = process.env.WIDE_ROOM_DATA!;
const earlier = { ...process.env };
let bucket: Bucket;
let database: typeof import('../database');
let media: typeof import('../media');
let sessions: typeof import('../sessions');
let objects: typeof import('.');
let id = '';

beforeAll(async () => {
  bucket = await startBucket(path.join(folder, 'bucket'));
  Object.assign(process.env, bucket.env);
  [database, sessions, media, objects] = await Promise.all([
    import('../database'),
    import('../sessions'),
    import('../media'),
    import('.'),
  ]);
  await database.openDatabase();
  id = await sessions.createSession(newSession('Kept', 'KP', { ...FORMAT }));
});
afterAll(async () => {
  await media.summed();
  await database.closeDatabase();
  process.env = earlier;
  removeFolder();
});

const body = (bytes: Uint8Array<ArrayBuffer>) => new Response(bytes).body!;
const bring = (seconds = 1) => media.importFile(id, 'noise.wav', body(noiseWav(seconds)), FORMAT);
const here = (file: string) => path.join(folder, 'sessions', id, 'media', file);

describe('files of a session', () => {
  it('are fetched where they do not lie, once for all who ask', async () => {
    const { media: ref } = await bring();
    const before = readFileSync(here(ref.name));
    rmSync(here(ref.name));
    expect(await media.missingFiles(id)).toEqual([]);
    expect((await media.sessionFiles(id)).bytes[ref.id]).toBe(before.length);
    const paths = await Promise.all(Array.from({ length: 8 }, () => media.pathOfMedia(ref.id)));
    expect(new Set(paths)).toEqual(new Set([here(ref.name)]));
    expect(readFileSync(here(ref.name)).equals(before)).toBe(true);
  });
  it('are fetched anew where another server has lengthened them, and left alone where they grow here', async () => {
    const { media: ref } = await bring();
    const whole = readFileSync(here(ref.name));
    writeFileSync(here(ref.name), whole.subarray(0, 5000));
    await media.pathOfMedia(ref.id);
    expect(readFileSync(here(ref.name)).equals(whole)).toBe(true);
    const longer = Buffer.concat([whole, Buffer.alloc(600)]);
    writeFileSync(here(ref.name), longer);
    await media.pathOfMedia(ref.id);
    expect(readFileSync(here(ref.name)).length).toBe(longer.length);
  });
  it('that came with other bytes than were stored are not taken', async () => {
    const { media: ref } = await bring();
    const before = readFileSync(here(ref.name));
    rmSync(here(ref.name));
    const stored = readdirSync(path.join(folder, 'bucket'), { recursive: true, encoding: 'utf8' }).find((f) =>
      f.endsWith(`${ref.name}._S3rver_object`),
    )!;
    const altered = Buffer.from(before);
    altered[1000]! ^= 1;
    writeFileSync(path.join(folder, 'bucket', stored), altered);
    await expect(media.pathOfMedia(ref.id)).rejects.toThrow(/another checksum than it was stored with/);
    expect(readdirSync(path.dirname(here('x')))).not.toContain(ref.name);
  });
  it('go from here and there', async () => {
    const { media: ref } = await bring();
    await objects.removeKept([here(ref.name)]);
    expect([...(await objects.sizesIn(path.dirname(here('x')))).keys()]).not.toContain(here(ref.name));
    await expect(objects.removeKept([here('never-there.wav')])).resolves.toBeUndefined();
  });
});

describe('a store that does not answer', () => {
  it('is told; a file that comes in meanwhile leaves nothing, and comes in later', async () => {
    const names = () => readdirSync(path.dirname(here('x'))).sort();
    const before = names();
    await bucket.stop();
    await expect(bring(2)).rejects.toThrow(/The object store does not answer as it should.*try again/);
    expect(names()).toEqual(before);
    bucket = await startBucket(path.join(folder, 'bucket'), Number(new URL(bucket.env.AWS_ENDPOINT_URL!).port));
    const { media: ref } = await bring(2);
    expect(ref.frames).toBe(96_000);
    await bucket.stop();
  });
});

it('an address that names no bucket is refused', () => {
  expect(placeOf('s3://wide-room/a/b/')).toEqual({ bucket: 'wide-room', prefix: 'a/b/' });
  expect(placeOf('s3://wide-room')).toEqual({ bucket: 'wide-room', prefix: '' });
  for (const url of ['wide-room', 'https://wide-room', 's3://', 's3://Wide_Room'])
    expect(() => placeOf(url)).toThrow(/names a bucket/);
});
