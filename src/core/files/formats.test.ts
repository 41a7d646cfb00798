// Every kind and word length through writer and reader; chunks; recovery; bad files.
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { newKernels, noise, put } from '../../../tests/support/kernels';
import { MemorySink, samplesOf } from '../../../tests/support/files';
import { firstDifference } from '../../../tests/support/stages';
import { layoutOf } from '@/core/speakers';
import {
  aiffHeader,
  AudioWriter,
  bytesPerSample,
  DATA_OFFSET,
  decodeAdm,
  encodeAxml,
  encodeChna,
  encodeIxml,
  FileFault,
  isFloat,
  type OutputSpec,
  parseAudio,
  readExtended,
  type SampleFormat,
  writeExtended,
} from '.';
import { MemorySource } from '../../../tests/support/memorySource';

const k = newKernels();

async function write(spec: OutputSpec, channels: Float32Array[], block = 700): Promise<MemorySink> {
  const sink = new MemorySink();
  const writer = new AudioWriter(k, sink, spec, block);
  for (let at = 0; at < channels[0]!.length; at += block) {
    const set = put(
      k,
      channels.map((c) => c.subarray(at, at + block)),
    );
    await writer.write(set.table, Math.min(block, channels[0]!.length - at));
    set.free();
  }
  await writer.finish();
  return sink;
}

/** The values a format can hold that lie nearest. */
function held(x: Float32Array, format: SampleFormat): Float32Array {
  if (isFloat(format)) return x;
  const full = 2 ** (bytesPerSample(format) * 8 - 1);
  // As the encoder: to the nearest step, halves to even.
  const even = (v: number) => {
    const r = Math.round(v);
    return Math.abs(v % 1) === 0.5 && r % 2 !== 0 ? r - 1 : r;
  };
  return x.map((v) => Math.max(-1, Math.min((full - 1) / full, even(v * full) / full)));
}

const KINDS: [string, OutputSpec][] = [
  ...([8, 16, 24, 32, 132, 164] as const).map((format): [string, OutputSpec] => [
    `WAV ${format}`,
    { kind: 'wav', format, channels: 3, sampleRate: 48_000, mask: 7 },
  ]),
  ...([9, 16, 24, 32, 132, 164] as const).map((format): [string, OutputSpec] => [
    `AIFF ${format}`,
    { kind: 'aiff', format, channels: 3, sampleRate: 96_000 },
  ]),
  ['AIFF-C sowt', { kind: 'aiff', format: 16, channels: 3, sampleRate: 44_100, littleEndian: true }],
  ['BW64', { kind: 'wav', format: 24, channels: 3, sampleRate: 48_000, mask: 7, bw64: true }],
];

describe.each(KINDS)('%s', (_, spec) => {
  it('comes back to the last bit it can hold, whatever the length', async () => {
    for (const frames of [1, 2, 5, 701, 2000]) {
      const channels = [1, 2, 3].map((seed) => noise(frames, 0.99, seed));
      const file = await write({ ...spec }, channels);
      const info = await parseAudio(file.source);
      expect(info).toMatchObject({ channels: 3, sampleRate: spec.sampleRate, frames, format: spec.format, notes: [] });
      const back = await samplesOf(k, file.source);
      back.forEach((c, i) => expect(firstDifference(c, held(channels[i]!, spec.format))).toBe(-1));
      expect(file.bytes.length % 2).toBe(0);
    }
  });
  it('says its own length in its first chunk', async () => {
    const file = await write(
      { ...spec },
      [1, 2, 3].map(() => new Float32Array(33)),
    );
    const v = new DataView(file.bytes.buffer);
    const size = spec.kind === 'aiff' ? v.getUint32(4) : spec.bw64 ? v.getUint32(20, true) : v.getUint32(4, true);
    expect(size).toBe(file.bytes.length - 8);
  });
});

describe('sample rates of AIFF, 80-bit extended', () => {
  // IEEE 754 double extended: 44100 is 400E AC44 0000 0000 0000.
  it('are written as others write them', () => {
    const hex = (b: Uint8Array) => Buffer.from(b).toString('hex');
    expect(hex(writeExtended(44_100))).toBe('400eac44000000000000');
    expect(hex(writeExtended(48_000))).toBe('400ebb80000000000000');
    expect(hex(writeExtended(192_000))).toBe('4010bb80000000000000');
  });
  it('come back', () => {
    fc.assert(
      fc.property(fc.double({ min: 1, max: 1e9, noNaN: true }), (v) => {
        expect(readExtended(writeExtended(v), 0)).toBe(v);
      }),
    );
    expect(readExtended(Uint8Array.of(0x7f, 0xff, 0, 0, 0, 0, 0, 0, 0, 0), 0)).toBeNaN();
  });
});

describe('markers', () => {
  const markers = [
    { at: 0, label: 'Start' },
    { at: 480, label: 'Möwen über dem Boot' },
    { at: 999, label: '' },
  ];
  it.each<OutputSpec>([
    { kind: 'wav', format: 24, channels: 1, sampleRate: 48_000, mask: 4, markers },
    { kind: 'aiff', format: 24, channels: 1, sampleRate: 48_000, markers },
  ])('come back ($kind)', async (spec) => {
    const file = await write(spec, [noise(1001, 0.5)]);
    expect((await parseAudio(file.source)).markers).toEqual(markers);
  });
});

describe('iXML', () => {
  it('comes back with names that need care', async () => {
    const ixml = {
      project: 'A & B "Boat"',
      scene: '1 < 2',
      take: '7',
      note: 'wind',
      circled: true,
      timecodeRate: '25/1',
      drop: false,
      sampleRate: 48_000,
      bits: 24,
      timeReference: 2 ** 32 + 7,
      tracks: ['Narrator', 'Pilot <2>'],
    };
    const spec: OutputSpec = {
      kind: 'wav',
      format: 24,
      channels: 2,
      sampleRate: 48_000,
      mask: 3,
      ixml: encodeIxml(ixml),
    };
    expect((await parseAudio((await write(spec, [noise(9, 0.5), noise(9, 0.5)])).source)).ixml).toEqual(ixml);
  });
  it('that cannot be read is left out with a note; entities are not expanded', async () => {
    for (const bad of [
      '<BWFXML><PROJECT>',
      '<!DOCTYPE x [<!ENTITY a "aaaa">]><BWFXML><NOTE>&a;</NOTE></BWFXML>',
      'no xml',
    ]) {
      const spec: OutputSpec = { kind: 'wav', format: 24, channels: 1, sampleRate: 48_000, mask: 4, ixml: bad };
      const info = await parseAudio((await write(spec, [noise(9, 0.5)])).source);
      if (info.ixml === null) expect(info.notes[0]).toMatch(/iXML chunk at byte \d+ cannot be read/);
      else expect(JSON.stringify(info.ixml)).not.toContain('aaaa');
    }
  });
});

describe('ADM beds (ITU-R BS.2076, BS.2088, BS.2094; ids from memory)', () => {
  it.each(['stereo', '5.1', '7.1', '5.1.4', '7.1.4', '9.1.6'] as const)('%s: labels and name come back', async (id) => {
    const layout = layoutOf(id);
    const bed = { layout, name: 'The Keel & sons', seconds: 12.5, sampleRate: 48_000 };
    const channels = layout.speakers.map((_, i) => noise(20, 0.5, i + 1));
    const file = await write(
      { kind: 'wav', format: 24, channels: channels.length, sampleRate: 48_000, mask: layout.mask, bw64: true, bed },
      channels,
    );
    const info = await parseAudio(file.source);
    expect(info.kind).toBe('BW64');
    expect(info.adm!.labels).toEqual(layout.speakers.map((s) => s.itu));
    expect(info.adm!.name).toBe('The Keel & sons');
  });
  it('5.1 is the common pack AP_00010003, its LFE the channel AC_00010004', () => {
    const chna = new TextDecoder('latin1').decode(encodeChna(layoutOf('5.1')));
    expect(chna).toContain('AP_00010003');
    expect(chna).toContain('AT_00010004_01');
    expect(encodeAxml(layoutOf('5.1'), 'x', 3661.5, 48_000)).toContain('end="01:01:01.50000"');
  });
  it('a chunk that is cut short or speaks of other channels does no harm', () => {
    const chna = encodeChna(layoutOf('5.1'));
    expect(decodeAdm(chna.slice(0, 30), '', 6)).toBeNull();
    expect(decodeAdm(chna, '<broken', 2)!.labels).toEqual(['M+030', 'M-030']);
  });
});

describe('files that were never finished', () => {
  const spec: OutputSpec = { kind: 'wav', format: 24, channels: 2, sampleRate: 48_000, mask: 3 };
  it('read as far as they go while the header still says nothing', async () => {
    const sink = new MemorySink();
    const writer = new AudioWriter(k, sink, { ...spec }, 1000);
    const x = noise(1000, 0.5);
    const set = put(k, [x, x]);
    await writer.write(set.table, 1000);
    await writer.write(set.table, 1000);
    const info = await parseAudio(sink.source);
    expect(info.frames).toBe(2000);
    expect(info.notes[0]).toMatch(/never finished; the 12000 bytes/);
    set.free();
  });
  it.each([0, 0xffffffff])('with %i for their length', async (said) => {
    const file = await write({ ...spec }, [noise(500, 0.5), noise(500, 0.5)]);
    new DataView(file.bytes.buffer).setUint32(DATA_OFFSET - 4, said, true);
    expect((await parseAudio(file.source)).frames).toBe(500);
  });
});

describe('AIFF that is not what it claims', () => {
  const good = () => {
    const head = aiffHeader({ format: 24, channels: 2, sampleRate: 48_000, frames: 100 });
    const out = new Uint8Array(head.length + 600);
    out.set(head);
    return out;
  };
  it.each<[string, (b: Uint8Array) => Uint8Array, RegExp]>([
    ['no COMM', (b) => ((b[12] = 0x58), b), /without a "COMM" chunk/],
    ['no samples', (b) => b.slice(0, 38), /without an "SSND" chunk/],
    ['255 channels', (b) => ((b[21] = 255), b), /claims 255 channels/],
    ['a rate that is no number', (b) => b.fill(0xff, 28, 38), /a rate of NaN Hz/],
    ['7-byte samples', (b) => ((b[27] = 50), b), /are not PCM/],
  ])('%s', async (_, spoil, message) => {
    const bad = new MemorySource(spoil(good()));
    await expect(parseAudio(bad)).rejects.toThrow(message);
    await expect(parseAudio(bad)).rejects.toThrow(FileFault);
  });
  it('cut short: what is there is kept', async () => {
    const info = await parseAudio(new MemorySource(good().slice(0, -300)));
    expect(info.frames).toBe(50);
    expect(info.notes[0]).toMatch(/50 of 100 frames are missing/);
  });
  it('cannot pass 4 GB', () => {
    expect(() => aiffHeader({ format: 24, channels: 2, sampleRate: 48_000, frames: 1e9 })).toThrow(/4 GB/);
  });
});
