import { open, type FileHandle } from 'node:fs/promises';
import type { ByteSink } from '@/core/files';

/** Writes all of it, or throws: a disk that is nearly full takes a part and says nothing. */
export async function writeAll(handle: FileHandle, bytes: Uint8Array, offset: number): Promise<void> {
  for (let done = 0; done < bytes.length;) {
    const { bytesWritten } = await handle.write(bytes, done, bytes.length - done, offset + done);
    done += bytesWritten;
  }
}

/** A file on disk, written anywhere. */
export class FileSink implements ByteSink {
  private constructor(private readonly handle: FileHandle) {}

  /** Throws when the file is there already. */
  static async create(path: string): Promise<FileSink> {
    return new FileSink(await open(path, 'wx'));
  }

  /** Throws when the file is not there. */
  static async open(path: string): Promise<FileSink> {
    return new FileSink(await open(path, 'r+'));
  }

  put(offset: number, bytes: Uint8Array): Promise<void> {
    return writeAll(this.handle, bytes, offset);
  }

  /** Resolves once everything is on the disk. */
  sync(): Promise<void> {
    return this.handle.datasync();
  }

  close(): Promise<void> {
    return this.handle.close();
  }
}
