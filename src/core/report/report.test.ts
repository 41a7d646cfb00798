import { describe, expect, it } from 'vitest';
import { newKernels, noise } from '../../../tests/support/kernels';
import { printed, readerOf, provenIn } from '../../../tests/support/printed';
import { applied, sessionWith } from '../../../tests/support/session';
import { type Proof } from '@/core/print';
import type { SessionDoc } from '@/core/session';
import { layoutOf } from '@/core/speakers';
import {
  foldFormula,
  foldSentence,
  lengthText,
  loudnessRange,
  loudnessSvg,
  PAPER_CHART,
  reportCsv,
  reportHtml,
  reportOf,
  reportText,
  whenText,
} from '.';

const k = newKernels();
const FRAMES = 5 * 48_000;
const doc: SessionDoc = sessionWith(
  { type: 'addTrack', id: 'v', name: 'Voice', layout: 'mono', destination: 'dia' },
  {
    ...{ type: 'addClip', id: 'c', track: 'v', start: 0 },
    media: { id: 'v', name: 'v.wav', channels: 1, frames: FRAMES, sampleRate: 48_000, kind: 'file' },
  },
  {
    type: 'setSession',
    name: 'Lamp <b>&"',
    client: 'The "Quay" <script>',
    contact: 'sound@quay.example',
    notes: 'a\nb',
  },
);
const range = { start: 0, end: FRAMES };
const fonts = { text: 'data:,t', figures: 'data:,f' };

const proofOf = async (d: SessionDoc): Promise<Proof> =>
  provenIn(k, d, await printed(k, d, readerOf({ v: [noise(FRAMES, 0.1, 4)] }), { end: FRAMES }), {
    made: '2026-11-24T15:42:00.000Z',
    layouts: true,
  });

const proof = await proofOf(doc);
const report = reportOf(doc, proof, { version: 3, range, zone: 'Europe/Berlin' });

describe('a report', () => {
  it('says who, what, when, where from and where to', () => {
    expect(report).toMatchObject({
      title: 'Lamp <b>&"',
      client: 'The "Quay" <script>',
      when: '24 November 2026, 16:42 (UTC+1)',
      start: '10:00:00:00',
      end: '10:00:05:00',
      length: '5 s',
      format: '48 kHz · 24 bit · Broadcast WAV',
      picture: 'picture 25 fps',
    });
  });
  it('has the same figures on the page, in the table and in plain text', () => {
    const html = reportHtml(report, fonts);
    const [text, csv] = [reportText(report), reportCsv(report)];
    for (const row of report.rows) {
      const line = csv.split('\r\n').find((l) => l.startsWith(row.file))!;
      for (const figure of [row.lufs, row.lu, row.dbtp, row.silence]) {
        expect(line.split(','), `${row.file} ${figure}`).toContain(figure);
        expect(text.split('\n').find((l) => l.startsWith(row.file))).toContain(` ${figure} `);
        expect(html.split('<tr>').find((l) => l.includes(row.file))).toContain(`>${figure}<`);
      }
    }
    expect(report.rows.find((r) => r.what === 'Dialogue')!.lufs).toMatch(/^-\d\d\.\d$/);
    for (const sum of report.sums) for (const words of [html, text]) expect(words).toContain(sum.figure);
  });
  it('of silence has no figure, not a figure of nought', () => {
    const music = report.rows.find((r) => r.what === 'Music')!;
    expect(music).toMatchObject({ lufs: '–', dbtp: '–', silence: 'all', grade: 'warn' });
    expect(report.verdict).toMatchObject({ good: false, title: 'Not as agreed' });
  });
  it('lets no word of a session become a part of the page, or a formula of the table', () => {
    const html = reportHtml(report, fonts);
    expect(html).not.toMatch(/<script|<b>&"/);
    expect(html).toContain('The &quot;Quay&quot; &lt;script&gt;');
    const hostile = { ...report, rows: [{ ...report.rows[0]!, what: '=1+1' }] };
    expect(reportCsv(hostile)).toContain(',"\'=1+1",');
  });
  it('asks nobody for anything', () => {
    expect(reportHtml(report, fonts).match(/(?:src|href)\s*=|url\((?!data:)|https?:/g) ?? []).toEqual([
      // The name space of each drawing is a name, not an address.
      ...['http:', 'http:'],
    ]);
  });
  it('is as agreed only where nothing was passed by, every file is, and the stems add up', () => {
    const good: Proof = {
      ...proof,
      files: proof.files.map((f) => ({ ...f, findings: [] })),
      sum: { ...proof.sum!, equal: true },
    };
    const of = (p: Proof) => reportOf(doc, p, { version: 1, range, zone: 'UTC' }).verdict;
    expect(of(good).title).toBe('As agreed');
    expect(of({ ...good, passedBy: ['Voice reaches no stem.'] })).toMatchObject({ good: false });
    expect(of({ ...good, sum: { ...good.sum!, equal: false } })).toMatchObject({ good: false });
    expect(
      reportText(reportOf(doc, { ...good, passedBy: ['Voice reaches no stem.'] }, { version: 1, range, zone: 'UTC' })),
    ).toMatch(/Passed by knowingly:\n {2}Voice reaches no stem/);
  });
  it('says how files were folded, encoded and ordered', () => {
    const asked = applied(
      doc,
      { type: 'addDeliverable', id: 'two', bus: 'ref', layout: 'stereo', token: 'TWO' },
      { type: 'addDeliverable', id: 'lt', bus: 'ref', layout: 'stereo', token: 'LT' },
      { type: 'setDeliverable', deliverable: 'lt', encode: 'lt-rt' },
      { type: 'setDeliverable', deliverable: doc.deliverables[0]!.id, order: 'film' },
    );
    const said = reportOf(
      asked,
      { ...proof, files: asked.deliverables.map((d) => ({ ...proof.files[0]!, deliverable: d.id })) },
      {
        version: 1,
        range,
        zone: 'UTC',
      },
    );
    expect(said.brief).toContain('5.1 is L C R Ls Rs LFE.');
    expect(said.brief.some((s) => /Lt\/Rt: the surrounds turned by 90°/.test(s))).toBe(true);
    expect(said.rows.find((r) => r.layout === 'stereo, Lt/Rt')).toBeDefined();
    // ITU-R BS.775, annex 4, table 2: two channels of five.
    expect(foldFormula(layoutOf('5.1'), layoutOf('stereo'))).toBe(
      'L = L + 0.707 C + 0.707 Ls; R = R + 0.707 C + 0.707 Rs',
    );
    const two = asked.deliverables.find((d) => d.id === 'two')!;
    expect(foldSentence(asked, two)).toMatch(/without LFE \(ITU-R BS.775\)\.$/);
    const own = applied(
      asked,
      { type: 'setFold', id: 'soft', name: 'Soft', centre: 0.5, surround: 0.25, lfe: 0.1 },
      { type: 'setDeliverable', deliverable: 'two', fold: 'soft' },
    );
    expect(
      foldSentence(
        own,
        own.deliverables.find((d) => d.id === 'two')!,
      ),
    ).toMatch(/0\.500 C.*0\.100 LFE.*\(Soft\)/);
    expect(foldSentence(asked, asked.deliverables[0]!)).toBeNull();
  });
});

describe('times in words', () => {
  it.each([
    ['2026-03-02T23:30:00Z', 'Europe/Berlin', '3 March 2026, 00:30 (UTC+1)'],
    ['2026-03-02T00:10:00Z', 'America/St_Johns', '1 March 2026, 20:40 (UTC−3:30)'],
    ['2026-03-02T12:00:00Z', 'UTC', '2 March 2026, 12:00 (UTC+0)'],
    ['some day', 'UTC', 'some day'],
  ])('%s in %s: %s', (iso, zone, text) => expect(whenText(iso, zone)).toBe(text));
  it.each([
    [0.5, '0.5 s'],
    [90, '1 min 30 s'],
    [3723, '1 h 02 min 03 s'],
  ])('%f s: %s', (s, text) => expect(lengthText(s)).toBe(text));
});

describe('the chart', () => {
  it('shows what is there: soft prints and loud ones, with what was asked', () => {
    const target = { at: -23, tolerance: 0.5 };
    const around = (at: number) => Array.from({ length: 100 }, (_, i) => at + Math.sin(i));
    for (const at of [-50, -23, -8, -3]) {
      const [low, high] = loudnessRange(around(at), target);
      expect(low).toBeLessThan(at - 0.9);
      expect(high).toBeGreaterThanOrEqual(at + 0.9);
      expect(low).toBeLessThan(-23.5);
      expect(high).toBeGreaterThan(-22.5);
    }
    expect(loudnessRange([-Infinity, -Infinity], null)).toEqual([-40, -15]);
  });
  it('is drawn without what does not exist', () => {
    const loudness = { step: 0.1, momentary: [-Infinity, -20, -21], shortTerm: [-Infinity, -Infinity, -22] };
    const svg = loudnessSvg({ loudness, seconds: 5 }, null, PAPER_CHART, [{ at: 0, text: '<x>' }]);
    expect(svg).not.toMatch(/NaN|Infinity|<x>/);
  });
});
