import { open, type FileHandle } from 'node:fs/promises';
import type { ByteSink } from '@/core/files';

/** A file on disk, written anywhere. */
export class FileSink implements ByteSink {
  private constructor(private readonly handle: FileHandle) {}

  /** Throws when the file is there already. */
  static async create(path: string): Promise<FileSink> {
    return new FileSink(await open(path, 'wx'));
  }

  async put(offset: number, bytes: Uint8Array): Promise<void> {
    for (let done = 0; done < bytes.length;) {
      const { bytesWritten } = await this.handle.write(bytes, done, bytes.length - done, offset + done);
      done += bytesWritten;
    }
  }

  close(): Promise<void> {
    return this.handle.close();
  }
}
