// The private file system of the browser: a take is here until the server has all of it.

import type { TakePurpose } from '@/core/session';

/** The part of the File System standard that workers have and the DOM types lack. */
interface SyncHandle {
  write(bytes: Uint8Array, options: { at: number }): number;
  read(bytes: Uint8Array, options: { at: number }): number;
  getSize(): number;
  flush(): void;
  close(): void;
}

export interface Journal {
  id: string;
  session: string;
  track: string;
  start: number;
  block: number;
  chains: unknown[];
  keepDry?: boolean;
  purpose?: TakePurpose;
}

export const PARTS = ['processed', 'dry'] as const;
export type Part = (typeof PARTS)[number];

const folder = async () => (await navigator.storage.getDirectory()).getDirectoryHandle('takes', { create: true });

async function handle(name: string): Promise<SyncHandle> {
  const file = (await (await folder()).getFileHandle(name, { create: true })) as unknown as {
    createSyncAccessHandle(): Promise<SyncHandle>;
  };
  return file.createSyncAccessHandle();
}

/** Raw samples of one take, both parts, with a journal that says what they are. */
export class TakeFiles {
  private constructor(
    readonly journal: Journal,
    private readonly files: Record<Part, SyncHandle>,
  ) {}

  static async create(journal: Journal): Promise<TakeFiles> {
    const note = await handle(`${journal.id}.json`);
    const bytes = new TextEncoder().encode(JSON.stringify(journal));
    note.write(bytes, { at: 0 });
    note.flush();
    note.close();
    return TakeFiles.open(journal);
  }

  static async open(journal: Journal): Promise<TakeFiles> {
    const processed = await handle(`${journal.id}.processed`);
    try {
      return new TakeFiles(journal, { processed, dry: await handle(`${journal.id}.dry`) });
    } catch (error) {
      processed.close();
      throw error;
    }
  }

  append(part: Part, bytes: Uint8Array): void {
    this.files[part].write(bytes, { at: this.files[part].getSize() });
  }

  flush(): void {
    for (const part of PARTS) this.files[part].flush();
  }

  size(part: Part): number {
    return this.files[part].getSize();
  }

  read(part: Part, offset: number, length: number): Uint8Array<ArrayBuffer> {
    const bytes = new Uint8Array(Math.max(0, Math.min(length, this.size(part) - offset)));
    this.files[part].read(bytes, { at: offset });
    return bytes;
  }

  /** Closes; with `remove` nothing of the take stays in the browser. */
  async close(remove: boolean): Promise<void> {
    for (const part of PARTS) this.files[part].close();
    if (!remove) return;
    const dir = await folder();
    for (const end of ['json', ...PARTS]) await dir.removeEntry(`${this.journal.id}.${end}`);
  }
}

/** Journals of takes that are still here. */
export async function leftTakes(): Promise<Journal[]> {
  const found: Journal[] = [];
  const dir = (await folder()) as unknown as AsyncIterable<[string, FileSystemHandle]>;
  for await (const [name, entry] of dir) {
    if (!name.endsWith('.json')) continue;
    const text = await (await (entry as FileSystemFileHandle).getFile()).text();
    try {
      found.push(JSON.parse(text) as Journal);
    } catch {
      // A journal that was cut off while being written has no samples yet.
    }
  }
  return found;
}
