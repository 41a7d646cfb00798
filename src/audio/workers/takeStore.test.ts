import { afterEach, describe, expect, it, vi } from 'vitest';
import { leftTakes, TakeFiles, type Journal } from './takeStore';

const BLOCK = 3;

/** The browser's private file system, in memory; `full` lets the next write through only in part. */
function disk() {
  const files = new Map<string, Uint8Array>();
  const state = { full: false };
  const handleOf = (name: string) => ({
    write(bytes: Uint8Array, { at }: { at: number }) {
      const n = state.full ? bytes.length >> 1 : bytes.length;
      const before = files.get(name)!;
      const now = new Uint8Array(Math.max(before.length, at + n));
      now.set(before);
      now.set(bytes.subarray(0, n), at);
      files.set(name, now);
      return n;
    },
    read(into: Uint8Array, { at }: { at: number }) {
      const piece = files.get(name)!.subarray(at, at + into.length);
      into.set(piece);
      return piece.length;
    },
    truncate: (size: number) => files.set(name, files.get(name)!.slice(0, size)),
    getSize: () => files.get(name)!.length,
    flush() {},
    close() {},
  });
  const fileOf = (name: string) => ({
    createSyncAccessHandle: async () => handleOf(name),
    getFile: async () => new File([files.get(name)! as Uint8Array<ArrayBuffer>], name),
  });
  const folder = {
    async getFileHandle(name: string, { create = false } = {}) {
      if (!files.has(name)) {
        if (!create) throw new DOMException('no such file', 'NotFoundError');
        files.set(name, new Uint8Array(0));
      }
      return fileOf(name);
    },
    removeEntry: async (name: string) => void files.delete(name),
    async *[Symbol.asyncIterator]() {
      for (const name of files.keys()) yield [name, fileOf(name)];
    },
  };
  vi.stubGlobal('navigator', { storage: { getDirectory: async () => ({ getDirectoryHandle: async () => folder }) } });
  return { files, state };
}

const journal: Journal = {
  id: 'take-1',
  session: 'lamp',
  track: 'pilot',
  start: 0,
  block: BLOCK,
  format: { sampleRate: 48000, wordLength: 24 },
  chains: [[]],
};

const sound = (frames: number) => Uint8Array.from({ length: frames * BLOCK }, (_, i) => 1 + (i % 200));

describe('a take in the browser', () => {
  afterEach(() => vi.unstubAllGlobals());

  it('loses no frame when its page ends between the writes of its parts, and says so', async () => {
    disk();
    const files = await TakeFiles.create(journal);
    files.write('processed', sound(4800), 0);
    files.write('dry', sound(2400), 0);
    await files.close(false);
    const [left] = await leftTakes();
    const again = await TakeFiles.open(left!.journal);
    expect(await again.evened()).toBe(4800);
    expect(again.size('dry')).toBe(4800 * BLOCK);
    expect(again.read('dry', 0, 2400 * BLOCK)).toEqual(sound(2400));
    expect(again.read('dry', 2400 * BLOCK, 2400 * BLOCK).every((b) => b === 0)).toBe(true);
    expect(again.read('processed', 0, 4800 * BLOCK)).toEqual(sound(4800));
    expect(again.journal.facts?.faults).toEqual([
      'The page ended while the take was kept: the last 0.050 s of its dry part are silent.',
    ]);
    // What was told is kept, for the page after the next.
    expect((await leftTakes())[0]!.journal.facts?.faults).toHaveLength(1);
  });

  it('leaves a take as it is whose parts are alike, but for a frame that was cut off', async () => {
    disk();
    const files = await TakeFiles.create(journal);
    files.write('processed', sound(10), 0);
    files.write('dry', sound(10), 0);
    files.write('processed', Uint8Array.of(1, 2), 30);
    expect(await files.evened()).toBe(10);
    expect(files.journal.facts).toBeUndefined();
  });

  it('throws when the disk is full, and keeps at the same place when there is room', async () => {
    const { state } = disk();
    const files = await TakeFiles.create(journal);
    state.full = true;
    expect(() => files.write('processed', sound(10), 0)).toThrow(/full/);
    state.full = false;
    files.write('processed', sound(10), 0);
    expect(files.read('processed', 0, 30)).toEqual(sound(10));
  });
});
