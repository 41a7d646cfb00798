import { describe, expect, it } from 'vitest';
import { applied, FORMAT, monoTrack, sessionWith } from '../../../tests/support/session';
import { applyEdit, newSession, readEdit, type EditJson, type SessionDoc } from '@/core/session';
import { allChecks, briefCheck, fileCheck, heardCheck, lineCheck, rollCheck, type Check, type HeardLine } from '.';

const apply = (doc: SessionDoc, ...edits: EditJson[]) => edits.reduce((d, e) => applyEdit(d, readEdit(e)).doc, doc);
const start = () =>
  apply(
    newSession('Test', 'TS', { ...FORMAT }),
    { type: 'addLine', device: 'd', channel: 0, name: 'Surf R' },
    { type: 'addLine', device: 'd', channel: 1, name: 'Surf L' },
    { type: 'addTrack', id: 's', name: 'Surf', layout: 'stereo', destination: 'amb' },
  );
const codes = (checks: Check[]) => checks.map((c) => c.id.split('/')[0]);
/** Every mend of a check takes that check away. */
const mended = (doc: SessionDoc, of: (doc: SessionDoc) => Check[]) => {
  for (const check of of(doc))
    for (const mend of check.mends) expect(of(apply(doc, ...mend.edits)).map((c) => c.id)).not.toContain(check.id);
};
const quiet: HeardLine = { seconds: 9, peak: -8, floor: -70, crest: 12, overs: 0, offset: 0, hum: null, silent: false };

describe('the line sheet', () => {
  it('a condenser without 48 V: a warning, a stop once its track is armed; both mends mend', () => {
    const doc = apply(
      start(),
      { type: 'setLine', line: 'd/1', kind: 'condenser' },
      { type: 'patch', track: 's', channel: 0, line: 'd/1' },
    );
    expect(lineCheck(doc)[0]).toMatchObject({ id: 'no-phantom/d/1', grade: 'warn' });
    expect(lineCheck(apply(doc, { type: 'seatTrack', track: 's', armed: true }))[0]!.grade).toBe('stop');
    mended(doc, lineCheck);
  });
  it('48 V on a ribbon, lines of one name', () => {
    const doc = apply(
      start(),
      { type: 'setLine', line: 'd/1', kind: 'ribbon', phantom: true },
      { type: 'setLine', line: 'd/2', name: 'surf r' },
    );
    expect(codes(lineCheck(doc))).toEqual(['ribbon-phantom', 'same-line-name']);
    mended(doc, lineCheck);
  });
  it('left and right that are swapped', () => {
    const doc = apply(
      start(),
      { type: 'patch', track: 's', channel: 0, line: 'd/1' },
      { type: 'patch', track: 's', channel: 1, line: 'd/2' },
    );
    expect(codes(lineCheck(doc))).toEqual(['swapped']);
    mended(doc, lineCheck);
    expect(apply(doc, ...lineCheck(doc)[0]!.mends[0]!.edits).tracks[0]!.inputs).toEqual(['d/2', 'd/1']);
  });
});

describe('what was heard', () => {
  it.each([
    ['overload', { overs: 3 }],
    ['hum', { hum: { frequency: 50, level: -40 } }],
    ['offset', { offset: -0.03 }],
    ['polarity', { against: { line: 'd/1', correlation: -0.9, delay: 12 } }],
    ['silent-line', { silent: true, overs: 5 }],
  ] as [string, Partial<HeardLine>][])('%s is told', (code, part) => {
    const heard = new Map([['d/2', { ...quiet, ...part }]]);
    expect(codes(heardCheck(start(), { lines: new Map(), heard }))).toEqual([code]);
    expect(allChecks(start(), { lines: new Map(), heard }).some((c) => c.id === `${code}/d/2`)).toBe(true);
  });
  it('a line that clips is not called direct current, and its gain goes down far enough', () => {
    const heard = new Map([['d/2', { ...quiet, peak: 0, overs: 273_108, seconds: 10, offset: -0.2 }]]);
    const found = heardCheck(start(), { lines: new Map(), heard });
    expect(codes(found)).toEqual(['overload']);
    const [before, after] = [start(), apply(start(), ...found[0]!.mends[0]!.edits)].map(
      (d) => d.lines.find((l) => l.id === 'd/2')!.sheet,
    );
    expect(after!.gain + after!.pad - before!.gain - before!.pad).toBeLessThanOrEqual(-20);
  });
  it('pairs of lines that disagree about left and right: either is swapped by one press', () => {
    const doc = apply(
      start(),
      { type: 'addTrack', id: 'w', name: 'Wind', layout: 'stereo', destination: 'amb' },
      { type: 'addLine', device: 'd', channel: 2, name: 'Sky 1' },
      { type: 'addLine', device: 'd', channel: 3, name: 'Sky 2' },
      ...['d/1', 'd/2'].map((line, channel): EditJson => ({ type: 'patch', track: 's', channel, line })),
      ...['d/3', 'd/4'].map((line, channel): EditJson => ({ type: 'patch', track: 'w', channel, line })),
    );
    const live = { lines: new Map<string, number>(), swapped: new Map([['w', 's']]) };
    const [check] = heardCheck(doc, live);
    expect(check).toMatchObject({ id: 'swapped-image/w', grade: 'warn', about: ['w', 's'] });
    const [first, second] = check!.mends.map((m) => apply(doc, ...m.edits).tracks.map((t) => t.inputs));
    expect(first!.at(-1)).toEqual(['d/4', 'd/3']);
    expect(second![0]).toEqual(['d/2', 'd/1']);
    expect(heardCheck(apply(doc, { type: 'removeTrack', track: 's' }), live)).toEqual([]);
  });
  it('a line in order, or one that is gone, is no finding', () => {
    const heard = new Map([
      ['d/2', { ...quiet, against: { line: 'd/1', correlation: -0.2, delay: 0 } }],
      ['d/9', { ...quiet, overs: 9 }],
    ]);
    expect(heardCheck(start(), { lines: new Map(), heard })).toEqual([]);
  });
});

describe('the order', () => {
  it('files of one name after a change of layout, a pattern that cannot be read', () => {
    const doc = apply(
      start(),
      { type: 'addDeliverable', id: 'x', bus: 'ref', layout: 'stereo', token: 'REF' },
      { type: 'setFormat', layout: 'stereo' },
    );
    expect(codes(fileCheck(doc))).toEqual(['same-name']);
    mended(doc, fileCheck);
    expect(codes(fileCheck(apply(start(), { type: 'setSession', namePattern: '{nobody}' })))).toEqual(['name-pattern']);
  });
  it('a click from a loudspeaker that the mix has no more', () => {
    const doc = apply(start(), { type: 'setWork', clickTo: 'Ls' }, { type: 'setFormat', layout: 'stereo' });
    const found = (d: SessionDoc) => allChecks(d, { lines: new Map() }).filter((c) => c.id === 'click-place');
    expect(found(doc)).toMatchObject([{ grade: 'note', title: 'The click should come from Ls, which stereo has not' }]);
    mended(doc, found);
    expect(() => apply(doc, { type: 'setWork', clickTo: 'Ls' })).toThrow(/in stereo and has no Ls/);
  });
  it('a default that passes by the reference', () => {
    const doc = apply(start(), { type: 'setDefaultDestination', layout: 'mono', destination: 'monitor' });
    expect(briefCheck(doc)).toMatchObject([{ id: 'default/mono', grade: 'warn' }]);
    mended(doc, briefCheck);
  });
});

describe('a cue that is rolled', () => {
  const cues = ['Pilot', 'Apprentice', 'Lamp keeper'].map((character, i) => ({
    ...{ id: `q${i}`, number: `${i + 1}`, start: i * 1000, end: i * 1000 + 500, character, text: '' },
  }));
  const scripted = (...edits: EditJson[]) =>
    sessionWith(
      monoTrack('p', 'Pilot'),
      monoTrack('a', 'Apprentice ADR'),
      monoTrack('n', 'Room tone'),
      { type: 'addCues', cues },
      ...edits,
    );
  const arm = (track: string): EditJson => ({ type: 'seatTrack', track, armed: true });
  const found = (doc: SessionDoc, cue?: string) =>
    rollCheck(doc, { lines: new Map(), ...(cue ? { cue } : {}) }).filter((c) => c.id.startsWith('other-character'));

  it('with another character’s track armed is told; the mend arms its own and disarms the other', () => {
    const doc = scripted(arm('p'), arm('n'));
    const [check] = found(doc, 'q1');
    expect(check!.title).toBe("Cue 2 is Apprentice's, and Pilot, Room tone are armed");
    const armed = applied(doc, ...check!.mends[0]!.edits).tracks.filter((t) => t.armed);
    // What is no character's stays armed.
    expect(armed.map((t) => t.name)).toEqual(['Apprentice ADR', 'Room tone']);
  });
  it('is not told of with its own track armed, without a track of its name, or when no cue is rolled', () => {
    expect(found(scripted(arm('p')), 'q0')).toEqual([]);
    expect(found(scripted(arm('p'), arm('a')), 'q1')).toEqual([]);
    expect(found(scripted(arm('p')), 'q2')).toEqual([]);
    expect(found(scripted(arm('p')))).toEqual([]);
  });
});
