// A file whose header is written anew while it is read.
import { expect, it } from 'vitest';
import { MemorySource } from '../../../tests/support/memorySource';
import { DATA_OFFSET, encodeIxml, parseAudio, renotedHeader, wavHeader, type ByteSource } from '.';

const FRAMES = 4_800;
const take = {
  ...{ project: 'The Lamp', timecodeRate: '25/1', drop: false, sampleRate: 48_000, bits: 24 },
  ...{ timeReference: 0, tracks: ['Pilot'], note: 'As spoken.', circled: false },
};

function takeFile(): Uint8Array {
  const ixml = encodeIxml(take);
  const bytes = new Uint8Array(DATA_OFFSET + FRAMES * 3);
  bytes.set(wavHeader({ format: 24, channels: 1, sampleRate: 48_000, frames: FRAMES, mask: 4, ixml }));
  return bytes;
}

it.each(Array.from({ length: 12 }, (_, reads) => reads))(
  'notes that are written after %i reads cost no reader the file',
  async (reads) => {
    const before = takeFile();
    const after = before.slice();
    const notes = { scene: '12', note: 'A long note. '.repeat(120), circled: true };
    after.set(renotedHeader(await parseAudio(new MemorySource(before)), before.length, notes)!);
    let done = 0;
    const source: ByteSource = {
      size: before.length,
      read: (offset, length) => new MemorySource(done++ < reads ? before : after).read(offset, length),
    };
    expect(await parseAudio(source)).toMatchObject({ frames: FRAMES, channels: 1, dataOffset: DATA_OFFSET });
  },
);
