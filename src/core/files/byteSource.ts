/** A file that can be read anywhere. `read` returns fewer bytes at the end. */
export interface ByteSource {
  readonly size: number;
  read(offset: number, length: number): Promise<Uint8Array>;
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
