// Files of one channel each, read as one; headers that are rewritten around samples that stay.
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { MemorySink, samplesOf } from '../../../tests/support/files';
import { newKernels, noise, put } from '../../../tests/support/kernels';
import {
  AudioWriter,
  encodeIxml,
  JoinedSource,
  joinedName,
  type OutputSpec,
  parseAudio,
  partNames,
  renotedHeader,
  type SampleFormat,
} from '.';
import { MemorySource } from '../../../tests/support/memorySource';

const k = newKernels();
const FRAMES = 3000;
const sound = [1, 2, 3].map((seed) => noise(FRAMES, 0.9, seed));

async function written(spec: OutputSpec, channels: Float32Array[]): Promise<MemorySink> {
  const sink = new MemorySink();
  const set = put(k, channels);
  const writer = new AudioWriter(k, sink, spec, FRAMES);
  await writer.write(set.table, channels[0]!.length);
  await writer.finish();
  set.free();
  return sink;
}
const spec = (kind: 'wav' | 'aiff', format: SampleFormat, channels: number): OutputSpec =>
  kind === 'wav'
    ? { kind, format, channels, sampleRate: 48_000, mask: 0 }
    : { kind, format, channels, sampleRate: 48_000 };
const partsOf = (kind: 'wav' | 'aiff', format: SampleFormat) =>
  Promise.all(sound.map(async (s) => (await written(spec(kind, format, 1), [s])).source));

describe('names', () => {
  it.each([
    ['SP_Surf_T01_{L,R}.wav', ['SP_Surf_T01_L.wav', 'SP_Surf_T01_R.wav']],
    ['SP_Surf_T01_{L,R}_44.1k.aif', ['SP_Surf_T01_L_44.1k.aif', 'SP_Surf_T01_R_44.1k.aif']],
    ['plain.wav', ['plain.wav']],
    ['{}.wav', ['{}.wav']],
    ['a{../b,c}.wav', ['a{../b,c}.wav']],
  ])('%s', (name, parts) => expect(partNames(name)).toEqual(parts));
  it('of one channel stay plain', () => {
    expect(joinedName('SP_Nar', ['C'], '.wav')).toBe('SP_Nar.wav');
    expect(joinedName('SP_Surf', ['L', 'R'], '.aif')).toBe('SP_Surf_{L,R}.aif');
  });
});

describe('files of one channel each', () => {
  it.each([
    ['wav', 16],
    ['wav', 24],
    ['wav', 132],
    ['aiff', 16],
    ['aiff', 24],
    ['aiff', 132],
  ] as const)('%s %s hold, joined, the same samples as one interleaved WAV', async (kind, format) => {
    const joined = await JoinedSource.of(await partsOf(kind, format));
    const one = (await written(spec('wav', format, 3), sound)).source;
    expect(await parseAudio(joined)).toMatchObject({ channels: 3, frames: FRAMES, format, notes: [] });
    expect(await samplesOf(k, joined)).toEqual(await samplesOf(k, one));
  });
  it('may be read anywhere, in any pieces', async () => {
    const joined = await JoinedSource.of(await partsOf('wav', 24));
    const whole = await joined.read(0, joined.size);
    await fc.assert(
      fc.asyncProperty(fc.nat(joined.size + 50), fc.nat(5000), async (offset, length) => {
        const end = Math.min(joined.size, offset + length);
        expect(await joined.read(offset, length)).toEqual(whole.slice(offset, Math.max(offset, end)));
      }),
      { numRuns: 200 },
    );
  });
  it('are as long as the shortest', async () => {
    const [a, b] = await partsOf('wav', 24);
    const short = (await written(spec('wav', 24, 1), [sound[2]!.subarray(0, 1000)])).source;
    expect((await parseAudio(await JoinedSource.of([a!, b!, short]))).frames).toBe(1000);
  });
  it('are refused where they do not belong together', async () => {
    const [a] = await partsOf('wav', 24);
    const wide = (await written(spec('wav', 24, 2), sound.slice(0, 2))).source;
    await expect(JoinedSource.of([a!, wide])).rejects.toThrow(/File 2 of 2 has 2 channels/);
    const other = (await written(spec('wav', 16, 1), [sound[1]!])).source;
    await expect(JoinedSource.of([a!, other])).rejects.toThrow(/another rate or word length/);
  });
});

describe('notes in a file', () => {
  const ixml = {
    project: 'Test',
    scene: 'Narrator, take 3',
    take: '3',
    timecodeRate: '25/1',
    drop: false,
    sampleRate: 48_000,
    bits: 24,
    timeReference: 0,
    tracks: ['C'],
  };
  const markers = [{ at: 5, label: 'breath' }];
  it('are changed while samples, markers and length stay', async () => {
    const sink = await written(
      { kind: 'wav', format: 24, channels: 1, sampleRate: 48_000, mask: 0, ixml: encodeIxml(ixml), markers },
      [sound[0]!.subarray(0, 999)],
    );
    const before = await parseAudio(sink.source);
    const size = sink.bytes.length;
    const samples = await samplesOf(k, sink.source);
    const header = renotedHeader(before, size, { scene: '17', note: 'the warm one & best', circled: true });
    await sink.put(0, header!);
    const after = await parseAudio(sink.source);
    expect(after).toEqual({
      ...before,
      ixml: { ...before.ixml, scene: '17', note: 'the warm one & best', circled: true },
    });
    expect(after.markers).toEqual(markers);
    expect(sink.bytes.length).toBe(size);
    expect(new DataView(sink.bytes.buffer).getUint32(4, true)).toBe(size - 8);
    expect(await samplesOf(k, sink.source)).toEqual(samples);
    expect(renotedHeader(after, size, { scene: '17' })).toBeNull();
  });
  it('are left alone in files that are not ours', async () => {
    const plain = await written(spec('wav', 24, 1), [sound[0]!]);
    expect(renotedHeader(await parseAudio(plain.source), plain.bytes.length, { circled: true })).toBeNull();
    const aiff = await written(spec('aiff', 24, 1), [sound[0]!]);
    expect(renotedHeader(await parseAudio(new MemorySource(aiff.bytes)), aiff.bytes.length, { note: 'x' })).toBeNull();
  });
});
