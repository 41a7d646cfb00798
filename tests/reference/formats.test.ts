// Our files as sox, ffmpeg, libsndfile, flac and mediainfo read them, theirs as we do; rate conversion measured.
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { DATA_OFFSET, encodeIxml, FrameCodec, partNames, wavHeader, type SampleFormat } from '@/core/files';
import { measureStream } from '@/core/measure';
import { convertAudio, FileSource, layOut, openAudio, openFile, type ConvertTo } from '@/server/media';
import { newKernels, noise, put, sine } from '../support/kernels';
import { dB, firstDifference, peak, rms } from '../support/stages';
import { both, folder, run, writeWav, readWav } from './tools';

const k = newKernels();
const dir = folder();
const at = (name: string) => path.join(dir, name);
const RATE = 48_000;

async function convert(from: string, to: string, how: Partial<ConvertTo>) {
  const source = await FileSource.open(at(from));
  const kind = to.endsWith('.flac') ? 'flac' : /\.aif/.test(to) ? 'aiff' : 'wav';
  return convertAudio(k, source, at(to), { kind, sampleRate: RATE, format: 24, ...how }).finally(() => source.close());
}

async function samples(file: string): Promise<Float32Array[]> {
  const source = await openFile(at(file));
  const parts: Float32Array[][] = [];
  try {
    const stream = await openAudio(k, source);
    for await (const { set, frames } of stream.blocks())
      parts.push(Array.from({ length: stream.channels }, (_, c) => set.view(c, frames).slice()));
  } finally {
    await source.close();
  }
  return Array.from({ length: parts[0]?.length ?? 0 }, (_, c) => Float32Array.from(parts.flatMap((p) => [...p[c]!])));
}

const left = noise(10_001, 0.9, 3);
const right = sine(10_001, RATE, 440, 0.5);

beforeAll(() => writeWav(k, at('source.wav'), [left, right]));
afterAll(() => void run('rm', '-rf', dir));

describe('our files in other programs', () => {
  it.each<[string, SampleFormat]>([
    ['a16.aiff', 16],
    ['a24.aiff', 24],
    ['a32f.aiff', 132],
    ['w32.wav', 32],
    ['w64f.wav', 164],
    ['w16.wav', 16],
  ])('%s: sox and ffmpeg find the same samples', async (name, format) => {
    await convert('source.wav', name, { format });
    const [ours] = await samples(name);
    run('sox', '-D', at(name), '-b', '32', '-e', 'float', at(`sox-${name}.wav`));
    run('ffmpeg', '-v', 'error', '-y', '-i', at(name), '-c:a', 'pcm_f32le', at(`ff-${name}.wav`));
    for (const tool of ['sox', 'ff']) {
      const [theirs] = await readWav(k, at(`${tool}-${name}.wav`));
      expect(firstDifference(theirs!, ours!), tool).toBe(-1);
    }
    expect(both('sndfile-info', at(name))).toMatch(/Frames\s*:\s*10001/);
  });
  it.each(['each_{L,R}.wav', 'each_{L,R}.aif', 'both.aif'])(
    'the form %s: sox, ffmpeg and ourselves find the samples of the interleaved file',
    async (form) => {
      await layOut(k, at('source.wav'), at(form));
      const wanted = await samples('source.wav');
      expect(await samples(form)).toEqual(wanted);
      for (const [i, part] of partNames(form).entries()) {
        run('sox', '-D', at(part), '-b', '32', '-e', 'float', at('sox-part.wav'));
        run('ffmpeg', '-v', 'error', '-y', '-i', at(part), '-c:a', 'pcm_f32le', at('ff-part.wav'));
        for (const tool of ['sox-part.wav', 'ff-part.wav']) {
          const theirs = await readWav(k, at(tool));
          const own = form.includes('{') ? [wanted[i]!] : wanted;
          theirs.forEach((channel, c) => expect(firstDifference(channel, own[c]!), `${tool} ${part}`).toBe(-1));
        }
      }
      // What is there already is never written over, nor is anything left of a second attempt.
      await expect(layOut(k, at('source.wav'), at(form))).rejects.toThrow(/EEXIST/);
      expect(await samples(form)).toEqual(wanted);
    },
  );
  it('a FLAC of ours is whole by its own checksum, and holds the same samples', async () => {
    await convert('source.wav', 'ours.flac', {});
    expect(both('flac', '-t', at('ours.flac'))).toMatch(/ok/);
    expect(both('metaflac', '--show-total-samples', '--show-md5sum', at('ours.flac'))).toMatch(
      /10001\n(?!0{32})[0-9a-f]{32}/,
    );
    run('flac', '-d', '-s', '-o', at('back.wav'), at('ours.flac'));
    const [a, b] = [await readWav(k, at('back.wav')), await samples('source.wav')];
    a.forEach((x, c) => expect(firstDifference(x, b[c]!)).toBe(-1));
  });
  it('mediainfo and ffprobe read a file with iXML', async () => {
    const ixml = encodeIxml({
      project: 'Keel',
      take: '4',
      timecodeRate: '25/1',
      drop: false,
      sampleRate: RATE,
      bits: 24,
      timeReference: 0,
      tracks: ['Narrator', 'Pilot'],
    });
    writeWav(k, at('named.wav'), [left, right], { ixml });
    expect(both('ffprobe', '-v', 'error', '-show_format', at('named.wav'))).toContain(
      '10001'.length ? 'format_name=wav' : '',
    );
    expect(both('mediainfo', at('named.wav'))).toMatch(/Channel\(s\)\s+: 2 channels/);
  });
});

describe('files of other programs here', () => {
  const made: [string, string[]][] = [
    ['s8.wav', ['-b', '8', '-e', 'unsigned']],
    ['s16.aiff', ['-b', '16']],
    ['s24.aifc', ['-b', '24']],
    ['s32.wav', ['-b', '32']],
  ];
  it.each(made)('sox %s', async (name, options) => {
    run('sox', '-D', at('source.wav'), ...options, at(name));
    run('sox', '-D', at(name), '-b', '32', '-e', 'float', at(`${name}.f.wav`));
    const [ours, theirs] = [await samples(name), await readWav(k, at(`${name}.f.wav`))];
    ours.forEach((x, c) => expect(firstDifference(x, theirs[c]!)).toBe(-1));
  });
  it.each([
    ['sowt', ['-c:a', 'pcm_s16le', '-f', 'aiff']],
    ['fl32', ['-c:a', 'pcm_f32be', '-f', 'aiff']],
  ])('ffmpeg AIFF-C %s', async (kind, options) => {
    const name = `${kind}.aifc`;
    run('ffmpeg', '-v', 'error', '-y', '-i', at('source.wav'), ...options, at(name));
    if (kind === 'sowt') expect(readFileSync(at(name)).includes('sowt')).toBe(true);
    run('ffmpeg', '-v', 'error', '-y', '-i', at(name), '-c:a', 'pcm_f32le', at(`${kind}.f.wav`));
    const [ours, theirs] = [await samples(name), await readWav(k, at(`${kind}.f.wav`))];
    ours.forEach((x, c) => expect(firstDifference(x, theirs[c]!)).toBe(-1));
  });
  it.each([
    ['flac', ['-8', '-s', '-f']],
    ['flac small blocks', ['-0', '-b', '192', '-s', '-f']],
  ])('%s', async (name, options) => {
    run('flac', ...options, '-o', at(`${name}.flac`), at('source.wav'));
    const [ours, theirs] = [await samples(`${name}.flac`), await samples('source.wav')];
    expect(ours[0]!.length).toBe(10_001);
    ours.forEach((x, c) => expect(firstDifference(x, theirs[c]!)).toBe(-1));
  });
  it('a FLAC cut short is refused with what could be read', async () => {
    run('flac', '-s', '-f', '-o', at('cut.flac'), at('source.wav'));
    const bytes = readFileSync(at('cut.flac'));
    writeFileSync(at('cut.flac'), bytes.subarray(0, bytes.length / 2));
    await expect(samples('cut.flac')).rejects.toThrow(/damaged between byte|ends early/);
    await expect(convert('cut.flac', 'never.wav', {})).rejects.toThrow();
    expect(existsSync(at('never.wav'))).toBe(false);
  });
});

describe('every kind measures the same', () => {
  it('WAV, AIFF, FLAC: the same peak and RMS', async () => {
    const figures: number[] = [];
    for (const name of ['m.wav', 'm.aiff', 'm.flac']) {
      await convert('source.wav', name, {});
      const source = await FileSource.open(at(name));
      const facts = await measureStream(k, await openAudio(k, source), { levels: true });
      await source.close();
      expect(facts.frames).toBe(10_001);
      figures.push(facts.samplePeak, facts.levels![0]!.rms);
    }
    for (let i = 2; i < figures.length; i++) expect(figures[i]).toBeCloseTo(figures[i % 2]!, 9);
  });
});

describe('rate conversion', () => {
  /** Fits a sine of this frequency out of a signal; returns its level and what is left. */
  function fit(x: Float32Array, rate: number, freq: number): { level: number; rest: number } {
    let [cc, ss, cs, xc, xs] = [0, 0, 0, 0, 0];
    for (let i = 0; i < x.length; i++) {
      const [c, s] = [Math.cos((2 * Math.PI * freq * i) / rate), Math.sin((2 * Math.PI * freq * i) / rate)];
      cc += c * c;
      ss += s * s;
      cs += c * s;
      xc += x[i]! * c;
      xs += x[i]! * s;
    }
    const det = cc * ss - cs * cs;
    const [a, b] = [(xc * ss - xs * cs) / det, (xs * cc - xc * cs) / det];
    const left = x.map(
      (v, i) => v - a * Math.cos((2 * Math.PI * freq * i) / rate) - b * Math.sin((2 * Math.PI * freq * i) / rate),
    );
    return { level: Math.hypot(a, b), rest: rms(left) };
  }
  const rates = [44_100, 48_000, 88_200, 96_000, 192_000];
  const pairs = rates.flatMap((from) => rates.filter((to) => to !== from).map((to) => [from, to] as [number, number]));

  it.each(pairs)('%i to %i: THD+N of a tone at -125 dB or below, level kept', async (from, to) => {
    const { resample } = await import('@/core/files');
    for (const freq of [997, 15_000]) {
      const out = resample(k, sine(from / 2, from, freq, 0.9), from, to).subarray(to / 8, (to * 3) / 8);
      const { level, rest } = fit(out, to, freq);
      // 32-bit floats of source and result alone leave about -150 dB.
      expect(dB((rest * Math.SQRT2) / level), `${freq} Hz`).toBeLessThanOrEqual(-125);
      expect(dB(level / 0.9)).toBeCloseTo(0, 3);
    }
  });
  it.each(pairs.filter(([from, to]) => from > to))(
    '%i to %i: what lies above leaves no alias above -125 dB',
    async (from, to) => {
      const { resample } = await import('@/core/files');
      for (const share of [1.01, 1.1, 1.5]) {
        const freq = (to / 2) * share;
        if (freq >= from / 2) continue;
        const x = sine(from / 2, from, freq, 0.9);
        const out = resample(k, x, from, to).subarray(to / 8, (to * 3) / 8);
        expect(dB(peak(out) / 0.9), `${freq} Hz`).toBeLessThanOrEqual(-125);
      }
    },
  );
  it('95 % of the band passes: 20.9 kHz from 44.1 to 48 kHz within 0.1 dB', async () => {
    const { resample } = await import('@/core/files');
    const out = resample(k, sine(22_050, 44_100, 20_900, 0.9), 44_100, 48_000).subarray(6000, 18_000);
    expect(Math.abs(dB(fit(out, 48_000, 20_900).level / 0.9))).toBeLessThan(0.1);
  });
  it('sox rate -v gives the same within -100 dB', async () => {
    const x = new Float32Array(44_100);
    for (let f = 100; f < 19_000; f *= 1.45) sine(44_100, 44_100, f, 0.08, f).forEach((v, i) => (x[i]! += v));
    writeWav(k, at('n44.wav'), [x], { sampleRate: 44_100, format: 132 });
    run('sox', '-D', at('n44.wav'), '-b', '32', '-e', 'float', at('n48.wav'), 'rate', '-v', '48000');
    const [theirs] = await readWav(k, at('n48.wav'));
    await convert('n44.wav', 'ours48.wav', { format: 132 });
    const [ours] = await samples('ours48.wav');
    expect(ours!.length).toBe(theirs!.length);
    let top = 0;
    for (let i = 2000; i < 46_000; i++) top = Math.max(top, Math.abs(ours![i]! - theirs![i]!));
    expect(dB(top / peak(x))).toBeLessThan(-100);
  });
  it('is the same in one piece and in many', async () => {
    await convert('source.wav', 'r1.wav', { sampleRate: 44_100, format: 132 });
    const { resample } = await import('@/core/files');
    const [ours] = await samples('r1.wav');
    const [source] = await samples('source.wav');
    expect(firstDifference(ours!, resample(k, source!, RATE, 44_100))).toBe(-1);
  });
});

describe('a conversion', () => {
  it('that loses bits is dithered without being asked; one that loses none is not', async () => {
    const x = sine(RATE, RATE, 997, 0.4);
    writeWav(k, at('loud.wav'), [x], { format: 132 });
    await convert('loud.wav', 'own16.wav', { format: 16 });
    await convert('loud.wav', 'own16d.wav', { format: 16, dither: true });
    await convert('loud.wav', 'plain16.wav', { format: 16, dither: false });
    const [own, dithered, plain] = await Promise.all(['own16.wav', 'own16d.wav', 'plain16.wav'].map(samples));
    expect(firstDifference(own![0]!, dithered![0]!)).toBe(-1);
    expect(firstDifference(own![0]!, plain![0]!)).not.toBe(-1);
    await convert('plain16.wav', 'again16.wav', { format: 16 });
    expect(firstDifference((await samples('again16.wav'))[0]!, plain![0]!)).toBe(-1);
    // FLAC of 16 bits as well.
    await convert('loud.wav', 'own16.flac', { format: 16 });
    const error = (await samples('own16.flac'))[0]!.map((v, n) => v - x[n]!);
    // Rounding with triangular noise of two steps: three times the power of rounding alone.
    expect(dB(rms(error))).toBeCloseTo(dB(2 ** -15 / Math.sqrt(12)) + 4.77, 0);
  });
  it('adds its line to the coding history, and a FLAC keeps the time reference', async () => {
    const bext = {
      description: 'Voice',
      originator: 'Recorder',
      originatorReference: '',
      date: '2026-03-02',
      time: '09:00:00',
      timeReference: 36_000 * RATE + 17,
      codingHistory: 'A=PCM,F=48000,W=24,T=Recorder\r\n',
    };
    const x = noise(4_800, 0.3, 5);
    const codec = new FrameCodec(k, 24, 1, x.length);
    const set = put(k, [x]);
    const { bytes } = codec.encode(set.table, x.length);
    const header = wavHeader({ format: 24, channels: 1, sampleRate: RATE, frames: x.length, mask: 4, bext });
    writeFileSync(at('bext.wav'), Buffer.concat([header, Buffer.alloc(DATA_OFFSET - header.length), bytes]));
    const bextOf = async (name: string) => {
      const source = await FileSource.open(at(name));
      return (await openAudio(k, source).finally(() => source.close())).bext;
    };
    // EBU R 98: each step is a line of its own, the newest last.
    await convert('bext.wav', 'bext16.wav', { format: 16, sampleRate: 96_000 });
    const there = (await bextOf('bext16.wav'))!;
    expect(there.timeReference).toBe(2 * bext.timeReference);
    expect(there.codingHistory.trim().split('\r\n')).toEqual([
      'A=PCM,F=48000,W=24,T=Recorder',
      'A=PCM,F=96000,W=16,T=Wide Room conversion with dither',
    ]);
    await convert('bext.wav', 'bext.flac', {});
    run('flac', '-t', '-s', at('bext.flac'));
    expect(both('metaflac', '--list', '--block-type=APPLICATION', at('bext.flac'))).toMatch(/application ID: 72696666/);
    expect((await bextOf('bext.flac'))!.timeReference).toBe(bext.timeReference);
    await convert('bext.flac', 'bext-back.wav', {});
    expect((await bextOf('bext-back.wav'))!.timeReference).toBe(bext.timeReference);
    expect(firstDifference((await samples('bext-back.wav'))[0]!, (await samples('bext.wav'))[0]!)).toBe(-1);
  });
});

describe('dither', () => {
  it('16 bit of a quiet tone: no harmonics, noise of 16 bits and triangular dither', async () => {
    // 6.02 n + 1.76 dB for rounding alone; triangular noise of two steps adds 4.77 dB of noise.
    writeWav(k, at('quiet.wav'), [sine(RATE * 2, RATE, 997, 2 ** -14)], { format: 132 });
    await convert('quiet.wav', 'd16.wav', { format: 16, dither: true });
    await convert('quiet.wav', 'p16.wav', { format: 16, dither: false });
    const [dithered] = await samples('d16.wav');
    const x = sine(RATE * 2, RATE, 997, 2 ** -14);
    const error = dithered!.map((v, i) => v - x[i]!);
    expect(dB(rms(error))).toBeCloseTo(-(6.02 * 16 + 1.76) - 3.01 + 4.77, 0);
    const third = (y: Float32Array) => {
      let [re, im] = [0, 0];
      y.forEach((v, i) => {
        re += v * Math.cos((2 * Math.PI * 2991 * i) / RATE);
        im += v * Math.sin((2 * Math.PI * 2991 * i) / RATE);
      });
      return dB((2 * Math.hypot(re, im)) / y.length);
    };
    const [plain] = await samples('p16.wav');
    expect(third(plain!)).toBeGreaterThan(-120);
    expect(third(dithered!)).toBeLessThan(-128);
  });
});
