import { open, type FileHandle } from 'node:fs/promises';
import type { ByteSource } from '@/core/files';

/** A file on disk, read anywhere. Close it when done. */
export class FileSource implements ByteSource {
  private constructor(
    private readonly handle: FileHandle,
    readonly size: number,
  ) {}

  static async open(path: string): Promise<FileSource> {
    const handle = await open(path, 'r');
    return new FileSource(handle, (await handle.stat()).size);
  }

  async read(offset: number, length: number, into?: Uint8Array): Promise<Uint8Array> {
    const wanted = Math.max(0, Math.min(length, this.size - offset));
    const bytes = into && into.length >= wanted ? into.subarray(0, wanted) : Buffer.allocUnsafeSlow(wanted);
    const { bytesRead } = await this.handle.read(bytes, 0, bytes.length, offset);
    return bytesRead === bytes.length ? bytes : bytes.subarray(0, bytesRead);
  }

  close(): Promise<void> {
    return this.handle.close();
  }
}
