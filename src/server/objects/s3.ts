// The protocol that object stores share. Address, region and keys come as its tools usually take them: AWS_ENDPOINT_URL,
// AWS_REGION, AWS_ACCESS_KEY_ID, AWS_SECRET_ACCESS_KEY.
import { createReadStream, createWriteStream } from 'node:fs';
import { stat } from 'node:fs/promises';
import type { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { DeleteObjectsCommand, GetObjectCommand, paginateListObjectsV2, S3Client } from '@aws-sdk/client-s3';
import { Upload } from '@aws-sdk/lib-storage';
import { Refused } from '../http/refused';
import { sha256 } from '../sha256';
import type { ObjectStore, StoredObject } from './store';

/** A part of an upload: ten thousand of them are the most that the protocol takes, so 160 GB. */
const PART = 16 << 20;
const PARTS_AT_ONCE = 2;
/** Keys that one request may remove. */
const MOST_KEYS = 1000;
/** Name of the checksum among what an object says of itself. */
const SUM = 'sha256';

/** Splits `s3://bucket/prefix`. Throws with what is wrong. */
export function placeOf(url: string): { bucket: string; prefix: string } {
  const found = /^s3:\/\/([a-z0-9][a-z0-9.-]{1,62})(?:\/(.*?))?\/?$/.exec(url);
  if (!found)
    throw new Error(`WIDE_ROOM_OBJECTS is "${url}"; it names a bucket, as in s3://wide-room or s3://studio/wide-room.`);
  return { bucket: found[1]!, prefix: found[2] ? `${found[2]}/` : '' };
}

async function told<T>(work: () => Promise<T>): Promise<T> {
  try {
    return await work();
  } catch (error) {
    if (error instanceof Refused) throw error;
    const why = (error as Error).message || (error as Error).name;
    throw new Refused(
      503,
      `The object store does not answer as it should (${why}). What is on this server stays; try again once it does.`,
    );
  }
}

export function s3Store(url: string): ObjectStore {
  const { bucket, prefix } = placeOf(url);
  const client = new S3Client({
    region: process.env.AWS_REGION ?? 'us-east-1',
    // By its address a store of one's own is known; a bucket's name before it would need a name server.
    forcePathStyle: Boolean(process.env.AWS_ENDPOINT_URL ?? process.env.AWS_ENDPOINT_URL_S3),
    // Not every store knows the newer checksums; what an object is told by its SHA-256 here.
    requestChecksumCalculation: 'WHEN_REQUIRED',
    responseChecksumValidation: 'WHEN_REQUIRED',
  });
  const put = async (key: string, file: string) => {
    const { size } = await stat(file);
    const params = {
      ...{ Bucket: bucket, Key: prefix + key, Metadata: { [SUM]: await sha256(file) } },
      ...{ Body: size === 0 ? '' : createReadStream(file), ContentLength: size },
    };
    await new Upload({ client, params, partSize: PART, queueSize: PARTS_AT_ONCE }).done();
  };
  const get = async (key: string, file: string) => {
    const found = await client
      .send(new GetObjectCommand({ Bucket: bucket, Key: prefix + key }))
      .catch((error: Error) => {
        if (error.name === 'NoSuchKey' || error.name === 'NotFound') return null;
        throw error;
      });
    if (!found?.Body) return false;
    await pipeline(found.Body as Readable, createWriteStream(file, { flags: 'wx' }));
    const sum = found.Metadata?.[SUM];
    if (sum !== undefined && (await sha256(file)) !== sum)
      throw new Error(`${key} came with another checksum than it was stored with`);
    return true;
  };
  const list = async (below: string): Promise<StoredObject[]> => {
    const out: StoredObject[] = [];
    for await (const page of paginateListObjectsV2({ client }, { Bucket: bucket, Prefix: prefix + below }))
      for (const { Key, Size } of page.Contents ?? [])
        if (Key) out.push({ key: Key.slice(prefix.length), bytes: Size ?? 0 });
    return out;
  };
  const remove = async (keys: readonly string[]) => {
    for (let i = 0; i < keys.length; i += MOST_KEYS) {
      const Objects = keys.slice(i, i + MOST_KEYS).map((key) => ({ Key: prefix + key }));
      await client.send(new DeleteObjectsCommand({ Bucket: bucket, Delete: { Objects, Quiet: true } }));
    }
  };
  return {
    put: (key, file) => told(() => put(key, file)),
    get: (key, file) => told(() => get(key, file)),
    list: (below) => told(() => list(below)),
    remove: (keys) => told(() => remove(keys)),
  };
}
