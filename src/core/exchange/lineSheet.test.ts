import { describe, expect, it } from 'vitest';
import { FORMAT } from '../../../tests/support/session';
import { applyEdit, newSession, readEdit, type EditJson, type SessionDoc } from '@/core/session';
import { lineSheetTable, readLineSheet } from '.';

const apply = (doc: SessionDoc, ...edits: EditJson[]) => edits.reduce((d, e) => applyEdit(d, readEdit(e)).doc, doc);
const doc = apply(
  newSession('Test', 'TS', { ...FORMAT }),
  { type: 'addLine', device: 'd', channel: 0, name: '=Booth' },
  { type: 'addLine', device: 'd', channel: 1, name: 'Table' },
  {
    type: 'setLine',
    line: 'd/1',
    position: 'booth, "left"\tcorner',
    kind: 'condenser',
    phantom: true,
    pad: -20,
    inverted: true,
    lowCut: true,
    gain: 41.5,
    record: 'dry',
    model: 'Large diaphragm, pair 2',
    note: '=mind the stand',
  },
);

describe('the line sheet as a table', () => {
  it('comes back as it went out, whatever stands in the cells', () => {
    const blank = apply(doc, {
      type: 'setLine',
      line: 'd/1',
      name: 'x',
      position: '',
      kind: 'dynamic',
      phantom: false,
      pad: 0,
      inverted: false,
      lowCut: false,
      gain: 0,
      record: 'both',
      model: '',
      note: '',
    });
    const { edits, faults } = readLineSheet(lineSheetTable(doc.lines), 'd', blank.lines);
    expect(faults).toEqual([]);
    expect(apply(blank, ...edits).lines).toEqual(doc.lines);
  });
  it('goes by the headings of our own table: # is the line', () => {
    const { edits, faults } = readLineSheet('#,name,gain\n2,Far,30\n1,Near,20', 'd', doc.lines);
    expect(faults).toEqual([]);
    expect(edits).toEqual([
      { type: 'setLine', line: 'd/2', name: 'Far', gain: 30 },
      { type: 'setLine', line: 'd/1', name: 'Near', gain: 20 },
    ]);
  });
  it('says when rows had to be taken in order, and which columns it does not know', () => {
    const { edits, faults } = readLineSheet('name,colour\nNear,red', 'd', doc.lines);
    expect(edits).toEqual([{ type: 'setLine', line: 'd/1', name: 'Near' }]);
    expect(faults).toEqual([expect.stringMatching(/"colour" is not known/), expect.stringMatching(/taken in order/)]);
  });
  it('tells cells that are neither yes nor no, and leaves what they are about as it is', () => {
    const { edits, faults } = readLineSheet(
      'line,48 v,polarity,low cut\n1,perhaps,sideways,-\n2,off,rev,x',
      'd',
      doc.lines,
    );
    expect(faults).toEqual([
      'Row 2: 48 v "perhaps" is not understood.',
      'Row 2: polarity "sideways" is not understood.',
    ]);
    expect(edits).toEqual([
      { type: 'setLine', line: 'd/1', lowCut: false },
      { type: 'setLine', line: 'd/2', phantom: false, lowCut: true, inverted: true },
    ]);
  });
  it('no cell begins like a formula', () => {
    expect(lineSheetTable(doc.lines)).toContain("'=Booth");
  });
  it('takes what it knows, by the headings and in any order, and names the rest by row', () => {
    const { edits, faults } = readLineSheet(
      'gain;line;microphone\n12 dB;2;Dynamic\n999;1;harp\n0;7;line',
      'd',
      doc.lines,
    );
    expect(edits).toEqual([
      { type: 'setLine', line: 'd/2', kind: 'dynamic', gain: 12 },
      { type: 'setLine', line: 'd/1' },
    ]);
    expect(faults).toEqual([
      'Row 3: microphone "harp" is not understood.',
      'Row 3: gain "999" is not understood.',
      'Row 4: the session has no line 7 of this device.',
    ]);
  });
  it('a table without headings is refused with the form it needs', () => {
    expect(readLineSheet('a\tb\nc\td', 'd', doc.lines).faults[0]).toMatch(
      /first row must name the columns: line, name/,
    );
  });
});
