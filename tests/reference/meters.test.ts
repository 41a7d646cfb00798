// Meters against general-purpose tools: ffmpeg's astats and ebur128, sox stat, scipy, libebur128, and real speech.
import { writeFileSync } from 'node:fs';
import path from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { PeakPyramid } from '@/core/files';
import { Measure, measureFile, onsets, Spectrum, type FileFacts } from '@/core/measure';
import { layoutOf, loudnessWeights, type LayoutId } from '@/core/speakers';
import { FileSource } from '@/server/media';
import { inBlocks, newKernels, noise, put, sine } from '../support/kernels';
import { both, folder, readWav, run, writeWav } from './tools';
import { libebur128 } from './libebur128';

const k = newKernels();
const dir = folder();
const RATE = 48000;
const VOICES = '/usr/share/sounds/alsa';

const measured = async (file: string): Promise<FileFacts> => {
  const source = await FileSource.open(file);
  return measureFile(k, source, { levels: true, dialogue: true, spectrum: true }).finally(() => source.close());
};

/** A quantity as astats prints it, per channel or overall. */
const stat = (text: string, name: string): number[] =>
  [...text.matchAll(new RegExp(`${name}: (-?[\\d.]+|-inf)`, 'g'))].map((m) => Number(m[1]));

describe('levels against ffmpeg astats and sox stat', () => {
  const file = path.join(dir, 'levels.wav');
  let text = '';
  let facts: FileFacts;
  beforeAll(async () => {
    const a = noise(RATE * 5, 0.4, 3).map((v, i) => v * (0.3 + 0.7 * Math.sin(i / 30_000) ** 2) + 0.01);
    const b = sine(RATE * 5, RATE, 331, 0.7).map((v, i) => 0.5 * v + 0.5 * a[i]!);
    writeWav(k, file, [a, b], { format: 132 });
    text = both('ffmpeg', '-i', file, '-af', 'astats', '-f', 'null', '-');
    facts = await measured(file);
  });
  it('RMS, peak, crest, direct current', () => {
    for (const c of [0, 1]) {
      expect(facts.levels![c]!.rms).toBeCloseTo(stat(text, 'RMS level dB')[c]!, 2);
      expect(facts.levels![c]!.samplePeak).toBeCloseTo(stat(text, 'Peak level dB')[c]!, 2);
      expect(10 ** (facts.levels![c]!.crest / 20)).toBeCloseTo(stat(text, 'Crest factor')[c]!, 2);
      expect(facts.levels![c]!.dc).toBeCloseTo(stat(text, 'DC offset')[c]!, 4);
    }
  });
  it('sox finds the same RMS', () => {
    const rms = Number(/RMS\s+amplitude:\s+([\d.]+)/.exec(both('sox', file, '-n', 'remix', '1', 'stat'))![1]);
    expect(facts.levels![0]!.rms).toBeCloseTo(20 * Math.log10(rms), 2);
  });
  it('scipy finds the same correlation and the same Welch spectrum', async () => {
    const script = path.join(dir, 'welch.py');
    writeFileSync(
      script,
      `import sys, json
import numpy as np
from scipy.io import wavfile
from scipy.signal import welch
rate, x = wavfile.read(sys.argv[1])
x = x.astype(float)
f, p = welch(x[:, 1], rate, window='hann', nperseg=8192, noverlap=4096, detrend=False, scaling='spectrum')
_, d = welch(x[:, 1], rate, window='hann', nperseg=8192, noverlap=4096, detrend=False, scaling='density')
c = (x[:, 0] * x[:, 1]).sum() / np.sqrt((x[:, 0] ** 2).sum() * (x[:, 1] ** 2).sum())
print(json.dumps({'density': list(d * rate / 8192), 'correlation': c}))
`,
    );
    const scipy = JSON.parse(run('python3', script, file)) as { density: number[]; correlation: number };
    expect(facts.correlations![0]!.value).toBeCloseTo(scipy.correlation, 6);
    const [, b] = await readWav(k, file);
    const s = new Spectrum(k, RATE);
    const set = put(k, [b!]);
    s.run(set.at(0), b!.length);
    s.bins().forEach((v, i) => expect(Math.abs(v - scipy.density[i]!)).toBeLessThan(1e-6 * scipy.density[i]! + 1e-15));
    s.free();
    set.free();
  });
});

describe('loudness against libebur128, for every width with a rule of its own', () => {
  // Softened at the top: what lies near half the rate, interpolators of different length see differently.
  const smoothed = (x: Float32Array) => x.map((v, i) => (i < 3 ? 0 : (v + x[i - 1]! + x[i - 2]! + x[i - 3]!) / 2));
  const parts = (width: number) =>
    Array.from({ length: width }, (_, c) =>
      smoothed(noise(RATE * 30, 0.1 + 0.02 * c, c + 1)).map((v, i) => v * (Math.floor(i / (RATE * 10)) % 2 ? 0.1 : 1)),
    );
  it.each<LayoutId>(['mono', 'stereo', '5.0', '5.1'])('%s: integrated, range, momentary, true peak', (id) => {
    const channels = parts(layoutOf(id).speakers.length);
    const file = path.join(dir, `${id}.f32`);
    const frames = channels[0]!.length;
    const mixed = new Float32Array(frames * channels.length);
    channels.forEach((c, n) => c.forEach((v, i) => (mixed[i * channels.length + n] = v)));
    writeFileSync(file, new Uint8Array(mixed.buffer));
    const theirs = libebur128(file, channels.length, RATE);
    const m = new Measure(k, RATE, loudnessWeights(layoutOf(id)), 4800);
    inBlocks(frames, 4800, (at, n) => {
      const set = put(
        k,
        channels.map((c) => c.subarray(at, at + n)),
      );
      m.run(set.table, n);
      set.free();
    });
    const ours = m.result();
    m.free();
    expect(ours.integrated).toBeCloseTo(theirs.integrated, 1);
    expect(ours.range).toBeCloseTo(theirs.range, 0);
    expect(ours.maxMomentary).toBeCloseTo(theirs.momentary, 1);
    expect(Math.abs(ours.truePeak - 20 * Math.log10(theirs.truePeak))).toBeLessThan(0.2);
  });
});

describe('speech found in recorded speech', () => {
  const names = ['Front_Center', 'Front_Left', 'Front_Right', 'Rear_Center', 'Rear_Left', 'Rear_Right'];
  const file = path.join(dir, 'spoken.wav');
  const mixed = path.join(dir, 'mixed.wav');
  beforeAll(async () => {
    const voices: Float32Array[] = [];
    for (const n of names) voices.push((await readWav(k, `${VOICES}/${n}.wav`))[0]!);
    const spoken = new Float32Array(voices.reduce((n, v) => n + v.length, 0));
    voices.reduce((at, v) => (spoken.set(v, at), at + v.length), 0);
    writeWav(k, file, [spoken]);
    const then = new Float32Array(spoken.length * 2);
    then.set(spoken);
    then.set(noise(spoken.length, 0.9, 4), spoken.length);
    writeWav(k, mixed, [then]);
  });
  it('most of it, and its loudness', async () => {
    const facts = await measured(file);
    // Each recording ends in near silence of half a second.
    expect(facts.dialogue!.share).toBeGreaterThan(0.5);
    expect(Math.abs(facts.dialogue!.loudness - facts.integrated)).toBeLessThan(1.5);
  });
  it('still the same when loud noise follows', async () => {
    const [alone, then] = [await measured(file), await measured(mixed)];
    expect(Math.abs(then.dialogue!.loudness - alone.dialogue!.loudness)).toBeLessThan(1);
    expect(then.integrated).toBeGreaterThan(alone.integrated + 6);
  });
});

afterAll(() => void run('rm', '-rf', dir));

describe('beginnings of phrases against ffmpeg silencedetect', () => {
  // Its silence ends at the first sample over the threshold; ours goes back to where the sound rises.
  it.each(['narrator', 'pilot', 'apprentice'])('%s: each ours is where one of its silences ends', async (voice) => {
    const file = path.join(dir, `${voice}.wav`);
    run('ffmpeg', '-v', 'error', '-y', '-i', `demo/lines/${voice}.flac`, '-ar', '48000', '-c:a', 'pcm_s24le', file);
    const [sound] = await readWav(k, file);
    const pyramid = new PeakPyramid(k, sound!.length, 1, 65_536);
    inBlocks(sound!.length, 65_536, (at, n) => {
      const set = put(k, [sound!.subarray(at, at + n)]);
      pyramid.run(set, n);
      set.free();
    });
    const ours = onsets(pyramid.finish()[0]!, 256, RATE).map((f) => f / RATE);
    const said = both('ffmpeg', '-i', file, '-af', 'silencedetect=noise=-50dB:d=0.1', '-f', 'null', '-');
    const theirs = [...said.matchAll(/silence_end: ([\d.]+)/g)].map((m) => Number(m[1]));
    expect(ours.length).toBeGreaterThanOrEqual(3);
    for (const at of ours)
      expect(
        theirs.some((t) => t - at > -0.006 && t - at < 0.045),
        `${at} in ${theirs}`,
      ).toBe(true);
  });
});
