import type { ByteSource } from '@/core/files';

/** Bytes in memory as a file. */
export class MemorySource implements ByteSource {
  constructor(private readonly bytes: Uint8Array) {}

  get size(): number {
    return this.bytes.length;
  }

  async read(offset: number, length: number): Promise<Uint8Array> {
    return this.bytes.subarray(offset, Math.min(this.bytes.length, offset + length));
  }
}
