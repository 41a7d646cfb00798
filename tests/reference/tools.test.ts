// Our figures against general-purpose tools that know nothing of us: ffmpeg, sox, mediainfo, libsndfile.
import path from 'node:path';
import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { encodeIxml, resample } from '@/core/files';
import { measureFile } from '@/core/measure';
import { foldDown, ITU_FOLD, layoutOf } from '@/core/speakers';
import { defaultsOf, stageKind, type StageValues } from '@/core/stages';
import { newKernels, noise, put, sine } from '../support/kernels';
import { both, folder, readWav, run, writeWav } from './tools';
import { MemorySource } from '../support/memorySource';

const k = newKernels();
const dir = folder();
const at = (name: string) => path.join(dir, name);
const TEN_HOURS = 10 * 3600 * 48000;

const bext = {
  description: 'Narrator, take 3',
  originator: 'Wide Room',
  originatorReference: '',
  date: '2026-03-02',
  time: '09:30:00',
  timeReference: TEN_HOURS,
  codingHistory: '',
};
const ixml = encodeIxml({
  project: 'The Lamp at Sallow Point',
  take: '3',
  timecodeRate: '25/1',
  drop: false,
  sampleRate: 48000,
  bits: 24,
  timeReference: TEN_HOURS,
  tracks: ['L', 'R', 'C', 'LFE', 'Ls', 'Rs'],
});

describe('our 5.1 file as other programs read it', () => {
  const file = at('six.wav');
  writeWav(
    k,
    file,
    Array.from({ length: 6 }, (_, c) => noise(48000, 0.1, c + 1)),
    { mask: 0x60f, bext, ixml },
  );
  it('ffprobe: format, layout, time reference', () => {
    const facts = JSON.parse(run('ffprobe', '-v', 'error', '-of', 'json', '-show_streams', '-show_format', file)) as {
      streams: Record<string, unknown>[];
      format: { tags: Record<string, string> };
    };
    expect(facts.streams[0]).toMatchObject({
      codec_name: 'pcm_s24le',
      sample_rate: '48000',
      channels: 6,
      channel_layout: '5.1(side)',
      duration: '1.000000',
    });
    expect(facts.format.tags).toMatchObject({
      time_reference: String(TEN_HOURS),
      comment: 'Narrator, take 3',
      encoded_by: 'Wide Room',
      date: '2026-03-02',
    });
  });
  it('mediainfo: word length, channels, originator', () => {
    const facts = JSON.parse(run('mediainfo', '--Output=JSON', file)) as { media: { track: Record<string, string>[] } };
    const audio = facts.media.track.find((t) => t['@type'] === 'Audio')!;
    expect(audio).toMatchObject({
      BitDepth: '24',
      Channels: '6',
      SamplingRate: '48000',
      ChannelLayout: 'L R C LFE Ls Rs',
    });
    expect(JSON.stringify(facts)).toContain('Wide Room');
  });
  it('sox and libsndfile open it and find the same length', () => {
    expect(run('soxi', '-s', file).trim()).toBe('48000');
    expect(run('soxi', '-b', file).trim()).toBe('24');
    expect(both('sndfile-info', file)).toMatch(/Channels\s*:\s*6/);
    expect(both('sndfile-info', '--broadcast', file)).toMatch(/Time ref\s*:.*36000\.000000 seconds/);
  });
  it('sox reads the samples we wrote', async () => {
    run('sox', '-D', file, '-b', '32', '-e', 'floating-point', at('six-sox.wav'));
    const [ours, theirs] = [await readWav(k, file), await readWav(k, at('six-sox.wav'))];
    expect(theirs).toEqual(ours);
  });
});

describe('files of other programs as we read them', () => {
  it.each([
    ['16 bit', ['-b', '16']],
    ['24 bit', ['-b', '24']],
    ['32 bit', ['-b', '32']],
    ['32 bit float', ['-b', '32', '-e', 'floating-point']],
    ['64 bit float', ['-b', '64', '-e', 'floating-point']],
  ])('sox, %s', async (_, args) => {
    const file = at(`sox-${args.join('')}.wav`);
    run('sox', '-D', '-n', '-r', '48000', '-c', '2', ...args, file, 'synth', '0.5', 'sine', '1000', 'vol', '0.5');
    const [left] = await readWav(k, file);
    expect(left!.length).toBe(24000);
    expect(Math.max(...left!)).toBeCloseTo(0.5, 3);
  });
});

describe('filters against ffmpeg and sox, sample by sample', () => {
  const samples = noise(48000, 0.25, 5);
  writeWav(k, at('noise.wav'), [samples], { format: 132 });
  function ours(type: string, values: StageValues): Float32Array {
    const kind = stageKind(type);
    const runner = kind.create(k, 48000, 1);
    runner.set({ ...defaultsOf(kind), ...values }, true);
    const block = put(k, [samples]);
    runner.run(block.table, samples.length);
    return block.view(0).slice();
  }
  const worst = (a: Float32Array, b: Float32Array) =>
    20 * Math.log10(Math.max(...a.map((v, i) => Math.abs(v - b[i]!))));
  const filters: [string, StageValues, string, string[]][] = [
    [
      'lowCut',
      { frequency: 70, slope: 12 },
      'highpass=f=70:t=q:w=0.7071067811865476:p=2:r=f64',
      ['highpass', '-2', '70', '0.7071067811865476q'],
    ],
    ['eq', { f1: 1000, g1: 6, q1: 1 }, 'equalizer=f=1000:t=q:w=1:g=6:r=f64', ['equalizer', '1000', '1q', '6']],
    [
      'eq',
      { f1: 3200, g1: -4.5, q1: 2.2 },
      'equalizer=f=3200:t=q:w=2.2:g=-4.5:r=f64',
      ['equalizer', '3200', '2.2q', '-4.5'],
    ],
  ];
  it.each(filters)('%s %j', async (type, values, ffmpeg, sox) => {
    const got = ours(type, values);
    run('ffmpeg', '-v', 'error', '-y', '-i', at('noise.wav'), '-af', ffmpeg, '-c:a', 'pcm_f32le', at('ff.wav'));
    expect(worst(got, (await readWav(k, at('ff.wav')))[0]!)).toBeLessThan(-120);
    run('sox', '-D', at('noise.wav'), '-b', '32', '-e', 'floating-point', at('sx.wav'), ...sox);
    expect(worst(got, (await readWav(k, at('sx.wav')))[0]!)).toBeLessThan(-110);
  });
});

describe('measuring against ffmpeg ebur128', () => {
  // Speech-like: noise bursts of changing level below some 3 kHz, with pauses. (Of noise up to half the
  // sampling rate, true peaks depend on the interpolator's length and differ by half a decibel.)
  let low = 0;
  const bursts = (seed: number) =>
    noise(48000 * 30, 1.5, seed)
      .map((v) => (low += 0.3 * (v - low)))
      .map((v, i) => v * (0.1 + 0.9 * Math.abs(Math.sin(i / 31000))) * (Math.floor(i / 96000) % 4 === 3 ? 0.002 : 1));
  it.each([
    ['stereo', 2, 3],
    ['5.1', 6, 0x60f],
  ] as const)('%s: loudness, range, true peak', async (_, channels, mask) => {
    const file = at(`bursts-${channels}.wav`);
    writeWav(
      k,
      file,
      Array.from({ length: channels }, (_, c) => bursts(c + 11)),
      { mask },
    );
    const ours = await measureFile(k, new MemorySource(new Uint8Array(readFileSync(file))));
    const text = both(
      'ffmpeg',
      '-hide_banner',
      '-nostats',
      '-i',
      file,
      '-af',
      'ebur128=peak=true',
      '-f',
      'null',
      '-',
    ).split('Summary:')[1]!;
    const read = (name: RegExp) => Number(name.exec(text)![1]);
    expect(Math.abs(ours.integrated - read(/I:\s+(-?[\d.]+) LUFS/))).toBeLessThanOrEqual(0.1);
    // EBU Tech 3342 allows 1 LU; ffmpeg counts the first three seconds' growing window, we count full ones.
    expect(Math.abs(ours.range - read(/LRA:\s+(-?[\d.]+) LU/))).toBeLessThanOrEqual(1);
    expect(Math.abs(ours.truePeak - read(/Peak:\s+(-?[\d.]+) dBFS/))).toBeLessThanOrEqual(0.3);
  });
});

// ITU-R BS.775 as it starts, and coefficients of one's own, each given to ffmpeg by hand.
it.each([
  ['of ITU-R BS.775', {}, 'c0=c0+0.70710678*c2+0.70710678*c4|c1=c1+0.70710678*c2+0.70710678*c5'],
  [
    'of one’s own, with LFE',
    { centre: 0.5, surround: 0.35, lfe: 0.25 },
    'c0=c0+0.5*c2+0.25*c3+0.35*c4|c1=c1+0.5*c2+0.25*c3+0.35*c5',
  ],
] as const)('a fold-down with coefficients %s agrees with ffmpeg pan', async (_, options, pan) => {
  const source = Array.from({ length: 6 }, (_, c) => noise(4800, 0.2, c + 1));
  writeWav(k, at('five.wav'), source, { mask: 0x60f, format: 132 });
  run(
    'ffmpeg',
    '-v',
    'error',
    '-y',
    '-i',
    at('five.wav'),
    '-af',
    `pan=stereo|${pan}`,
    '-c:a',
    'pcm_f32le',
    at('down.wav'),
  );
  const gains = foldDown(layoutOf('5.1'), layoutOf('stereo'), { ...ITU_FOLD, ...options });
  const folded = [0, 1].map((to) =>
    source[0]!.map((_, i) => source.reduce((s, ch, from) => s + ch[i]! * gains[from]![to]!, 0)),
  );
  const theirs = await readWav(k, at('down.wav'));
  folded.forEach((ch, c) => ch.forEach((v, i) => expect(v).toBeCloseTo(theirs[c]![i]!, 5)));
});

it('our rate conversion agrees with sox rate -v in the band both pass', async () => {
  const tone = sine(44100, 44100, 5000, 0.5).map((v, i) => v * Math.min(1, i / 2000, (44100 - i) / 2000));
  writeWav(k, at('44.wav'), [tone], { sampleRate: 44100, format: 132 });
  run('sox', '-D', at('44.wav'), '-b', '32', '-e', 'floating-point', at('48.wav'), 'rate', '-v', '48000');
  const theirs = (await readWav(k, at('48.wav')))[0]!;
  const ours = resample(k, tone, 44100, 48000);
  let worst = 0;
  for (let i = 3000; i < 44000; i++) worst = Math.max(worst, Math.abs(ours[i]! - theirs[i]!));
  expect(20 * Math.log10(worst)).toBeLessThan(-90);
});
