import { describe, expect, it } from 'vitest';
import { newKernels, noise, put, sine } from '../../../tests/support/kernels';
import { DATA_OFFSET, encodeIxml, FrameCodec, openPcm, wavHeader } from '@/core/files';
import { labelsIn, layoutOf, type ChannelOrder } from '@/core/speakers';
import { ordersHeard, saidChannels, soundOfChannels } from '.';
import { MemorySource } from '../../../tests/support/memorySource';

const k = newKernels();
const RATE = 48_000;
const surround = layoutOf('5.1');

const ixml = (tracks: readonly string[]) =>
  encodeIxml({ project: 'P', timecodeRate: '25/1', drop: false, sampleRate: RATE, bits: 24, timeReference: 0, tracks });

function file(channels: Float32Array[], { mask = 0, tracks }: { mask?: number; tracks?: readonly string[] } = {}) {
  const frames = channels[0]!.length;
  const codec = new FrameCodec(k, 24, channels.length, frames);
  const set = put(k, channels);
  const { bytes } = codec.encode(set.table, frames);
  const out = new Uint8Array(DATA_OFFSET + bytes.length);
  out.set(
    wavHeader({
      ...{ format: 24, channels: channels.length, sampleRate: RATE, frames, mask },
      ...(tracks ? { ixml: ixml(tracks) } : {}),
    }),
  );
  out.set(bytes, DATA_OFFSET);
  return openPcm(k, new MemorySource(out));
}

/** Speech-like noise in all speakers, and what an LFE has: nothing above 120 Hz (ITU-R BS.775). */
const sounds: Record<string, Float32Array> = Object.fromEntries(
  surround.speakers.map((s, i) => [s.label, s.lfe ? sine(RATE, RATE, 60, 0.3) : noise(RATE, 0.2, i + 1)]),
);
const inOrder = (order: ChannelOrder) => labelsIn(surround, order).map((l) => sounds[l]!);
const silent = Array.from({ length: 6 }, () => new Float32Array(2_000));

describe('what a file says of its channels', () => {
  it.each(['wav', 'film', 'pairs'] as const)('their names say %s order', async (order) => {
    const stream = await file(silent, { tracks: labelsIn(surround, order) });
    expect(saidChannels(stream)).toEqual({ layout: surround, order, others: null });
  });
  it('a mask says that they stand as masks count', async () => {
    expect(saidChannels(await file(silent, { mask: 0x3f }))).toMatchObject({ layout: { id: '5.1' }, order: 'wav' });
    const twelve = Array.from({ length: 12 }, () => new Float32Array(100));
    expect(saidChannels(await file(twelve, { mask: layoutOf('7.1.4').mask }))).toMatchObject({
      layout: { id: '7.1.4' },
      order: 'wav',
    });
  });
  it('without both nobody says; names against a mask neither', async () => {
    expect(saidChannels(await file(silent))).toMatchObject({ layout: { id: '5.1' }, order: null });
    const both = await file(silent, { mask: 0x60f, tracks: labelsIn(surround, 'film') });
    expect(saidChannels(both)).toMatchObject({ layout: { id: '5.1' }, order: null });
    expect(saidChannels(await file(silent, { tracks: ['Boom', 'Lav', 'x', 'y', 'z', 'w'] })).order).toBeNull();
  });
  it('a mask whose speakers no layout has just so is told by its names', async () => {
    // Front left, right, centre, back centre.
    const four = await file(silent.slice(0, 4), { mask: 0x107 });
    expect(saidChannels(four)).toMatchObject({ layout: { id: 'quad' }, others: 'L R C Cs' });
  });
  it('two channels have one order', async () => {
    expect(saidChannels(await file(silent.slice(0, 2)))).toMatchObject({ layout: { id: 'stereo' }, order: 'wav' });
  });
  it('no layout has nine channels', async () => {
    expect(saidChannels(await file(Array.from({ length: 9 }, () => new Float32Array(10)))).layout).toBeNull();
  });
});

describe('what the sound of a file speaks for', () => {
  it.each([
    ['wav', ['wav']],
    // Both have the LFE last.
    ['film', ['film', 'pairs']],
  ] as const)('an LFE where %s order has it', async (order, heard) => {
    const sound = await soundOfChannels(k, await file(inOrder(order)));
    expect(sound.filter((s) => s.low)).toHaveLength(1);
    expect(ordersHeard(surround, sound)).toEqual(heard);
  });
  it('a silent LFE where the others have a full sound, and a centre that sounds', async () => {
    const heard = async (order: ChannelOrder, ...silenced: string[]) => {
      const channels = labelsIn(surround, order).map((l) =>
        silenced.includes(l) ? new Float32Array(RATE) : sounds[l]!,
      );
      return ordersHeard(surround, await soundOfChannels(k, await file(channels)));
    };
    expect(await heard('film', 'LFE')).toEqual(['film', 'pairs']);
    expect(await heard('wav', 'LFE')).toEqual(['wav']);
    // Read as pairs first the centre would be the silent fifth: film has it second.
    expect(await heard('film', 'Rs')).toEqual(['film']);
    expect(await heard('pairs', 'R')).toEqual(['pairs']);
  });
  it('nothing, where no channel or several hold low sounds only, or it is silent', async () => {
    const of = async (channels: Float32Array[]) =>
      ordersHeard(surround, await soundOfChannels(k, await file(channels)));
    expect(await of(silent)).toEqual([]);
    expect(await of(surround.speakers.map((_, i) => noise(RATE, 0.2, i + 1)))).toEqual([]);
    expect(await of(surround.speakers.map((_, i) => (i > 3 ? sounds.LFE! : sounds.L!)))).toEqual([]);
  });
  it('takes a voice for no LFE', async () => {
    // The lowest of a man's voice, with few overtones.
    const low = [110, 220, 330, 440, 880].map((f, i) => sine(RATE, RATE, f, 0.2 / (i + 1)));
    const voice = Float32Array.from(low[0]!, (_, i) => low.reduce((sum, x) => sum + x[i]!, 0));
    const [sound] = await soundOfChannels(k, await file([voice]));
    expect(sound).toEqual({ silent: false, low: false });
  });
});
