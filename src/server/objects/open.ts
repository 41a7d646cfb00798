import { shared } from '../shared';
import type { ObjectStore } from './store';

/** `s3://BUCKET` or `s3://BUCKET/PREFIX`; null where files are kept in the data folder alone. */
export const objectsUrl = (): string | null => process.env.WIDE_ROOM_OBJECTS || null;

const holder = () => shared('object-store', () => ({ opening: null as Promise<ObjectStore> | null }));

/** The object store of this installation; null where it has none. */
export async function objects(): Promise<ObjectStore | null> {
  const url = objectsUrl();
  if (!url) return null;
  // Loaded where it is used: most installations have none.
  return (holder().opening ??= import('./s3').then(({ s3Store }) => s3Store(url)));
}

/** Tests begin anew with another one. */
export function forgetObjects(): void {
  holder().opening = null;
}
