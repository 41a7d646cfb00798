// Ranges of a print, what their files are called, and what they begin with.
import { describe, expect, it } from 'vitest';
import { newKernels } from '../../../tests/support/kernels';
import { applied, sessionWith } from '../../../tests/support/session';
import { peak } from '../../../tests/support/stages';
import { printCheck } from '@/core/checks';
import { ChannelSet } from '@/core/kernels';
import { atRate, EditRefused, type EditJson } from '@/core/session';
import { layLeadIn, leadInOf, popChannels, printName, printRanges, withFiles } from '.';

const RATE = 48_000;
const cue = (id: string, number: string, start: number, end: number): EditJson => ({
  type: 'addCues',
  cues: [{ id, number, start: start * RATE, end: end * RATE, character: 'Pilot', text: 'Light!' }],
});
const marker = (id: string, at: number, name: string): EditJson => ({
  type: 'setMarker',
  marker: id,
  at: at * RATE,
  name,
});
const base = sessionWith(
  { type: 'setRange', start: 0, end: 90 * RATE },
  ...[cue('q1', '1', 2, 4), cue('q2', '2a', 10, 12)],
  ...[marker('m1', 0, 'Reel 1'), marker('m2', 40, 'Reel 2')],
);
const by = (kind: 'range' | 'cues' | 'markers' | 'list', ...edits: EditJson[]) =>
  applied(base, { type: 'setPrinting', by: kind }, ...edits);
const ids = (doc: typeof base) => printCheck(doc).map((c) => c.id);

describe('ranges of a print', () => {
  it('are the session’s, each cue, from marker to marker, or those of a list', () => {
    expect(printRanges(base)).toEqual([{ name: '', start: 0, end: 90 * RATE }]);
    expect(printRanges(by('cues'))).toEqual([
      { name: '1', start: 2 * RATE, end: 4 * RATE },
      { name: '2a', start: 10 * RATE, end: 12 * RATE },
    ]);
    expect(printRanges(by('markers'))).toEqual([
      { name: 'Reel 1', start: 0, end: 40 * RATE },
      { name: 'Reel 2', start: 40 * RATE, end: 90 * RATE },
    ]);
    const list = [{ id: 'a', name: 'Spot', start: 5, end: 10 }];
    expect(printRanges(by('list', { type: 'setPrinting', list }))).toEqual([{ name: 'Spot', start: 5, end: 10 }]);
    expect(printRanges(applied(by('cues'), { type: 'setPrinting', by: 'range' }))).toEqual(printRanges(base));
  });
  it('that end before they begin are refused, and the list stays', () => {
    const bad = { type: 'setPrinting' as const, list: [{ id: 'a', name: 'Spot', start: 10, end: 5 }] };
    expect(() => applied(base, bad)).toThrow(EditRefused);
  });
  it('keep their seconds at another rate', () => {
    const list = [{ id: 'a', name: 'Spot', start: RATE, end: 2 * RATE }];
    const doc = atRate(by('list', { type: 'setPrinting', list }), 96_000, new Map());
    expect(printRanges(doc)).toEqual([{ name: 'Spot', start: 96_000, end: 192_000 }]);
  });
  it('are missed, and their files told apart, before anything is printed', () => {
    const empty = sessionWith({ type: 'setPrinting', by: 'cues' });
    expect(ids(empty)).toContain('no-range');
    // The pattern tells the start in whole seconds: two ranges in one of them would share a name.
    const twice = by('list', {
      type: 'setPrinting',
      list: ['a', 'b'].map((id, i) => ({ id, name: id, start: i * 10, end: 1000 })),
    });
    const found = printCheck(twice).find((c) => c.id === 'ranges-one-name')!;
    expect(found.title).toBe('Files of a and b would have one name');
    const mended = applied(twice, ...found.mends[0]!.edits);
    expect(mended.namePattern).toMatch(/\{range\}$/);
    expect(ids(mended)).not.toContain('ranges-one-name');
  });
});

describe('names', () => {
  const d = base.deliverables[0]!;
  const name = (pattern: string, ...edits: EditJson[]) => {
    const doc = applied(base, { type: 'setSession', namePattern: pattern }, ...edits);
    const range = { name: 'Reel 2', start: 40 * RATE, end: 41 * RATE };
    return printName(doc, doc.deliverables[0]!, { version: 3, range, made: '2026-11-27T06:00:00Z' });
  };
  it.each<[string, string, EditJson[]]>([
    ['{range}_{bus}', 'Reel-2_REF.wav', []],
    ['{bus}_{rate}_{bits}', 'REF_48k_24.wav', []],
    ['{bus}_{rate}', 'REF_44k1.wav', [{ type: 'setDeliverable', deliverable: d.id, sampleRate: 44_100 }]],
    ['{bus}_{bits}', 'REF_32f.wav', [{ type: 'setDeliverable', deliverable: d.id, wordLength: 32 }]],
    ['{bus}_{date}_v{version}', 'REF_20261127_v03.wav', []],
    ['{bus}_{language}', 'REF_de-AT.wav', [{ type: 'setSession', language: 'de-AT' }]],
    ['{session}_{bus}', 'ts_ref.wav', [{ type: 'setPrinting', letters: 'lower' }]],
    ['{range}_{bus}', 'REEL-2_REF.wav', [{ type: 'setPrinting', letters: 'upper' }]],
  ])('%s gives %s', (pattern, file, edits) => expect(name(pattern, ...edits)).toBe(file));
  it.each([
    ['{bus}_{language}', /"\{language\}", and the session tells no language/],
    ['{bus}_{sesion}', /"\{sesion\}"; known are \{session\}/],
    ['{bus}_{}', /"\{\}"; known are/],
    ['{bus}_{version', /"\{version", a brace without its other one/],
    ['{bus}_version}', /"\}", a brace without/],
    ['{constructor}', /"\{constructor\}"/],
  ])('%s is refused, and the token shown', (pattern, message) => expect(() => name(pattern)).toThrow(message));
});

describe('a lead-in', () => {
  const asked = applied(base, { type: 'setPrinting', leadIn: 3, pop: 2 });
  it('is silence with a tone of one frame of picture at its distance, not in a subwoofer', () => {
    const k = newKernels();
    const lead = leadInOf(asked)!;
    expect(lead).toMatchObject({ frames: 3 * RATE, pop: { at: RATE, frames: RATE / 25 } });
    const sounds = popChannels('5.1', 'film');
    expect(sounds).toEqual([true, true, true, true, true, false]);
    const set = new ChannelSet(k, 6, lead.frames);
    // In pieces as large as an engine's block it is the same as at once.
    layLeadIn(lead, set, sounds, 0, lead.frames);
    const whole = [0, 5].map((c) => set.view(c, lead.frames).slice());
    const pieces = new Float32Array(lead.frames);
    for (let at = 0; at < lead.frames; at += 1000) {
      const n = Math.min(1000, lead.frames - at);
      layLeadIn(lead, set, sounds, at, n);
      pieces.set(set.view(0, n), at);
    }
    expect(pieces).toEqual(whole[0]);
    expect(whole[1]!.every((v) => v === 0)).toBe(true);
    const first = whole[0]!.findIndex((v) => v !== 0);
    const last = whole[0]!.findLastIndex((v) => v !== 0);
    // The sine begins at nought: its first sample that is not is the second one.
    expect([first, last + 1]).toEqual([RATE + 1, RATE + RATE / 25]);
    // -20 dBFS peaks, 1 kHz: 40 periods in a frame of 25 a second.
    expect(20 * Math.log10(peak(whole[0]!))).toBeCloseTo(-20, 3);
    const crossings = whole[0]!.reduce((n, v, i) => n + (v > 0 && whole[0]![i - 1]! <= 0 ? 1 : 0), 0);
    expect(crossings).toBe(40);
  });
  it('cannot hold a tone that would stand before it, nor begin before midnight', () => {
    expect(() => applied(asked, { type: 'setPrinting', leadIn: 1 })).toThrow(/2 s before the range/);
    expect(() => applied(base, { type: 'setPrinting', pop: 2 })).toThrow(/no lead-in/);
    const early = applied(asked, { type: 'setFormat', startTimecode: '00:00:02:00' });
    const found = printCheck(early).find((c) => c.id === 'lead-in-midnight')!;
    expect(ids(applied(early, ...found.mends[0]!.edits))).not.toContain('lead-in-midnight');
    expect(ids(asked)).not.toContain('lead-in-midnight');
  });
});

describe('files of one print', () => {
  const doc = sessionWith({ type: 'addTrack', id: 'v', name: 'Voice/near', layout: 'mono', destination: 'dia' });
  it('are those of the brief that are chosen, and tracks and buses beside it', () => {
    const [first] = doc.deliverables;
    const chosen = withFiles(doc, { only: [first!.id], beside: ['v', 'mus'] });
    expect(chosen.deliverables.map((d) => [d.bus, d.token, d.layout])).toEqual([
      [first!.bus, first!.token, '5.1'],
      ['v', 'Voice-near', 'mono'],
      ['mus', 'Music', '5.1'],
    ]);
    expect(withFiles(doc, {})).toBe(doc);
  });
  it('are refused where one is not there', () => {
    expect(() => withFiles(doc, { only: ['none'] })).toThrow(/not in the brief any more/);
    expect(() => withFiles(doc, { beside: ['none'] })).toThrow(/not in the session any more/);
  });
});
