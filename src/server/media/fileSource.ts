import { open, type FileHandle } from 'node:fs/promises';
import path from 'node:path';
import { JoinedSource, partNames, type ByteSource } from '@/core/files';

/** What was opened and has to be closed when done. */
export interface OpenSource extends ByteSource {
  close(): Promise<unknown>;
}

/** Paths of the files that one name stands for (see partNames). */
export const diskPaths = (file: string): string[] =>
  partNames(path.basename(file)).map((name) => path.join(path.dirname(file), name));

/** Opens a sound file, or the files of one channel each that its name stands for, as one. */
export async function openFile(file: string): Promise<OpenSource> {
  const paths = diskPaths(file);
  if (paths.length === 1) return FileSource.open(file);
  const parts: FileSource[] = [];
  const close = () => Promise.all(parts.map((p) => p.close()));
  try {
    for (const part of paths) parts.push(await FileSource.open(part));
    return Object.assign(await JoinedSource.of(parts), { close });
  } catch (error) {
    await close();
    throw error;
  }
}

/** A file on disk, read anywhere. Close it when done. */
export class FileSource implements OpenSource {
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
