/**
 * A file that can be read anywhere. `read` returns fewer bytes at the end; given a buffer it may put them there
 * and return a part of it, so that memory is used again.
 */
export interface ByteSource {
  readonly size: number;
  read(offset: number, length: number, into?: Uint8Array): Promise<Uint8Array>;
}

export class MemorySource implements ByteSource {
  constructor(private readonly bytes: Uint8Array) {}

  get size(): number {
    return this.bytes.length;
  }

  async read(offset: number, length: number): Promise<Uint8Array> {
    return this.bytes.subarray(offset, Math.min(this.bytes.length, offset + length));
  }
}

/** A file that cannot be used; the message names the place and the fault. */
export class FileFault extends Error {}

/** A whole file in a form, or of samples, that are not read here; something else may read it. */
export class UnreadForm extends FileFault {}
