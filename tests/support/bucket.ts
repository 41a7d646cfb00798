import { mkdirSync } from 'node:fs';
import { freePort } from './server';

export interface Bucket {
  /** What a process is started with to keep its files there. */
  env: Record<string, string>;
  stop(): Promise<void>;
}

/** An object store of its own in a folder, which speaks the protocol that such stores share. */
export async function startBucket(directory: string, port?: number): Promise<Bucket> {
  const { default: Store } = await import('s3rver');
  mkdirSync(directory, { recursive: true });
  port ??= await freePort();
  const store = new Store({
    ...{ port, address: '127.0.0.1', directory, silent: true },
    configureBuckets: [{ name: 'wide-room', configs: [] }],
  });
  await store.run();
  return {
    env: {
      WIDE_ROOM_OBJECTS: 's3://wide-room/house',
      AWS_ENDPOINT_URL: `http://127.0.0.1:${port}`,
      AWS_REGION: 'us-east-1',
      // Those that this store takes.
      AWS_ACCESS_KEY_ID: 'S3RVER',
      AWS_SECRET_ACCESS_KEY: 'S3RVER',
    },
    stop: () => store.close(),
  };
}
