import { existsSync, mkdtempSync, readFileSync, readdirSync, rmSync, utimesSync, writeFileSync } from 'node:fs';
import { execFileSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { afterAll, describe, expect, it } from 'vitest';
import { samplesOf } from '../../../tests/support/files';
import { newKernels, noise, put } from '../../../tests/support/kernels';
import { firstDifference } from '../../../tests/support/stages';
import { printCheck } from '@/core/checks';
import { applied, FORMAT } from '../../../tests/support/session';
import { DATA_OFFSET, FrameCodec, parseAudio, parseWav, wavHeader } from '@/core/files';
import { frozenFrom, newSession, type EditJson } from '@/core/session';
import type { PrintJob } from './job';
import { runPrint } from './printJob';
import { stringifyFigures } from '@/core/units';
import { reportAs } from './report';
import { verifyPrint } from './verify';
import { sourceChecks } from '../media';
import { MemorySource } from '../../../tests/support/memorySource';

const k = newKernels();
const dir = mkdtempSync(path.join(tmpdir(), 'wide-room-job-'));
afterAll(() => rmSync(dir, { recursive: true }));

const FRAMES = 96_000;
const voice = path.join(dir, 'voice.wav');
{
  const set = put(k, [noise(FRAMES, 0.2, 3)]);
  const codec = new FrameCodec(k, 24, 1, FRAMES);
  const out = new Uint8Array(DATA_OFFSET + FRAMES * 3);
  out.set(wavHeader({ format: 24, channels: 1, sampleRate: 48000, frames: FRAMES, mask: 4 }));
  out.set(codec.encode(set.table, FRAMES).bytes, DATA_OFFSET);
  writeFileSync(voice, out);
}

const edits: EditJson[] = [
  { type: 'addTrack', id: 'n', name: 'Narrator', layout: 'mono', destination: 'nar' },
  {
    type: 'addClip',
    id: 'c',
    track: 'n',
    start: 0,
    media: { id: 'voice', name: 'voice.wav', channels: 1, frames: FRAMES, sampleRate: 48000, kind: 'file' },
  },
];
const doc = applied(newSession('Job', 'JB', { ...FORMAT }), ...edits);
let count = 0;
const job = ({ range, ...part }: Partial<PrintJob> & { range?: { start: number; end: number } } = {}): PrintJob => ({
  doc,
  media: { voice },
  ranges: [{ name: '', ...(range ?? { start: 0, end: FRAMES }) }],
  version: 1,
  out: path.join(dir, `out-${count++}`),
  made: '2026-03-02T09:00:00Z',
  ...part,
});

describe('a print on disk', () => {
  it('is what its proof says: checksums, sizes, loudness in the header', async () => {
    const j = job();
    const shares: number[] = [];
    const proof = await runPrint(k, j, ({ share }) => shares.push(share));
    expect(shares).toEqual(shares.toSorted((a, b) => a - b));
    expect(shares.at(-1)).toBe(1);
    expect(readdirSync(j.out).sort()).toEqual(proof.files.map((f) => f.file).sort());
    for (const f of proof.files) {
      const bytes = readFileSync(path.join(j.out, f.file));
      const sha256 = createHash('sha256').update(bytes).digest('hex');
      expect(f.parts).toEqual([{ file: f.file, sha256, bytes: bytes.length }]);
      const info = await parseWav(new MemorySource(new Uint8Array(bytes)));
      expect(info).toMatchObject({ channels: 6, frames: FRAMES, mask: 0x60f });
      expect(info.bext!.timeReference).toBe(36_000 * 48000);
      // EBU Tech 3285 version 2: hundredths of LUFS.
      if (!f.facts.silent) expect(info.bext!.loudness!.integrated).toBeCloseTo(f.facts.integrated, 1);
    }
    expect(proof.sum).toMatchObject({ equal: true, stems: 5 });
  });
  it('never replaces a file, and then leaves nothing else behind', async () => {
    const j = job();
    await runPrint(k, j, () => {});
    const before = readFileSync(path.join(j.out, 'JB_NAR_51_100000_v01.wav'));
    rmSync(path.join(j.out, 'JB_REF_51_100000_v01.wav'));
    await expect(runPrint(k, j, () => {})).rejects.toThrow(/nothing is overwritten/);
    expect(readFileSync(path.join(j.out, 'JB_NAR_51_100000_v01.wav')).equals(before)).toBe(true);
    expect(existsSync(path.join(j.out, 'JB_REF_51_100000_v01.wav'))).toBe(false);
  });
  it('is the same from two threads as from one', async () => {
    const [one, two] = [job(), job({ threads: 2 })];
    const [a, b] = [await runPrint(k, one, () => {}), await runPrint(k, two, () => {})];
    expect(b.files.map((f) => f.parts)).toEqual(a.files.map((f) => f.parts));
    expect(b.sum).toEqual(a.sum);
  });
  it.each([
    ['AIFF', false, 'JB_NAR_51_100000_v01.aif'],
    ['Broadcast WAV', true, 'JB_NAR_51_100000_v01_C.wav'],
    ['AIFF', true, 'JB_NAR_51_100000_v01_C.aif'],
  ] as const)('as %s, a file per channel: %s, holds the same samples', async (fileKind, perChannel, one) => {
    const j = job({ doc: applied(doc, { type: 'setFormat', fileKind, perChannel }) });
    const plain = await runPrint(k, job(), () => {});
    const proof = await runPrint(k, j, () => {});
    expect(readdirSync(j.out)).toContain(one);
    expect(readdirSync(j.out).sort()).toEqual(proof.files.flatMap((f) => f.parts.map((p) => p.file)).sort());
    // The facts are measured in the files as they lie there.
    const figures = (p: typeof proof) =>
      p.files.map(({ facts: f }) => [f.integrated, f.truePeak, f.frames, f.channels]);
    expect(figures(proof)).toEqual(figures(plain));
    // Only the names of the files differ.
    const { files: _, ...sum } = plain.sum!;
    expect(proof.sum).toMatchObject(sum);
    expect(proof.files.flatMap((f) => f.findings.filter((x) => x.grade === 'stop'))).toEqual([]);
    const info = await parseAudio(new MemorySource(new Uint8Array(readFileSync(path.join(j.out, one)))));
    if (fileKind === 'AIFF') expect(info.markers).toEqual([{ at: 0, label: 'starts at 10:00:00:00' }]);
    else expect(info).toMatchObject({ channels: 1, bext: { timeReference: 36_000 * 48000 }, ixml: { tracks: ['C'] } });
    await expect(runPrint(k, j, () => {})).rejects.toThrow(/nothing is overwritten/);
  });
  it('gives each file the form that is asked for it', async () => {
    const [nar, ref] = ['nar', 'ref'].map((bus) => doc.deliverables.find((d) => d.bus === bus)!.id) as [string, string];
    const asked = applied(
      doc,
      { type: 'setDeliverable', deliverable: nar, fileKind: 'AIFF' },
      { type: 'setDeliverable', deliverable: ref, perChannel: true },
    );
    const j = job({ doc: asked });
    const [plain, proof] = [await runPrint(k, job(), () => {}), await runPrint(k, j, () => {})];
    const names = readdirSync(j.out);
    expect(names).toContain('JB_NAR_51_100000_v01.aif');
    expect(names.filter((n) => n.startsWith('JB_REF_51'))).toHaveLength(6);
    expect(proof.files.flatMap((f) => f.findings.filter((x) => x.grade === 'stop'))).toEqual([]);
    expect(proof.files.map((f) => f.facts.integrated)).toEqual(plain.files.map((f) => f.facts.integrated));
    expect(proof.sum!.difference).toEqual(plain.sum!.difference);
  });
  it('that fails in one of two threads leaves nothing behind and says why', async () => {
    const broken = job({ media: {}, threads: 2 });
    await expect(runPrint(k, broken, () => {})).rejects.toThrow(
      /voice.wav could not be read at 0.00 s \(it is missing\): voice.wav on Narrator at 10:00:00:00/,
    );
    expect(readdirSync(broken.out)).toEqual([]);
    const abort = new AbortController();
    const cancelled = job({ threads: 2 });
    await expect(runPrint(k, cancelled, () => abort.abort(new Error('enough')), abort.signal)).rejects.toThrow(
      'enough',
    );
    expect(readdirSync(cancelled.out)).toEqual([]);
  });
  it('that is cancelled or fails removes what it had begun', async () => {
    const cancelled = job();
    const abort = new AbortController();
    const run = runPrint(k, cancelled, () => abort.abort(new Error('enough')), abort.signal);
    await expect(run).rejects.toThrow('enough');
    expect(readdirSync(cancelled.out)).toEqual([]);
    const broken = job({ media: {} });
    await expect(runPrint(k, broken, () => {})).rejects.toThrow(
      /voice.wav could not be read at 0.00 s \(it is missing\): voice.wav on Narrator at 10:00:00:00/,
    );
    expect(readdirSync(broken.out)).toEqual([]);
  });
  describe('of a source that was cut short', () => {
    const short = path.join(dir, 'short.wav');
    const whole = readFileSync(voice);
    writeFileSync(short, whole.subarray(0, DATA_OFFSET + 60_000 * 3));
    const uses = { voice: short };
    it('is stopped, with file, place and clip', async () => {
      const [one, two] = [job({ media: uses }), job({ media: uses, threads: 2 })];
      for (const j of [one, two]) {
        await expect(runPrint(k, j, () => {})).rejects.toThrow(
          /voice.wav could not be read at 1.25 s \(it ends there\): voice.wav on Narrator at 10:00:00:00 would be silent there/,
        );
        expect(readdirSync(j.out)).toEqual([]);
      }
    });
    it('is found before it is printed', async () => {
      const [check] = await sourceChecks(doc, uses, { start: 0, end: FRAMES });
      expect(check).toMatchObject({ id: 'source/voice', grade: 'stop', about: ['n'] });
      expect(check!.title).toMatch(/voice.wav ends 0.75 s before its end/);
      expect((await sourceChecks(doc, {}, { start: 0, end: FRAMES }))[0]!.title).toMatch(/is not known/);
      expect(
        (await sourceChecks(doc, { voice: path.join(dir, 'gone.wav') }, { start: 0, end: FRAMES }))[0]!.title,
      ).toMatch(/is missing/);
      expect(await sourceChecks(doc, { voice }, { start: 0, end: FRAMES })).toEqual([]);
      expect(await sourceChecks(doc, uses, { start: FRAMES, end: 2 * FRAMES })).toEqual([]);
    });
    it('knowingly is printed as far as it goes, and each file that lacks it says so', async () => {
      const lacking = { voice: 'voice.wav ends 0.75 s before its end' };
      const proof = await runPrint(k, job({ media: uses, lacking }), () => {});
      const of = (token: string) => proof.files.find((f) => f.file.includes(`_${token}_`))!.findings.map((f) => f.text);
      expect(of('NAR')).toContain(lacking.voice);
      expect(of('REF')).toContain(lacking.voice);
      expect(of('MUS')).not.toContain(lacking.voice);
    });
    it('or changed while it is read is told, and nothing is left behind', async () => {
      const own = path.join(dir, 'own.wav');
      writeFileSync(own, whole);
      const j = job({ media: { voice: own } });
      let touched = false;
      const run = runPrint(k, j, () => {
        if (!touched) utimesSync(own, new Date(), new Date(2_000_000_000_000));
        touched = true;
      });
      await expect(run).rejects.toThrow(/voice.wav was changed while it was read/);
      expect(readdirSync(j.out)).toEqual([]);
    });
  });
  it('has no name until it is sealed', async () => {
    const j = job();
    const seen = new Set<string>();
    await runPrint(k, j, ({ share }) => share <= 0.5 && readdirSync(j.out).forEach((f) => seen.add(f)));
    expect(seen.size).toBeGreaterThan(0);
    expect([...seen].every((f) => f.startsWith('.'))).toBe(true);
    expect(readdirSync(j.out).some((f) => f.startsWith('.'))).toBe(false);
  });
  it('is proved again by anyone; a figure, a file or a list that was changed is named', async () => {
    const j = job();
    const proof = await runPrint(k, j, () => {});
    const list = () => proof.files.flatMap((f) => f.parts.map((p) => `${p.sha256}  ${p.file}\n`));
    const keep = (changed: unknown, sums = list()) => {
      writeFileSync(path.join(j.out, 'proof.json'), stringifyFigures(changed, 2));
      writeFileSync(path.join(j.out, 'SHA256SUMS'), sums.join(''));
    };
    const wrong = async () => (await verifyPrint(k, j.out)).filter((f) => !f.good).map((f) => `${f.what}: ${f.found}`);
    keep(proof);
    const all = await verifyPrint(k, j.out);
    expect(all.every((f) => f.good)).toBe(true);
    // Checksums and figures of each, and one sum.
    expect(all).toHaveLength(2 * proof.files.length + 1);
    const [first] = proof.files;
    keep({ ...proof, files: [{ ...first!, facts: { ...first!.facts, integrated: -23 } }, ...proof.files.slice(1)] });
    expect(await wrong()).toEqual([expect.stringMatching(/^figures of .*integrated is -\d.*proven was -23$/)]);
    keep({ ...proof, sum: { ...proof.sum!, difference: -20 } });
    expect(await wrong()).toEqual([expect.stringMatching(/^stems against Reference: .*proven was -20.0 dBFS/)]);
    keep(proof, list().slice(1));
    expect(await wrong()).toEqual(
      expect.arrayContaining([
        expect.stringMatching(/does not stand in SHA256SUMS/),
        expect.stringMatching(/is no part of the print/),
      ]),
    );
    keep(proof);
    rmSync(path.join(j.out, first!.file));
    expect(await wrong()).toEqual(expect.arrayContaining([`${first!.file}: is missing`]));
    for (const odd of [null, { files: [null] }, { files: [{ file: 'x' }] }, { files: [], sum: { files: {} } }]) {
      writeFileSync(path.join(j.out, 'proof.json'), JSON.stringify(odd));
      await expect(verifyPrint(k, j.out)).rejects.toThrow(/proof.json cannot be read/);
    }
    writeFileSync(path.join(j.out, 'proof.json'), '{');
    await expect(verifyPrint(k, j.out)).rejects.toThrow(/proof.json cannot be read/);
  });
  describe('with a tail', () => {
    // A reverb of two seconds behind a voice that goes on past the end of the range.
    const wet = applied(
      doc,
      { type: 'addStage', owner: { kind: 'bus', id: 'nar' }, id: 'r', stage: 'reverb' },
      { type: 'setStage', owner: { kind: 'bus', id: 'nar' }, stage: 'r', values: { decay: 2, mix: 30 } },
    );
    const HALF = FRAMES / 2;
    const range = { start: 0, end: HALF };
    const framesOf = async (proof: Awaited<ReturnType<typeof runPrint>>) =>
      new Set(proof.files.map((f) => f.facts.frames));
    const samples = async (out: string) => {
      const file = readdirSync(out).find((f) => f.includes('_NAR_'))!;
      return samplesOf(k, new MemorySource(new Uint8Array(readFileSync(path.join(out, file)))));
    };
    it('goes on until all files have decayed, equally long, and is the same before', async () => {
      const dry = job({ doc: wet, range });
      await runPrint(k, dry, () => {});
      const long = job({ doc: applied(wet, { type: 'setWork', tail: 'decayed' }), range });
      const proof = await runPrint(k, long, () => {});
      const [frames, ...others] = await framesOf(proof);
      expect(others).toEqual([]);
      // 60 dB in two seconds; what is there at its end has decayed by as much.
      expect((frames! - HALF) / 48_000).toBeGreaterThan(1);
      expect((frames! - HALF) / 48_000).toBeLessThan(2.6);
      expect(proof.tail).toBeCloseTo((frames! - HALF) / 48_000, 9);
      expect(proof.sum).toMatchObject({ equal: true, frames });
      expect(proof.files.flatMap((f) => f.findings.filter((x) => x.grade === 'stop'))).toEqual([]);
      const [a, b] = [await samples(dry.out), await samples(long.out)];
      a.forEach((x, c) => expect(firstDifference(x, b[c]!.subarray(0, HALF))).toBe(-1));
      // The voice itself is gone: what is left falls all the way.
      const level = (from: number) => {
        const part = b[2]!.subarray(HALF + from, HALF + from + 4_800);
        return 10 * Math.log10(part.reduce((s, v) => s + v * v, 0) / part.length);
      };
      expect(level(24_000) - level(2_400)).toBeLessThan(-10);
      const report = String(await reportAs({ doc: wet, proof, version: 1, range }, 'txt'));
      expect(report).toMatch(/\(1 s and [\d.]+ s of tail\)/);
    });
    it('of what is frozen rings on as well: a file that ends with the range could not', async () => {
      const long = applied(wet, { type: 'setWork', tail: 'time', tailSeconds: 0.5 });
      const frozen = {
        ...long,
        buses: long.buses.map((b) =>
          b.id === 'nar' ? { ...b, frozen: { media: 'gone', start: 0, from: frozenFrom(long, b) } } : b,
        ),
      };
      const [a, b] = [job({ doc: long, range }), job({ doc: frozen, range })];
      await runPrint(k, a, () => {});
      await runPrint(k, b, () => {});
      expect(await samples(b.out)).toEqual(await samples(a.out));
    });
    it('goes on for as long as is typed', async () => {
      const typed = job({ doc: applied(wet, { type: 'setWork', tail: 'time', tailSeconds: 0.5 }), range });
      const proof = await runPrint(k, typed, () => {});
      expect([...(await framesOf(proof))]).toEqual([HALF + 24_000]);
      expect(proof.tail).toBe(0.5);
    });
    it('of nothing that rings ends with the range', async () => {
      const proof = await runPrint(
        k,
        job({ doc: applied(doc, { type: 'setWork', tail: 'decayed' }), range }),
        () => {},
      );
      // Five milliseconds in which the cut voice dies away.
      const [frames] = await framesOf(proof);
      expect(frames! - HALF).toBeLessThanOrEqual(240);
    });
    it('is said before it is cut', () => {
      const short = applied(wet, { type: 'setRange', start: 0, end: HALF });
      const found = printCheck(short).find((c) => c.id === 'tail')!;
      expect(found.title).toMatch(/A tail of 2\.\d s is cut/);
      // A reverb that nothing comes to rings for nobody.
      const elsewhere = applied(short, { type: 'sendTracks', tracks: ['n'], destination: 'dia' });
      expect(printCheck(elsewhere).some((c) => c.id === 'tail')).toBe(false);
      expect(printCheck(applied(short, ...found.mends[0]!.edits)).some((c) => c.id === 'tail')).toBe(false);
      expect(
        printCheck(applied(wet, { type: 'setRange', start: 0, end: 20 * FRAMES })).some((c) => c.id === 'tail'),
      ).toBe(false);
    });
  });
  it('has a report that a client can read', async () => {
    const proof = await runPrint(k, job({ version: 4 }), () => {});
    const printed = { doc, proof, version: 4, range: { start: 0, end: FRAMES } };
    const text = String(await reportAs(printed, 'txt'));
    expect(text).toContain('Job, print 4');
    expect(text).toContain('JB_REF_51_100000_v04.wav');
    expect(text).toMatch(/Stems against Reference: (-\d+\.\d dB|equal to the bit)\n.*they add up/);
    // A silent file has no loudness: 0.0 would be the loudest there is.
    expect(text).toMatch(/JB_MUS_51_100000_v04.wav +5\.1 +24 bit +– +0\.0 +– +all/);
    expect(text).toContain('silent from start to end');
    expect(String(await reportAs({ ...printed, proof: { ...proof, sum: null } }, 'txt'))).toContain('no sum was made');
    // The same figures on paper, as another program reads it (Poppler's pdftotext), letters beyond Latin-1 too.
    const file = path.join(dir, 'report.pdf');
    writeFileSync(file, await reportAs({ ...printed, doc: { ...doc, name: 'Żółć \u706f' } }, 'pdf'));
    const paper = execFileSync('pdftotext', ['-layout', file, '-'], { encoding: 'utf8' });
    expect(paper).toContain('Żółć \u00bf');
    expect(paper).toContain('Letters that the fonts here have not');
    const csv = String(await reportAs(printed, 'csv'));
    for (const f of proof.files) {
      const [name, , what, , , , ...figures] = csv
        .split('\r\n')
        .find((l) => l.startsWith(f.file))!
        .split(',');
      expect(paper).toContain(name);
      const line = paper.split('\n').find((l) => l.startsWith(what!))!;
      for (const figure of figures.slice(0, 4)) expect(line, what).toContain(figure);
    }
    expect(paper).toContain(proof.files[0]!.parts[0]!.sha256);
  });
});
