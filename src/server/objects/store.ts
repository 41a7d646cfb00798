// An object store: files under keys, seen by every server and worker alike.
export interface StoredObject {
  key: string;
  bytes: number;
}

/** Whole files under keys. What a key holds is replaced in one step, and read whole or not at all. */
export interface ObjectStore {
  put(key: string, file: string): Promise<void>;
  /** Writes what a key holds into a new file; false where it holds nothing. Throws where it came incomplete or altered. */
  get(key: string, file: string): Promise<boolean>;
  /** Everything below a prefix. */
  list(prefix: string): Promise<StoredObject[]>;
  remove(keys: readonly string[]): Promise<void>;
}
