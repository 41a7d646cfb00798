// The private file system of the browser: a take is here until the server has all of it.

import CRC32 from 'crc-32';
import type { Stage, TakeFacts, TakePurpose, WordLength } from '@/core/session';

/** The part of the File System standard that workers have and the DOM types lack. */
interface SyncHandle {
  write(bytes: Uint8Array, options: { at: number }): number;
  read(bytes: Uint8Array, options: { at: number }): number;
  truncate(size: number): void;
  getSize(): number;
  flush(): void;
  close(): void;
}

/** What the samples of a take are; its own from its beginning, whatever the session becomes meanwhile. */
export interface TakeFormat {
  sampleRate: number;
  wordLength: WordLength;
}

export interface Journal {
  id: string;
  session: string;
  track: string;
  start: number;
  block: number;
  format: TakeFormat;
  chains: Stage[][];
  keepDry?: boolean;
  purpose?: TakePurpose;
  /** What became known while it was recorded. */
  facts?: TakeFacts;
  /** Where what is heard of it ends, when it was ended by hand. */
  shownEnd?: number;
}

export const PARTS = ['processed', 'dry'] as const;
export type Part = (typeof PARTS)[number];

/** Bytes read at a time where a whole part is gone through. */
const PIECE = 1 << 20;

const folder = async () => (await navigator.storage.getDirectory()).getDirectoryHandle('takes', { create: true });

async function handle(name: string): Promise<SyncHandle> {
  const file = (await (await folder()).getFileHandle(name, { create: true })) as unknown as {
    createSyncAccessHandle(): Promise<SyncHandle>;
  };
  return file.createSyncAccessHandle();
}

/** CRC-32 (ISO 3309, as in zip and gzip) of bytes, going on from `before`. */
export const crcOf = (bytes: Uint8Array, before = 0): number => CRC32.buf(bytes, before) >>> 0;

/** Raw samples of one take, both parts, with a journal that says what they are. */
export class TakeFiles {
  /** Bytes that have gone into the checksum of each part, and that checksum. */
  private readonly summed: Record<Part, { bytes: number; sum: number }> = {
    processed: { bytes: 0, sum: 0 },
    dry: { bytes: 0, sum: 0 },
  };

  private constructor(
    public journal: Journal,
    private readonly files: Record<Part, SyncHandle>,
  ) {}

  static async create(journal: Journal): Promise<TakeFiles> {
    await writeJournal(journal);
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

  /** Keeps bytes at their place. Throws when the browser's disk does not take all of them; the place can be written again. */
  write(part: Part, bytes: Uint8Array, at: number): void {
    const written = this.files[part].write(bytes, { at });
    if (written < bytes.length) throw new Error('the disk of this browser is full');
    const s = this.summed[part];
    if (at === s.bytes) this.summed[part] = { bytes: at + bytes.length, sum: crcOf(bytes, s.sum) };
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

  /** Checksum of the first `bytes` of a part. What was written here is not read again. */
  sum(part: Part, bytes: number): number {
    let { bytes: done, sum } = this.summed[part];
    if (done > bytes) [done, sum] = [0, 0];
    while (done < bytes) {
      const piece = this.read(part, done, Math.min(PIECE, bytes - done));
      if (piece.length === 0) break;
      sum = crcOf(piece, sum);
      done += piece.length;
    }
    return sum;
  }

  /**
   * A page that ended between the writes of the two parts left one longer: the other goes on as silence, which the
   * take says. Returns the frames of both.
   */
  async evened(): Promise<number> {
    const { block, format, facts } = this.journal;
    const frames = PARTS.map((part) => Math.floor(this.size(part) / block));
    const most = Math.max(...frames);
    for (const [p, part] of PARTS.entries()) {
      const missing = most - frames[p]!;
      if (missing === 0) continue;
      this.write(part, new Uint8Array(missing * block), frames[p]! * block);
      const seconds = format ? `${(missing / format.sampleRate).toFixed(3)} s` : `${missing} frames`;
      const fault = `The page ended while the take was kept: the last ${seconds} of its ${part} part are silent.`;
      await this.note({ facts: { ...facts, faults: [...(facts?.faults ?? []), fault] } });
    }
    this.flush();
    return most;
  }

  /** Notes what became known: it is told to the server even if this page does not live to do so. */
  async note(more: Partial<Journal>): Promise<void> {
    this.journal = { ...this.journal, ...more };
    await writeJournal(this.journal);
  }

  /** Closes; with `remove` nothing of the take stays in the browser. */
  async close(remove: boolean): Promise<void> {
    for (const part of PARTS) this.files[part].close();
    if (!remove) return;
    const dir = await folder();
    for (const end of ['json', ...PARTS]) await dir.removeEntry(`${this.journal.id}.${end}`);
  }
}

async function writeJournal(journal: Journal): Promise<void> {
  const note = await handle(`${journal.id}.json`);
  try {
    const bytes = new TextEncoder().encode(JSON.stringify(journal));
    note.write(bytes, { at: 0 });
    note.truncate(bytes.length);
    note.flush();
  } finally {
    note.close();
  }
}

/** Takes that are still here, with the bytes of their processed part. */
export async function leftTakes(): Promise<{ journal: Journal; bytes: number }[]> {
  const found: { journal: Journal; bytes: number }[] = [];
  const dir = await folder();
  for await (const [name, entry] of dir as unknown as AsyncIterable<[string, FileSystemHandle]>) {
    if (!name.endsWith('.json')) continue;
    const text = await (await (entry as FileSystemFileHandle).getFile()).text();
    try {
      const journal = JSON.parse(text) as Journal;
      const sound = await dir.getFileHandle(`${journal.id}.processed`).catch(() => null);
      found.push({ journal, bytes: (await sound?.getFile().catch(() => null))?.size ?? 0 });
    } catch {
      // A journal that was cut off while being written has no samples yet.
    }
  }
  return found;
}
