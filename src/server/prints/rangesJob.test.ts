// Prints of several ranges, with a lead-in, at other rates, word lengths and levels, beside the brief; held against sox and ffmpeg.
import { execFileSync } from 'node:child_process';
import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { afterAll, describe, expect, it } from 'vitest';
import { samplesOf } from '../../../tests/support/files';
import { newKernels, noise, put, sine } from '../../../tests/support/kernels';
import { applied, FORMAT } from '../../../tests/support/session';
import { peak } from '../../../tests/support/stages';
import { printCheck } from '@/core/checks';
import { AudioWriter, parseAudio } from '@/core/files';
import { compareFile, filePairs, hullOf, printRanges, withFiles } from '@/core/print';
import { newSession, type EditJson, type SessionDoc } from '@/core/session';
import { stringifyFigures } from '@/core/units';
import { FileSink, openFile } from '../media';
import { reportAs } from './report';
import { runPrint } from './printJob';
import { verifyPrint } from './verify';
import { MemorySource } from '../../../tests/support/memorySource';

const k = newKernels();
const dir = mkdtempSync(path.join(tmpdir(), 'wide-room-ranges-'));
afterAll(() => rmSync(dir, { recursive: true }));

const RATE = 48_000;
const FRAMES = 6 * RATE;

async function source(name: string, sound: Float32Array): Promise<string> {
  const file = path.join(dir, `${name}.wav`);
  const sink = await FileSink.create(file);
  const writer = new AudioWriter(
    k,
    sink,
    { kind: 'wav', format: 132, channels: 1, sampleRate: RATE, mask: 4 },
    sound.length,
  );
  await writer.write(put(k, [sound]).table, sound.length);
  await writer.finish();
  await sink.close();
  return file;
}

const media = {
  voice: await source('voice', noise(FRAMES, 0.2, 3)),
  soft: await source('soft', sine(FRAMES, RATE, 997, 1e-3)),
};
const clip = (id: keyof typeof media, track: string): EditJson => ({
  ...{ type: 'addClip', id: `c-${id}`, track, start: 0 },
  media: { id, name: `${id}.wav`, channels: 1, frames: FRAMES, sampleRate: RATE, kind: 'file' },
});
const base = applied(
  newSession('Reels', 'RL', { ...FORMAT }),
  { type: 'addTrack', id: 'n', name: 'Narrator', layout: 'mono', destination: 'nar' },
  clip('voice', 'n'),
  { type: 'setRange', start: 0, end: FRAMES },
);
const all = (doc: SessionDoc) => doc.deliverables.map((d) => d.id);
const forAll = (doc: SessionDoc, part: object): EditJson[] =>
  all(doc).map((deliverable) => ({ type: 'setDeliverable', deliverable, ...part }));

let count = 0;
async function print(doc: SessionDoc) {
  const out = path.join(dir, `out-${count++}`);
  const ranges = printRanges(doc);
  const proof = await runPrint(k, { doc, media, ranges, version: 1, out, made: '2026-03-02T09:00:00Z' }, () => {});
  const file = (name: string | RegExp) =>
    path.join(
      out,
      readdirSync(out).find((f) => f.match(name))!,
    );
  const samples = async (name: string | RegExp) =>
    samplesOf(k, new MemorySource(new Uint8Array(readFileSync(file(name)))));
  const verified = async () => {
    writeFileSync(path.join(out, 'proof.json'), stringifyFigures(proof, 2));
    const sums = proof.files.flatMap((f) => f.parts.map((p) => `${p.sha256}  ${p.file}\n`));
    writeFileSync(path.join(out, 'SHA256SUMS'), sums.join(''));
    return (await verifyPrint(k, out)).filter((f) => !f.good);
  };
  const report = async () => String(await reportAs({ doc, proof, version: 1, range: hullOf(ranges) }, 'txt'));
  return { proof, out, file, samples, verified, report };
}
const stops = (proof: Awaited<ReturnType<typeof print>>['proof']) =>
  proof.files.flatMap((f) => f.findings.filter((x) => x.grade === 'stop').map((x) => x.text));

/** Integrated loudness as ffmpeg's ebur128 reads it, of a file from some seconds on. */
function ffmpegLoudness(file: string, from = 0): number {
  const args = ['-hide_banner', '-nostats', '-i', file, '-af', `atrim=start=${from},ebur128`, '-f', 'null', '-'];
  const said = execFileSync('sh', ['-c', `ffmpeg "$@" 2>&1`, 'sh', ...args], { encoding: 'utf8' });
  return Number(/I:\s+(-?[\d.]+) LUFS/g.exec(said.slice(said.lastIndexOf('Summary')))![1]);
}

describe('several ranges', () => {
  const reels = applied(
    base,
    { type: 'setSession', namePattern: '{session}_{bus}_{range}' },
    {
      ...{ type: 'setPrinting', by: 'list' },
      list: [
        { id: 'a', name: 'Reel 1', start: 0, end: 2 * RATE },
        { id: 'b', name: 'Reel 2', start: 2 * RATE, end: 5 * RATE },
      ],
    },
  );
  it('get a set of files each, which holds what one print of it would', async () => {
    const both = await print(reels);
    expect(both.proof.files).toHaveLength(2 * all(base).length);
    expect(both.proof.ranges!.map((r) => r.name)).toEqual(['Reel 1', 'Reel 2']);
    const alone = await print(applied(base, { type: 'setRange', start: 2 * RATE, end: 5 * RATE }));
    expect(await both.samples(/RL_NAR_Reel-2/)).toEqual(await alone.samples(/_NAR_/));
    expect(both.proof.ranges![1]!.sum).toMatchObject({ equal: true, frames: 3 * RATE });
    expect(
      (await parseAudio(new MemorySource(new Uint8Array(readFileSync(both.file(/RL_NAR_Reel-2/)))))).bext!
        .timeReference,
    ).toBe(36_002 * RATE);
    expect(await both.verified()).toEqual([]);
    const text = await both.report();
    expect(text).toMatch(/2 ranges, 5 s/);
    expect(text.indexOf('\nReel 1\n')).toBeLessThan(text.indexOf('\nReel 2\n'));
  });
  it('leave nothing where one of them fails, the finished ones gone as well', async () => {
    const out = path.join(dir, 'failing');
    const abort = new AbortController();
    const run = runPrint(
      k,
      { doc: reels, media, ranges: printRanges(reels), version: 1, out, made: '' },
      ({ range }) => range === 1 && abort.abort(new Error('cancelled')),
      abort.signal,
    );
    await expect(run).rejects.toThrow('cancelled');
    expect(readdirSync(out)).toEqual([]);
  });
  it('of which two would have files of one name are refused before anything is printed', async () => {
    const same = applied(reels, { type: 'setSession', namePattern: '{session}_{bus}' });
    await expect(print(same)).rejects.toThrow(/would be called RL_REF.wav.*\{range\} tells/);
  });
  it('with a stem that is silent in one of them only find no fault in that', async () => {
    const late = applied(reels, { type: 'moveClip', clip: 'c-voice', start: 2 * RATE });
    const { proof } = await print(late);
    const silent = proof.files.filter((f) => /_NAR_/.test(f.file));
    expect(silent.map((f) => f.findings.map((x) => x.grade))).toEqual([['note'], []]);
    expect(proof.files.find((f) => /_MUS_/.test(f.file))!.findings[0]!.grade).toBe('warn');
  });
});

it('a lead-in stands before the range, and is no part of what is measured and summed', async () => {
  const plain = await print(base);
  const led = await print(applied(base, { type: 'setPrinting', leadIn: 3, pop: 2 }));
  const [a, b] = [await plain.samples(/_NAR_/), await led.samples(/_NAR_/)];
  expect(b.map((c) => c.subarray(3 * RATE))).toEqual(a);
  expect(20 * Math.log10(peak(b[0]!.subarray(0, 3 * RATE)))).toBeCloseTo(-20, 2);
  const figures = (p: typeof plain.proof) =>
    p.files.map(({ facts: f }) => [f.integrated, f.truePeak, f.range, f.silent]);
  expect(figures(led.proof)).toEqual(figures(plain.proof));
  expect(led.proof.sum).toMatchObject({ equal: true, frames: FRAMES, difference: plain.proof.sum!.difference });
  expect(stops(led.proof)).toEqual([]);
  const info = await parseAudio(new MemorySource(new Uint8Array(readFileSync(led.file(/_NAR_/)))));
  expect(info.bext!.timeReference).toBe((36_000 - 3) * RATE);
  expect(await led.verified()).toEqual([]);
  expect(await led.report()).toMatch(/begins 3 s before the range, with a tone 2 s before it at -20.0 dBFS/);
  const from = led.proof.files.find((f) => /_NAR_/.test(f.file))!;
  expect(ffmpegLoudness(led.file(/_NAR_/), 3)).toBeCloseTo(from.facts.integrated, 0);
});

describe('after the mix', () => {
  it('files are converted to another rate as sox converts them, and still add up', async () => {
    const doc = applied(base, ...forAll(base, { sampleRate: 44_100 }));
    const { proof, file, samples, verified, report } = await print(doc);
    expect(stops(proof)).toEqual([]);
    expect(proof.files[0]!.facts).toMatchObject({ sampleRate: 44_100, frames: (FRAMES * 441) / 480, bits: 24 });
    expect(proof.sum).toMatchObject({ equal: true, sampleRate: 44_100 });
    const info = await parseAudio(new MemorySource(new Uint8Array(readFileSync(file(/_NAR_/)))));
    expect(info.bext!.timeReference).toBe(36_000 * 44_100);
    expect(await verified()).toEqual([]);
    expect(await report()).toMatch(/44\.1 kHz.*\n[\s\S]*converted after the mix: pass band to 95 %/);
    const by = path.join(dir, 'sox.wav');
    const plain = await print(base);
    execFileSync('sox', [plain.file(/_NAR_/), '-b', '24', by, 'rate', '-v', '44100']);
    const theirs = await samplesOf(k, new MemorySource(new Uint8Array(readFileSync(by))));
    const ours = await samples(/_NAR_/);
    // White noise reaches up to half the rate, where the two filters end differently: compared below 15 kHz.
    const low = (file: string) => {
      const to = path.join(dir, `low-${count++}.wav`);
      execFileSync('sox', [file, '-b', '32', '-e', 'float', to, 'remix', '3', 'sinc', '-15k']);
      return to;
    };
    const [x, y] = await Promise.all(
      [low(file(/_NAR_/)), low(by)].map(
        async (f) => (await samplesOf(k, new MemorySource(new Uint8Array(readFileSync(f)))))[0]!,
      ),
    );
    const middle = [4000, x!.length - 4000] as const;
    const left = peak(x!.subarray(...middle).map((v, i) => Math.abs(v - y![middle[0] + i]!)));
    expect(20 * Math.log10(left)).toBeLessThan(-90);
    expect(theirs[0]!.length).toBe(ours[0]!.length);
  });
  it('all files are brought to the loudness of the brief by one gain, and still add up', async () => {
    const doc = applied(base, { type: 'setPrinting', toTarget: true });
    const { proof, file, report } = await print(doc);
    const before = await print(base);
    const of = (p: typeof proof, name: RegExp) => p.files.find((f) => name.test(f.file))!.facts;
    expect(of(proof, /_REF_51/).integrated).toBeCloseTo(-23, 2);
    expect(proof.gain).toBeCloseTo(-23 - of(before.proof, /_REF_51/).integrated, 6);
    expect(of(proof, /_NAR_/).integrated - of(before.proof, /_NAR_/).integrated).toBeCloseTo(proof.gain!, 2);
    expect(proof.sum).toMatchObject({ equal: true });
    expect(ffmpegLoudness(file(/_REF_51/))).toBeCloseTo(-23, 0);
    expect(await report()).toMatch(new RegExp(`by the same gain: ${proof.gain! > 0 ? '\\+' : '-'}\\d+\\.\\d\\d dB`));
    // Without a reference among the files nobody knows its loudness.
    const stems = withFiles(doc, { only: doc.deliverables.filter((d) => d.bus === 'nar').map((d) => d.id) });
    await expect(print(stems)).rejects.toThrow(/its loudness is not known/);
  });
  it('shaped dither is quieter where the ear is keen, as the five-tap filter of sox makes it', async () => {
    const soft = applied(
      newSession('Soft', 'SF', { ...FORMAT }),
      { type: 'addTrack', id: 'n', name: 'Narrator', layout: 'mono', destination: 'nar' },
      clip('soft', 'n'),
      { type: 'setRange', start: 0, end: FRAMES },
    );
    const only = (dither: 'tpdf' | 'shaped') => {
      const doc = applied(soft, ...forAll(soft, { wordLength: 16, sampleRate: 44_100 }), ...forAll(soft, { dither }));
      return withFiles(doc, { only: doc.deliverables.filter((d) => d.bus === 'nar').map((d) => d.id) });
    };
    const [flat, shaped] = [await print(only('tpdf')), await print(only('shaped'))];
    /** dBFS of what a file holds in a band, as sox measures it. */
    const band = (file: string, from: number, to: number) => {
      const said = execFileSync('sh', ['-c', `sox "$1" -n remix 3 sinc ${from}-${to} stats 2>&1`, 'sh', file], {
        encoding: 'utf8',
      });
      return Number(/RMS lev dB\s+(-?[\d.]+)/.exec(said)![1]);
    };
    const theirs = path.join(dir, 'lipshitz.wav');
    // That filter of sox is one for 44.1 kHz.
    const plain = await print(
      withFiles(applied(soft, ...forAll(soft, { sampleRate: 44_100 })), {
        only: soft.deliverables.filter((d) => d.bus === 'nar').map((d) => d.id),
      }),
    );
    execFileSync('sox', [plain.file(/_NAR_/), '-b', '16', theirs, 'dither', '-f', 'lipshitz'], { stdio: 'ignore' });
    const [ours, even] = [shaped.file(/_NAR_/), flat.file(/_NAR_/)];
    for (const [from, to] of [
      [2500, 4500],
      [6000, 9000],
      [14_000, 20_000],
    ] as const)
      expect(Math.abs(band(ours, from, to) - band(theirs, from, to)), `${from} to ${to} Hz`).toBeLessThan(1.5);
    expect(band(ours, 2500, 4500)).toBeLessThan(band(even, 2500, 4500) - 10);
    expect(stops(shaped.proof)).toEqual([]);
  });
});

it('a track is printed beside the brief as it is: behind its chain and level, in its own layout', async () => {
  const doc = withFiles(applied(base, { type: 'setTrack', track: 'n', level: -6 }), { beside: ['n'] });
  const { proof, samples, report } = await print(doc);
  const row = proof.files.find((f) => f.deliverable === 'beside-n')!;
  expect(row).toMatchObject({ what: 'Narrator', layout: 'mono', findings: [] });
  const [ours] = await samples(/Narrator/);
  const given = noise(FRAMES, 0.2, 3);
  const off = peak(ours!.map((v, i) => Math.abs(v - given[i]! * 10 ** (-6 / 20))));
  expect(off).toBeLessThan(2 ** -23);
  expect(await report()).toMatch(/RL_Narrator_10_/);
});

it('a file may tell its channels by the Audio Definition Model; other programs find its sound as it was', async () => {
  const doc = applied(base, ...forAll(base, { adm: 'bed' }));
  const [told, plain] = [await print(doc), await print(base)];
  expect(stops(told.proof)).toEqual([]);
  const file = told.file(/_NAR_/);
  const info = await parseAudio(new MemorySource(new Uint8Array(readFileSync(file))));
  expect(info).toMatchObject({ kind: 'BW64', frames: FRAMES });
  // ITU-R BS.2051, sound system B (5.1).
  expect(info.adm!.labels).toEqual(['M+030', 'M-030', 'M+000', 'LFE1', 'M+110', 'M-110']);
  expect(info.bext!.loudness!.integrated).toBeCloseTo(-23, -2);
  expect(await told.samples(/_NAR_/)).toEqual(await plain.samples(/_NAR_/));
  // ffmpeg reads a BW64 (ITU-R BS.2088); mediainfo 23.04 only under the older name of the same form, and then all of the model.
  const probed = JSON.parse(
    execFileSync('ffprobe', ['-v', 'error', '-of', 'json', '-show_streams', file], { encoding: 'utf8' }),
  ) as { streams: { channel_layout: string; duration_ts: number }[] };
  expect(probed.streams[0]).toMatchObject({ channel_layout: '5.1(side)', duration_ts: FRAMES });
  const older = path.join(dir, 'older.wav');
  writeFileSync(older, Buffer.concat([Buffer.from('RF64'), readFileSync(file).subarray(4)]));
  const said = execFileSync('mediainfo', [older], { encoding: 'utf8' });
  expect(said).toMatch(/Metadata format +: ADM, Version 2/);
  expect(said).toMatch(/Programme #1 +: Reels, Narration/);
  expect(said).toMatch(/Number of track UIDs +: 6/);
  expect(said).toMatch(/End +: 00:00:06\.00000/);
  expect(await told.verified()).toEqual([]);
  expect(await told.report()).toMatch(/5\.1, ADM/);
  const apart = applied(base, { type: 'setFormat', perChannel: true });
  expect(() => applied(apart, ...forAll(apart, { adm: 'bed' }))).toThrow(/only as one interleaved WAV/);
});

it('without chains every stage is passed by, and the report says so', async () => {
  const staged = applied(
    base,
    { type: 'addStage', owner: { kind: 'bus', id: 'nar' }, id: 'x', stage: 'reverb' },
    { type: 'addStage', owner: { kind: 'track', id: 'n' }, id: 'y', stage: 'compressor' },
  );
  const [with_, without, never] = [
    await print(staged),
    await print(applied(staged, { type: 'setPrinting', withoutChains: true })),
    await print(base),
  ];
  expect(await without.samples(/_NAR_/)).toEqual(await never.samples(/_NAR_/));
  expect(await without.samples(/_NAR_/)).not.toEqual(await with_.samples(/_NAR_/));
  expect(await without.report()).toMatch(/Printed without any chain/);
});

describe('a file of objects', () => {
  const ref = base.deliverables.find((d) => d.bus === 'ref')!.id;
  const moving = applied(
    base,
    { type: 'addTrack', id: 'w', name: 'Wide', layout: 'stereo', destination: 'efx' },
    { type: 'addTrack', id: 'p', name: 'Pilot & co', layout: 'mono', destination: 'dia' },
    { ...clip('soft', 'p'), start: RATE } as EditJson,
    { type: 'placeTrack', track: 'n', placement: { azimuth: 45, distance: 1, width: 60, lfe: -100, elevation: 20 } },
    {
      ...{ type: 'writeLane', target: { node: 'p', param: 'azimuth' }, from: 0, to: FRAMES },
      points: [
        { at: 2 * RATE, value: -30, shape: 'line' },
        { at: 3 * RATE, value: 60, shape: 'line' },
      ],
    },
    { type: 'setDeliverable', deliverable: ref, adm: 'objects' },
    { type: 'setPrinting', leadIn: 1 },
  );
  it('holds each placed source for itself, says where it is and goes, and is proved again', async () => {
    const { proof, file, samples, verified, report, out } = await print(moving);
    expect(stops(proof)).toEqual([]);
    const row = proof.files[0]!;
    expect(row).toMatchObject({ deliverable: ref, what: 'Reference as objects', facts: { channels: 2, kind: 'BW64' } });
    expect(row.objects).toEqual([
      { name: 'Narrator', azimuth: 45, elevation: 20 },
      { name: 'Pilot & co', azimuth: -30, elevation: 0 },
    ]);
    const [narrator, pilot] = await samples(/_REF_/);
    const given = noise(FRAMES, 0.2, 3);
    expect(peak(narrator!.subarray(RATE).map((v, i) => v - given[i]!))).toBeLessThan(2 ** -23);
    expect(peak(pilot!.subarray(0, 2 * RATE))).toBe(0);
    expect(pilot).toHaveLength(FRAMES + RATE);
    const info = await parseAudio(new MemorySource(new Uint8Array(readFileSync(file(/_REF_/)))));
    expect(info.bext!.timeReference).toBe(35_999 * RATE);
    const xml = readFileSync(file(/_REF_/)).toString('latin1');
    const model = xml.slice(xml.indexOf('<?xml'), xml.indexOf('</ebuCoreMain>') + 14);
    const blocks = [
      ...model.matchAll(
        /AB_00031002_[0-9a-f]+" rtime="00:00:(\d\d\.\d+)" duration="00:00:(\d\d\.\d+)"><position coordinate="azimuth">(-?[\d.]+)</g,
      ),
    ];
    // At rest until the second second of the range, which is the third of the file; ten steps on its way; at rest again.
    const at = blocks.map((b) => [Number(b[1]), Number(b[3])]);
    expect(at[0]).toEqual([0, -30]);
    expect(at[1]).toEqual([3, -21]);
    expect(at[10]).toEqual([3.9, 60]);
    expect(at[11]).toEqual([4, 60]);
    expect(at).toHaveLength(12);
    // Blocks follow each other without a gap, to the end of the file.
    blocks.forEach((b, i) => expect(Number(b[1]) + Number(b[2])).toBeCloseTo(Number(blocks[i + 1]?.[1] ?? 7), 4));
    // Every reference leads to what is there (ITU-R BS.2076: each IDRef names an element of that ID).
    const ids = new Set([...model.matchAll(/ (?:\w+ID|UID)="([^"]+)"/g)].map((m) => m[1]));
    for (const [, id] of model.matchAll(/IDRef>([^<]+)</g)) expect(ids, id).toContain(id);
    expect(model).toContain('audioObjectName="Pilot &amp; co"');
    const older = path.join(dir, 'objects.wav');
    writeFileSync(older, Buffer.concat([Buffer.from('RF64'), readFileSync(file(/_REF_/)).subarray(4)]));
    const said = execFileSync('mediainfo', [older], { encoding: 'utf8' });
    expect(said).toMatch(/Number of objects +: 2/);
    expect(said).toMatch(/Number of pack formats +: 2/);
    expect(said).toMatch(/Pilot & co/);
    expect(await verified()).toEqual([]);
    expect(await report()).toMatch(/2 objects, ADM/);
    expect(readdirSync(out).filter((f) => f.startsWith('.'))).toEqual([]);
  });
  it('is not as agreed where a source of it is missing, though that was passed by', async () => {
    const out = path.join(dir, `out-${count++}`);
    const job = { doc: moving, media, ranges: printRanges(moving), version: 1, out, made: '2026-03-02T09:00:00Z' };
    const proof = await runPrint(k, { ...job, lacking: { voice: 'voice.wav is missing' } }, () => {});
    expect(proof.files[0]!.findings).toContainEqual({ grade: 'stop', text: 'voice.wav is missing' });
  });
  it('to which no object comes is told before, and not begun', async () => {
    const wide = applied(base, {
      type: 'setDeliverable',
      deliverable: base.deliverables.find((d) => d.bus === 'mus')!.id,
      adm: 'objects',
    });
    const found = printCheck(wide).find((c) => c.id.startsWith('no-objects/'))!;
    expect(printCheck(applied(wide, ...found.mends[0]!.edits)).some((c) => c.id === found.id)).toBe(false);
    await expect(print(wide)).rejects.toThrow(/would hold no object/);
  });
});

it(
  'three hundred cues are three hundred files, each under its number, in one action',
  { timeout: 120_000 },
  async () => {
    const STEP = FRAMES / 300;
    const cues = Array.from({ length: 300 }, (_, i) => ({
      ...{ id: `q${i}`, number: String(i + 1), start: i * STEP, end: (i + 1) * STEP },
      ...{ character: 'Narrator', text: 'Light.' },
    }));
    const doc = applied(
      base,
      { type: 'addCues', cues },
      { type: 'setPrinting', by: 'cues' },
      { type: 'setSession', namePattern: '{range}_{bus}' },
    );
    const { proof, out, samples } = await print(withFiles(doc, { only: [], beside: ['n'] }));
    const wavs = readdirSync(out).filter((f) => f.endsWith('.wav'));
    expect(wavs.sort()).toEqual(cues.map((c) => `${c.number}_Narrator.wav`).sort());
    expect(stops(proof)).toEqual([]);
    // One after the other they are the recording.
    const given = noise(FRAMES, 0.2, 3);
    for (const i of [0, 150, 299]) {
      const [x] = await samples(new RegExp(`^${i + 1}_Narrator`));
      expect(peak(x!.map((v, f) => v - given[i * STEP + f]!))).toBeLessThan(2 ** -23);
    }
  },
);

it('a print with a lead-in is compared with one without: what stands behind it is the same', async () => {
  const [plain, led] = [await print(base), await print(applied(base, { type: 'setPrinting', leadIn: 3, pop: 2 }))];
  const range = hullOf(printRanges(base));
  const pairs = filePairs({ proof: plain.proof, range }, { proof: led.proof, range });
  for (const pair of pairs)
    expect(
      await compareFile(k, pair, (f, of) => openFile((of === 'before' ? plain : led).file(f.file))),
      pair.what,
    ).toMatchObject({ difference: -Infinity, why: null });
});
