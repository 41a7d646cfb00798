import { describe, expect, it } from 'vitest';
import { FORMAT } from '../../../tests/support/session';
import { newKernels, noise } from '../../../tests/support/kernels';
import { parseFigures, stringifyFigures } from '@/core/units';
import { samplesOf } from '../../../tests/support/files';
import { printed, readerOf, provenIn } from '../../../tests/support/printed';
import { DATA_OFFSET, parseWav } from '@/core/files';
import {
  applyEdit,
  newSession,
  readEdit,
  referenceOf,
  type Deliverable,
  type EditJson,
  type SessionDoc,
} from '@/core/session';
import {
  againstBrief,
  differenceText,
  levelText,
  printName,
  safeName,
  startToken,
  sumCheck,
  sumVerdict,
  timeReference,
  withLostFigures,
} from '.';

const k = newKernels();
const FRAMES = 40_000;
const apply = (doc: SessionDoc, ...edits: EditJson[]) => edits.reduce((d, e) => applyEdit(d, readEdit(e)).doc, doc);

const sounds: Record<string, Float32Array[]> = {
  voice: [noise(FRAMES, 0.4, 3)],
  boat: [noise(FRAMES, 0.3, 5), noise(FRAMES, 0.3, 7)],
};
const read = readerOf(sounds);

const clip = (id: string, track: string, channels: number): EditJson => ({
  type: 'addClip',
  id,
  track,
  start: 0,
  media: { id, name: `${id}.wav`, channels, frames: FRAMES, sampleRate: 48000, kind: 'file' },
});

function session(...edits: EditJson[]): SessionDoc {
  return apply(
    newSession('Test', 'TS', { ...FORMAT }),
    { type: 'addTrack', id: 'a', name: 'Narrator', layout: 'mono', destination: 'nar' },
    { type: 'addTrack', id: 'b', name: 'Boat', layout: 'stereo', destination: 'efx' },
    clip('voice', 'a', 1),
    clip('boat', 'b', 2),
    ...edits,
  );
}

/** Prints into memory; returns the files by bus. */
const print = (doc: SessionDoc, options: { start?: number; end?: number; block?: number; signal?: AbortSignal } = {}) =>
  printed(k, doc, read, { end: FRAMES, ...options });

const proofOf = async (doc: SessionDoc) => provenIn(k, doc, await print(doc));

const named = (d: SessionDoc, file: Deliverable, version: number, start: number, made = '') =>
  printName(d, file, { version, made, range: { name: '', start, end: start + 1 } });

describe('names', () => {
  const doc = session();
  const d = doc.deliverables[0]!;
  it('are filled from tokens', () => {
    expect(named(doc, d, 3, 0)).toBe('TS_REF_51_100000_v03.wav');
    expect(named(doc, d, 12, 90 * 48000)).toBe('TS_REF_51_100130_v12.wav');
  });
  it('end as the files of the session do, and stand for one file a channel where it wants that', () => {
    const as = (part: Partial<SessionDoc['format']>) => named({ ...doc, format: { ...doc.format, ...part } }, d, 3, 0);
    expect(as({ fileKind: 'AIFF' })).toBe('TS_REF_51_100000_v03.aif');
    expect(as({ perChannel: true })).toBe('TS_REF_51_100000_v03_{L,R,C,LFE,Ls,Rs}.wav');
  });
  it('refuse a token that does not exist, and name those that do', () => {
    expect(() => named({ ...doc, namePattern: '{client}_{bus}' }, d, 1, 0)).toThrow(/\{client\}.*\{session\} \{bus\}/);
  });
  it('hold nothing that a system might refuse', () => {
    expect(safeName('a/b:c*d "e"')).toBe('a-b-c-d-e');
    expect(safeName('../..')).toBe('unnamed');
    expect(startToken(doc, 48000 * 3661)).toBe('110101');
  });
  it('the time reference counts samples since midnight', () => {
    expect(timeReference(doc, 48000)).toBe(36_001 * 48000);
  });
});

describe('a print', () => {
  it('writes every deliverable whole, in one pass, the same for any block size', async () => {
    const doc = session({ type: 'addStage', owner: { kind: 'bus', id: 'nar' }, id: 'n', stage: 'limiter' });
    const results = await Promise.all([64, 500, 4096].map((block) => print(doc, { block })));
    expect(results[0]!.files.every((f) => f.frames === FRAMES)).toBe(true);
    for (const r of results.slice(1)) {
      for (const [id, bytes] of r.bytes)
        expect(Buffer.compare(Buffer.from(bytes), Buffer.from(results[0]!.bytes.get(id)!)), id).toBe(0);
    }
  });
  it('takes the limiter’s delay out: the stem starts where its source starts', async () => {
    const doc = session({ type: 'addStage', owner: { kind: 'bus', id: 'nar' }, id: 'n', stage: 'limiter' });
    const { of } = await print(doc);
    const bytes = await of('nar').read(DATA_OFFSET, 18 * 10);
    const centre = (frame: number) =>
      new DataView(bytes.buffer, bytes.byteOffset).getInt16(frame * 18 + 7, true) / 32768;
    for (let i = 0; i < 10; i++) expect(centre(i)).toBeCloseTo(sounds.voice![0]![i]!, 3);
  });
  it('prints a part of the timeline', async () => {
    const whole = await print(session());
    const part = await print(session(), { start: 10_000, end: 30_000 });
    const a = (await whole.of('ref').read(DATA_OFFSET + 10_000 * 18, 20_000 * 18)).slice();
    const b = (await part.of('ref').read(DATA_OFFSET, 20_000 * 18)).slice();
    expect(Buffer.compare(Buffer.from(a), Buffer.from(b))).toBe(0);
    expect((await parseWav(part.of('ref'))).bext?.timeReference).toBe(36_000 * 48000 + 10_000);
  });
  it('stops when it is cancelled', async () => {
    const abort = new AbortController();
    abort.abort(new Error('cancelled'));
    await expect(print(session(), { signal: abort.signal })).rejects.toThrow('cancelled');
  });
  it('counts samples over full scale', async () => {
    const { files } = await print(session({ type: 'setTrack', track: 'a', level: 12 }));
    expect(files.find((f) => f.deliverable.bus === 'nar')!.overs).toBeGreaterThan(100);
    expect(files.find((f) => f.deliverable.bus === 'efx')!.overs).toBe(0);
  });
});

describe('the proof', () => {
  it('stems add up to the reference within the rounding of 24 bits', async () => {
    const { of } = await print(session());
    const check = await sumCheck(
      k,
      ['dia', 'nar', 'mus', 'efx', 'amb'].map((id) => ({ source: of(id) })),
      { source: of('ref') },
    );
    // Six roundings of half a step of 2^-23.
    expect(check.allowed).toBeCloseTo(20 * Math.log10(3 / 2 ** 23), 6);
    expect(check.difference).toBeLessThanOrEqual(check.allowed);
    expect(check).toMatchObject({ frames: FRAMES, channels: 6, stems: 5 });
  });
  it('still does with limiters that work on the stems', async () => {
    const limited: EditJson[] = ['nar', 'efx'].flatMap((bus) => [
      { type: 'addStage', owner: { kind: 'bus', id: bus }, id: `${bus}-l`, stage: 'limiter' },
      { type: 'setStage', owner: { kind: 'bus', id: bus }, stage: `${bus}-l`, values: { ceiling: -14 } },
    ]);
    const { sum } = await proofOf(session(...limited));
    expect(sum).toMatchObject({ equal: true, reasons: [] });
  });
  const differing: [string, EditJson[], RegExp][] = [
    [
      'a limiter on the reference',
      [
        { type: 'addStage', owner: { kind: 'bus', id: 'ref' }, id: 'r', stage: 'limiter' },
        { type: 'setStage', owner: { kind: 'bus', id: 'ref' }, stage: 'r', values: { ceiling: -12 } },
      ],
      /stage of its own \(limiter\)/,
    ],
    ['a level on the reference', [{ type: 'setBus', bus: 'ref', level: -1 }], /stands at -1.0 dB/],
    [
      'a level of the reference that follows the timeline',
      [
        {
          type: 'writeLane',
          target: { node: 'ref', param: 'level' },
          from: 0,
          to: 9,
          points: [{ at: 0, value: -1, shape: 'line' }],
        },
      ],
      /level of the reference follows the timeline/,
    ],
    [
      'a track without a stem',
      [{ type: 'sendTracks', tracks: ['b'], destination: 'ref' }],
      /Boat goes to the reference without a stem/,
    ],
    [
      'a stem that is not asked for',
      [{ type: 'removeDeliverable', deliverable: 'print-efx' }],
      /Effects is not in the sum: it is not printed; the largest difference is [\d.]+ s into the print, in [LR]/,
    ],
    [
      'a stem that is printed narrower',
      [{ type: 'setDeliverable', deliverable: 'print-efx', layout: 'stereo' }],
      /Effects is not in the sum: it is printed in another width than 5.1/,
    ],
  ];
  it.each(differing)('says why not: %s', async (_, edits, reason) => {
    const { sum } = await proofOf(session(...edits));
    expect(sum!.equal).toBe(false);
    expect(sum!.reasons.join('; ')).toMatch(reason);
  });
  it('does not count a stem twice that feeds another one, and says so on its file', async () => {
    const proof = await proofOf(session({ type: 'sendBus', bus: 'efx', destination: 'amb' }));
    expect(proof.sum).toMatchObject({ equal: true, reasons: [], stems: 4 });
    expect(proof.sum!.left).toEqual([{ name: 'Effects', why: 'its sound is in Ambience already' }]);
    expect(proof.sum!.counted).not.toContain('Effects');
    expect(proof.files.find((f) => f.file === 'EFX.wav')!.findings).toContainEqual({
      grade: 'stop',
      text: 'not a part of the sum: its sound is in Ambience already',
    });
  });
  it('counts a stem of other bits, within what those may round', async () => {
    const { sum } = await proofOf(session({ type: 'setDeliverable', deliverable: 'print-efx', wordLength: 16 }));
    expect(sum).toMatchObject({ equal: true, stems: 5, left: [] });
    expect(sum!.allowed).toBeGreaterThan(-90);
  });
  it('of 16 bits adds up within its rounding, and is dithered', async () => {
    const doc = session({ type: 'setFormat', wordLength: 16 }, { type: 'setTrack', track: 'a', level: -20 });
    const { sum } = await proofOf(doc);
    expect(sum).toMatchObject({ equal: true, reasons: [] });
    // The stem at -20 dB: with triangular dither of two steps its error is noise of a quarter step squared in power
    // (1/12 rounding + 2/12 dither, Lipshitz, Wannamaker, Vanderkooy 1992), without it a twelfth.
    const { of } = await print(doc);
    const [, , centre] = await samplesOf(k, of('nar'));
    const gain = 10 ** (-20 / 20);
    const power = centre!.reduce((p, v, i) => p + ((v - sounds.voice![0]![i]! * gain) * 2 ** 15) ** 2, 0) / FRAMES;
    expect(power).toBeCloseTo(3 / 12, 1);
  });
  it('keeps figures that are not finite, wherever they are stored or sent', async () => {
    const proof = await proofOf(
      session({ type: 'setTrack', track: 'a', muted: true }, { type: 'setTrack', track: 'b', muted: true }),
    );
    expect(proof.sum!.difference).toBe(-Infinity);
    const back = parseFigures(stringifyFigures(proof)) as typeof proof;
    expect(back).toEqual(proof);
    expect(back.sum!.difference).toBe(-Infinity);
    const [mus] = back.files.filter((f) => f.file === 'MUS.wav');
    expect([mus!.facts.integrated, mus!.facts.truePeak]).toEqual([-Infinity, -Infinity]);
    expect([levelText(mus!.facts.integrated, 'LUFS'), differenceText(back.sum!.difference)]).toEqual([
      'no LUFS',
      'equal to the bit',
    ]);
    // What an earlier release stored had lost them.
    const old = JSON.parse(JSON.stringify(proof)) as typeof proof;
    expect(old.sum!.difference).toBeNull();
    expect(withLostFigures(old).sum!.difference).toBe(-Infinity);
    expect(withLostFigures(old).files.every((f) => typeof f.facts.integrated === 'number')).toBe(true);
  });
  it('measures each file against the brief', async () => {
    const proof = await proofOf(session());
    const by = (token: string) => proof.files.find((f) => f.file === `${token}.wav`)!;
    expect(by('MUS').findings).toEqual([{ grade: 'warn', text: 'silent from start to end' }]);
    expect(by('NAR').findings).toEqual([]);
    expect(by('REF').findings[0]!.text).toMatch(/LUFS, asked -23.0 ±0.5/);
    expect(by('REF').facts).toMatchObject({ channels: 6, bits: 24, sampleRate: 48000, frames: FRAMES, layout: '5.1' });
    expect(proof.loudness!.momentary.length).toBe(5);
  });
  it('names every fault of a file that is not what was asked', () => {
    const doc = session();
    const facts = {
      integrated: -23,
      range: 5,
      maxMomentary: -20,
      maxShortTerm: -21,
      truePeak: 0.4,
      samplePeak: 0,
      longestSilence: 0,
      silent: false,
      hops: new Float64Array(0),
      channels: 2,
      sampleRate: 44100,
      bits: 16,
      float: false,
      frames: 5,
      seconds: 0,
      timeReference: null,
      layout: 'stereo',
      kind: 'RIFF' as const,
      notes: [],
    };
    const texts = againstBrief(doc, facts, {
      deliverable: doc.deliverables[0]!,
      channels: 6,
      frames: 10,
      start: 0,
      isReference: true,
      overs: 3,
    }).map((f) => f.text);
    expect(texts).toEqual([
      'rate 44100 Hz instead of 48000',
      '16 bit instead of 24',
      '2 channels instead of 6',
      '5 samples instead of 10',
      'starts at sample unknown instead of 1728000000',
      '3 samples over full scale',
      'true peak 0.4 over -1.0 dBTP',
    ]);
  });
  it('owns up when it finds no reason', () => {
    const check = { difference: -60, allowed: -128, frames: 10, channels: 6, stems: 5, place: null };
    const parts = { counted: ['Dialogue'], left: [] };
    expect(sumVerdict(session(), referenceOf(session())!, check, 0, parts).reasons).toEqual([
      'the session shows no reason for it; please keep this print and report it',
    ]);
    expect(sumVerdict(session(), referenceOf(session())!, { ...check, difference: -Infinity }, 0, parts).equal).toBe(
      true,
    );
  });
  it('refuses to add files of different length', async () => {
    const a = await print(session());
    const b = await print(session(), { end: 20_000 });
    await expect(sumCheck(k, [{ source: b.of('nar') }], { source: a.of('ref') })).rejects.toThrow(
      /differ in width or length/,
    );
  });
});
