// Mutated files of every kind: read or refused, nothing else; no hang, no growth of memory. FUZZ_RUNS sets how many.
import { expect, it } from 'vitest';
import { newKernels, noise, put } from '../../../tests/support/kernels';
import { MemorySink } from '../../../tests/support/files';
import { layoutOf } from '@/core/speakers';
import { AudioWriter, encodeIxml, FileFault, FrameCodec, type OutputSpec, parseAudio, readFrames } from '.';
import { MemorySource } from '../../../tests/support/memorySource';
import { mutate, random } from '../../../tests/support/mutate';

const RUNS = Number(process.env.FUZZ_RUNS ?? 2000);
const k = newKernels();
const FRAMES = 64;

async function seeds(): Promise<Uint8Array[]> {
  const markers = [{ at: 5, label: 'Line 1' }];
  const ixml = encodeIxml({
    project: 'P',
    timecodeRate: '25/1',
    drop: false,
    sampleRate: 48_000,
    bits: 24,
    timeReference: 1,
    tracks: ['A'],
  });
  const bext = {
    description: 'd',
    originator: 'o',
    originatorReference: '',
    date: '2026-03-02',
    time: '10:00:00',
    timeReference: 9,
    codingHistory: '',
  };
  const bed = { layout: layoutOf('5.1'), name: 'Bed', seconds: 1, sampleRate: 48_000 };
  const specs: OutputSpec[] = [
    { kind: 'wav', format: 24, channels: 2, sampleRate: 48_000, mask: 3, markers, ixml, bext },
    { kind: 'wav', format: 16, channels: 6, sampleRate: 48_000, mask: 0x60f, bw64: true, bed },
    { kind: 'wav', format: 132, channels: 1, sampleRate: 44_100, mask: 4 },
    { kind: 'wav', format: 8, channels: 1, sampleRate: 44_100, mask: 4 },
    { kind: 'aiff', format: 24, channels: 2, sampleRate: 48_000, markers },
    { kind: 'aiff', format: 132, channels: 2, sampleRate: 96_000 },
    { kind: 'aiff', format: 16, channels: 1, sampleRate: 48_000, littleEndian: true },
  ];
  const out: Uint8Array[] = [];
  for (const spec of specs) {
    const sink = new MemorySink();
    const set = put(
      k,
      Array.from({ length: spec.channels }, (_, c) => noise(FRAMES, 0.5, c + 1)),
    );
    const writer = new AudioWriter(k, sink, spec, FRAMES);
    await writer.write(set.table, FRAMES);
    await writer.finish();
    set.free();
    out.push(sink.bytes.slice());
  }
  return out;
}

it(`${RUNS} mutated files are read or refused`, async () => {
  const good = await seeds();
  const codecs = new Map<string, FrameCodec>();
  let [read, refused] = [0, 0];
  const memory = () => k.x.memory.buffer.byteLength;
  let before = 0;
  for (let i = 0; i < RUNS; i++) {
    const next = random(i + 1);
    const bytes = mutate(good[i % good.length]!, next);
    const source = new MemorySource(bytes);
    try {
      const info = await parseAudio(source);
      expect(info.frames * info.channels, `run ${i}`).toBeLessThanOrEqual(bytes.length);
      expect(info.dataOffset, `run ${i}`).toBeLessThanOrEqual(bytes.length);
      const key = `${info.format}/${info.channels}/${info.bigEndian}`;
      let codec = codecs.get(key);
      if (!codec && codecs.size < 60)
        codecs.set(key, (codec = new FrameCodec(k, info.format, info.channels, 256, info.bigEndian)));
      codec?.decode(await readFrames(source, info, 0, 256));
      read++;
    } catch (error) {
      if (!(error instanceof FileFault)) throw new Error(`run ${i}: ${(error as Error).stack}`);
      expect(error.message, `run ${i}`).toMatch(/byte|bytes|samples/);
      refused++;
    }
    if (i === Math.floor(RUNS / 2)) before = memory();
  }
  expect(read).toBeGreaterThan(RUNS / 20);
  expect(refused).toBeGreaterThan(RUNS / 20);
  // Codecs that appear late may still take their share; files as such take none.
  expect(memory() - before).toBeLessThan(4 << 20);
}, 600_000);
