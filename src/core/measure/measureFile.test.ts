import { describe, expect, it } from 'vitest';
import { newKernels, noise, put, sine } from '../../../tests/support/kernels';
import { layoutOfMask } from '@/core/speakers';
import { DATA_OFFSET, FileFault, FrameCodec, parseWav, spans, wavHeader, type SampleFormat } from '@/core/files';
import { measureFile, windows } from '.';
import { MemorySource } from '../../../tests/support/memorySource';

const k = newKernels();

function file(channels: Float32Array[], format: SampleFormat = 24, mask = 0): MemorySource {
  const frames = channels[0]!.length;
  const set = put(k, channels);
  const codec = new FrameCodec(k, format, channels.length, frames);
  const { bytes } = codec.encode(set.table, frames);
  const out = new Uint8Array(DATA_OFFSET + bytes.length);
  out.set(wavHeader({ format, channels: channels.length, sampleRate: 48000, frames, mask }));
  out.set(bytes, DATA_OFFSET);
  return new MemorySource(out);
}

describe('a measured file', () => {
  it.each([16, 24, 132] as const)('has the same figures whatever its samples are stored as (%i)', async (format) => {
    const tone = sine(48000 * 4, 48000, 1000, 0.1);
    const facts = await measureFile(k, file([tone, tone], format));
    // Two channels of a sine at -20 dBFS: -20 LUFS (ITU-R BS.1770: one at 0 dBFS reads -3.01).
    expect(facts.integrated).toBeCloseTo(-20, 1);
    expect(facts.samplePeak).toBeCloseTo(-20, 1);
    expect(facts.truePeak).toBeGreaterThanOrEqual(facts.samplePeak);
    expect(facts).toMatchObject({
      channels: 2,
      sampleRate: 48000,
      frames: 192_000,
      seconds: 4,
      layout: 'stereo',
      float: format > 100,
    });
  });
  it('takes the surrounds’ weight from the channel mask', async () => {
    const tone = sine(48000 * 4, 48000, 1000, 0.1);
    const none = new Float32Array(tone.length);
    const back = await measureFile(k, file([none, none, none, none, tone, none], 24, 0x60f));
    const front = await measureFile(k, file([tone, none, none, none, none, none], 24, 0x60f));
    expect(back.integrated - front.integrated).toBeCloseTo(10 * Math.log10(1.41), 2);
    expect((await measureFile(k, file([none, none, none, tone, none, none], 24, 0x60f))).integrated).toBe(-Infinity);
  });
  it('says what is odd about it and measures what is there', async () => {
    const whole = await file([noise(48000, 0.5, 3)]).read(0, 1e9);
    const facts = await measureFile(k, new MemorySource(whole.slice(0, DATA_OFFSET + 24_000 * 3)));
    expect(facts.frames).toBe(24_000);
    expect(facts.notes[0]).toMatch(/early/);
  });
  it('is refused when it is none', async () => {
    await expect(measureFile(k, new MemorySource(new Uint8Array(100)))).rejects.toThrow(FileFault);
  });
});

describe('the layout of a file', () => {
  it.each([
    [6, 0x3f, '5.1'],
    [6, 0x60f, '5.1'],
    [5, 0x37, '5.0'],
    [2, 3, 'stereo'],
    [1, 4, 'mono'],
    [2, 0, 'stereo'],
    [4, 0x33, 'quad'],
    [3, 0, 'lcr'],
  ])('%i channels, mask %i: %s', (channels, mask, id) => {
    expect(layoutOfMask(channels, mask)?.id).toBe(id);
  });
  it('is unknown for widths that no layout has', () => {
    expect(layoutOfMask(9, 0)).toBeNull();
  });
});

it('spans cover a file once, in order, the last one short', async () => {
  const samples = noise(1000, 0.5, 9);
  const source = file([samples]);
  const info = await parseWav(source);
  const lengths: number[] = [];
  for await (const bytes of spans(source, info, 300)) lengths.push(bytes.length / 3);
  expect(lengths).toEqual([300, 300, 300, 100]);
});

it('windows are means of what they cover, from the first full one on', () => {
  expect(Array.from(windows([1, 2, 3, 4, 5], 4))).toEqual([2.5, 3.5]);
  expect(Array.from(windows([1, 2], 4))).toEqual([]);
});
