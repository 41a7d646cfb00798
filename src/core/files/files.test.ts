import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { newKernels, noise, put, sine } from '../../../tests/support/kernels';
import {
  DATA_OFFSET,
  decodeBext,
  encodeBext,
  encodeIxml,
  FileFault,
  FrameCodec,
  parseWav,
  resample,
  SampleFormat,
  wavHeader,
  type WavSpec,
} from '.';
import { MemorySource } from '../../../tests/support/memorySource';

const k = newKernels();
const spec: WavSpec = { format: 24, channels: 2, sampleRate: 48000, frames: 100, mask: 3 };

function file(s: WavSpec, bytes?: Uint8Array): MemorySource {
  const head = wavHeader(s);
  const out = new Uint8Array(head.length + (bytes?.length ?? s.frames * s.channels * 3));
  out.set(head);
  if (bytes) out.set(bytes, head.length);
  return new MemorySource(out);
}

/** Rounds halves to the even neighbour, as IEEE 754 does. */
const toEven = (x: number) => (Math.abs(x % 1) === 0.5 ? 2 * Math.round(x / 2) : Math.round(x));

describe('samples', () => {
  it.each([16, 24, 32] as const)('of %i bit come back exactly', (format) => {
    const top = 2 ** (format - 1);
    fc.assert(
      fc.property(fc.array(fc.integer({ min: -top, max: top - 1 }), { minLength: 4, maxLength: 64 }), (ints) => {
        // f32 holds 24 bits: 32-bit integers are rounded to that.
        const values = ints.map((v) => Math.fround(v / top));
        const set = put(k, [values, values.map((v) => -v / 2)]);
        const codec = new FrameCodec(k, format, 2, 64);
        const { bytes } = codec.encode(set.table, values.length);
        codec.decode(bytes.slice());
        expect(Array.from(codec.planar.view(0, values.length))).toEqual(
          values.map((v) => Math.min(v, Math.fround((top - 1) / top))),
        );
        codec.free();
        set.free();
      }),
      { numRuns: 200 },
    );
  });
  it('of 24 bit stand frame by frame, whatever the width and the length', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 9 }), fc.integer({ min: 1, max: 23 }), (channels, frames) => {
        const at = (c: number, i: number) => Math.sin(c * 31 + i * 7) * 1.2;
        const set = put(
          k,
          Array.from({ length: channels }, (_, c) => Array.from({ length: frames }, (_, i) => at(c, i))),
        );
        const codec = new FrameCodec(k, 24, channels, 32);
        const { bytes, overs } = codec.encode(set.table, frames);
        const wanted = Array.from({ length: frames * channels }, (_, n) =>
          toEven(Math.fround(at(n % channels, Math.floor(n / channels))) * 2 ** 23),
        );
        const held = wanted.map((v) => Math.max(-(2 ** 23), Math.min(2 ** 23 - 1, v)));
        expect(Array.from(held.keys(), (n) => Buffer.from(bytes).readIntLE(n * 3, 3))).toEqual(held);
        expect(overs).toBe(wanted.filter((v, n) => v !== held[n]).length);
        codec.free();
        set.free();
      }),
      { numRuns: 200 },
    );
  });
  it('beyond full scale are held there and counted', () => {
    const set = put(k, [[1.5, -1.5, 0.5, 1]]);
    const codec = new FrameCodec(k, SampleFormat.int24, 1, 4);
    const { overs, bytes } = codec.encode(set.table, 4);
    expect(overs).toBe(3);
    codec.decode(bytes.slice());
    expect(Array.from(codec.planar.view(0))).toEqual([8388607 / 8388608, -1, 0.5, 8388607 / 8388608]);
  });
  it('are dithered with triangular noise whose floor is right', () => {
    // TPDF of 2 steps peak to peak adds 1/6 step^2 to the 1/12 of rounding: 1/4 step^2 in all.
    const n = 48000;
    const set = put(k, [new Float32Array(n)]);
    const codec = new FrameCodec(k, SampleFormat.int16, 1, n);
    codec.decode(codec.encode(set.table, n, 'tpdf').bytes.slice());
    const power = codec.planar.view(0).reduce((s, v) => s + v * v, 0) / n;
    expect(power * 2 ** 30).toBeCloseTo(0.25, 1);
    expect(Math.max(...codec.planar.view(0).map(Math.abs)) * 32768).toBeLessThanOrEqual(1);
  });
});

describe('header', () => {
  it('says what it was given', async () => {
    const info = await parseWav(file({ ...spec, ixml: '<BWFXML><PROJECT>P</PROJECT></BWFXML>' }));
    expect(info).toMatchObject({
      kind: 'RIFF',
      format: 24,
      channels: 2,
      sampleRate: 48000,
      frames: 100,
      dataOffset: DATA_OFFSET,
      ixml: { project: 'P', tracks: [] },
      notes: [],
    });
  });
  it('is extensible with its mask beyond two channels (0x60F: 5.1 with side surrounds)', async () => {
    expect(await parseWav(file({ ...spec, channels: 6, mask: 0x60f }))).toMatchObject({ channels: 6, mask: 0x60f });
  });
  it('becomes RF64 beyond 4 GB (EBU Tech 3306)', async () => {
    const frames = 800_000_000;
    const head = wavHeader({ ...spec, frames });
    const info = await parseWav({ size: DATA_OFFSET + frames * 6, read: async (at, n) => head.subarray(at, at + n) });
    expect(info).toMatchObject({ kind: 'RF64', frames });
  });
  it('refuses notes that do not fit', () => {
    expect(() => wavHeader({ ...spec, ixml: 'x'.repeat(9000) })).toThrow(/too long/);
  });
});

describe('bext, EBU Tech 3285', () => {
  const bext = {
    description: 'Narrator, take 3',
    originator: 'Wide Room',
    originatorReference: '',
    date: '2026-03-02',
    time: '09:30:00',
    timeReference: 10 * 3600 * 48000,
    codingHistory: 'A=PCM\r\n',
    loudness: { integrated: -23.04, range: 5.8, maxTruePeak: -1.1, maxMomentary: -18.2, maxShortTerm: -20 },
  };
  it('comes back, with loudness in hundredths', () => {
    expect(decodeBext(encodeBext(bext))).toEqual(bext);
  });
  it('has the time reference at bytes 338 to 345 and version 2', () => {
    const view = new DataView(encodeBext({ ...bext, timeReference: 2 ** 33 + 5 }).buffer);
    expect([view.getUint32(338, true), view.getUint32(342, true), view.getUint16(346, true)]).toEqual([5, 2, 2]);
  });
});

it('iXML escapes names', () => {
  const text = encodeIxml({
    project: 'A & B',
    timecodeRate: '25/1',
    drop: false,
    sampleRate: 48000,
    bits: 24,
    timeReference: 2 ** 32 + 7,
    tracks: ['<L>', 'R'],
  });
  expect(text).toContain('<PROJECT>A &amp; B</PROJECT>');
  expect(text).toContain('<NAME>&lt;L&gt;</NAME>');
  expect(text).toContain('<TIMESTAMP_SAMPLES_SINCE_MIDNIGHT_HI>1</TIMESTAMP_SAMPLES_SINCE_MIDNIGHT_HI>');
});

describe('files that are not what they claim', () => {
  const faults: [string, (b: Uint8Array) => Uint8Array, RegExp][] = [
    ['text', () => new TextEncoder().encode('This is a letter, not a recording.'), /byte 0/],
    ['nothing', () => new Uint8Array(0), /0 bytes/],
    ['no fmt before the samples', (b) => (b.set([0x6a], 48), b), /fmt/],
    ['channels that contradict the frame size', (b) => ((b[58] = 9), b), /contradicts itself/],
    ['a code that is not PCM', (b) => ((b[56] = 0x55), b), /not PCM/],
    ['a header that ends', (b) => b.slice(0, 200), /No samples were found/],
  ];
  it.each(faults)('%s: refused with the place and the fault', async (_, spoil, message) => {
    const bytes = await file(spec).read(0, 1e6);
    await expect(parseWav(new MemorySource(spoil(bytes.slice())))).rejects.toThrow(message);
    await expect(parseWav(new MemorySource(spoil(bytes.slice())))).rejects.toThrow(FileFault);
  });
  it('a file cut short is read as far as it goes', async () => {
    const bytes = await file(spec).read(0, 1e6);
    const info = await parseWav(new MemorySource(bytes.slice(0, DATA_OFFSET + 300)));
    expect(info.frames).toBe(50);
    expect(info.notes[0]).toMatch(/300 bytes early/);
  });
  it('survives 3,000 mutations: read or refused, never anything else', async () => {
    const good = (await file({ ...spec, channels: 6, mask: 0x60f, ixml: '<BWFXML/>' }).read(0, 1e6)).slice();
    await fc.assert(
      fc.asyncProperty(
        fc.array(fc.tuple(fc.nat(good.length - 1), fc.nat(255)), { minLength: 1, maxLength: 8 }),
        fc.nat(good.length),
        async (changes, cut) => {
          const bytes = good.slice(0, cut % 3 === 0 ? cut : good.length);
          for (const [at, v] of changes) if (at < bytes.length) bytes[at < 4000 ? at % 120 : at] = v;
          try {
            const info = await parseWav(new MemorySource(bytes));
            expect(info.frames * info.channels).toBeLessThanOrEqual(bytes.length);
          } catch (error) {
            expect(error).toBeInstanceOf(FileFault);
          }
        },
      ),
      { numRuns: 3000 },
    );
  });
});

describe('rate conversion', () => {
  it.each([
    [16000, 48000],
    [44100, 48000],
    [48000, 44100],
    [96000, 48000],
  ])('%i to %i Hz keeps a tone below -90 dB of error', (from, to) => {
    const freq = 997;
    const out = resample(k, sine(from, from, freq, 0.5), from, to);
    const wanted = sine(to, to, freq, 0.5);
    let error = 0;
    for (let i = 2000; i < to - 2000; i++) error = Math.max(error, Math.abs(out[i]! - wanted[i]!));
    expect(20 * Math.log10(error / 0.5)).toBeLessThan(-90);
    expect(out.length).toBe(to);
  });
  it('lets nothing above the new limit through', () => {
    const out = resample(k, sine(48000, 48000, 23500, 0.5), 48000, 44100);
    expect(20 * Math.log10(Math.max(...out.subarray(2000, 40000).map(Math.abs)))).toBeLessThan(-80);
  });
});

it('peaks hold the smallest and largest sample of each bin', () => {
  const samples = noise(1000, 0.8, 4);
  const set = put(k, [samples]);
  const out = k.x.alloc(8 * 8);
  expect(k.x.peakBins(set.at(0), 1000, 256, out)).toBe(4);
  const pairs = k.f32(out, 8);
  for (let b = 0; b < 4; b++) {
    const bin = samples.subarray(b * 256, Math.min(1000, (b + 1) * 256));
    expect(pairs[2 * b]).toBe(Math.min(...bin));
    expect(pairs[2 * b + 1]).toBe(Math.max(...bin));
  }
});
