import { describe, expect, it } from 'vitest';
import { applyEdit, newSession, readEdit, type EditJson, type SessionDoc } from '@/core/session';
import { allChecks, pathAudit, placeDots, printCheck, rollCheck, type Check } from '.';

const apply = (doc: SessionDoc, ...edits: EditJson[]) => edits.reduce((d, e) => applyEdit(d, readEdit(e)).doc, doc);
const start = (...edits: EditJson[]) =>
  apply(
    newSession('Test', 'TS', {
      sampleRate: 48000,
      wordLength: 24,
      fileKind: 'Broadcast WAV',
      frameRate: '25',
      startTimecode: '10:00:00:00',
      layout: '5.1',
    }),
    ...(['dia', 'nar', 'mus', 'efx', 'amb'].map((b) => ({
      type: 'addTrack',
      id: `t-${b}`,
      name: `Track of ${b}`,
      layout: 'mono',
      destination: b,
    })) as EditJson[]),
    { type: 'addLine', device: 'dev', channel: 0, name: 'Booth' },
    ...edits,
  );
const ids = (checks: Check[]) => checks.map((c) => c.id);
const mended = (doc: SessionDoc, check: Check) => apply(doc, ...check.mends[0]!.edits);

describe('path audit', () => {
  it('is silent on a sound session', () => {
    expect(pathAudit(start())).toEqual([]);
  });
  const cases: [string, EditJson, string, 'stop' | 'warn'][] = [
    ['nowhere', { type: 'sendTracks', tracks: ['t-nar'], destination: null }, 'no-stem/t-nar', 'stop'],
    [
      'straight to the reference',
      { type: 'sendTracks', tracks: ['t-nar'], destination: 'ref' },
      'no-stem/t-nar',
      'stop',
    ],
    [
      'straight to the monitor',
      { type: 'sendTracks', tracks: ['t-nar'], destination: 'monitor' },
      'by-reference/t-nar',
      'warn',
    ],
    ['a stem to the monitor', { type: 'sendBus', bus: 'mus', destination: 'monitor' }, 'by-reference/mus', 'stop'],
    ['the reference led nowhere', { type: 'sendBus', bus: 'ref', destination: null }, 'unheard/ref', 'warn'],
    ['a circle through the reference', { type: 'sendBus', bus: 'ref', destination: 'dia' }, 'loop/dia+ref', 'stop'],
  ];
  it.each(cases)('%s is told, and its one mend mends it', (_, edit, id, grade) => {
    const doc = start(edit);
    const check = pathAudit(doc).find((c) => c.id === id);
    expect(check?.grade).toBe(grade);
    expect(ids(pathAudit(mended(doc, check!)))).not.toContain(id);
  });
  it('two stems that feed each other are told, and the mend leaves no finding of grade stop', () => {
    const doc = start(
      { type: 'sendBus', bus: 'dia', destination: 'nar' },
      { type: 'sendBus', bus: 'nar', destination: 'dia' },
    );
    const check = pathAudit(doc).find((c) => c.id === 'loop/dia+nar')!;
    expect(check.why).toMatch(/held silent/);
    expect(pathAudit(mended(doc, check)).filter((c) => c.grade === 'stop')).toEqual([]);
  });
  it('a stem without sources is noted', () => {
    expect(ids(pathAudit(start({ type: 'sendTracks', tracks: ['t-mus'], destination: 'efx' })))).toEqual([
      'unused/mus',
    ]);
  });
});

describe('roll check', () => {
  const live = (db: number) => ({ lines: new Map([['dev/1', db]]) });
  const patched: EditJson = { type: 'patch', track: 't-nar', channel: 0, line: 'dev/1' };
  const armed: EditJson = { type: 'setTrack', track: 't-nar', armed: true };
  it('nothing armed', () => {
    const [check] = rollCheck(start(patched), live(-20));
    expect(check).toMatchObject({ id: 'nothing-armed', grade: 'stop' });
    expect(rollCheck(mended(start(patched), check!), live(-20))).toEqual([]);
  });
  it('armed but not patched: offers the free line', () => {
    const doc = start(armed);
    const [check] = rollCheck(doc, live(-20));
    expect(check).toMatchObject({ id: 'not-patched/t-nar', grade: 'stop' });
    expect(check!.mends[0]!.label).toBe('Patch Booth');
    expect(rollCheck(mended(doc, check!), live(-20))).toEqual([]);
  });
  it('no signal, and a device that is off', () => {
    expect(rollCheck(start(armed, patched), live(-80))[0]).toMatchObject({
      id: 'no-signal/t-nar/dev/1',
      grade: 'warn',
    });
    expect(rollCheck(start(armed, patched), { lines: new Map() })[0]).toMatchObject({
      id: 'not-open/t-nar/dev/1',
      grade: 'stop',
    });
  });
  it('feedback risk on loudspeakers only', () => {
    const doc = start(armed, patched, { type: 'setSession', listening: 'loudspeakers' });
    const [check] = rollCheck(doc, live(-20));
    expect(check!.id).toBe('feedback/t-nar');
    expect(rollCheck(mended(doc, check!), live(-20))).toEqual([]);
    expect(rollCheck(start(armed, patched), live(-20))).toEqual([]);
  });
  it('a track without a name or a stem is noted', () => {
    const doc = start(
      armed,
      patched,
      { type: 'setTrack', track: 't-nar', name: 'Track 7' },
      { type: 'sendTracks', tracks: ['t-nar'], destination: null },
    );
    expect(ids(rollCheck(doc, live(-20)))).toEqual(['unnamed/t-nar', 'unrouted/t-nar']);
  });
});

describe('print check', () => {
  it('tells what is not at unity, muted, or stands on the reference alone', () => {
    const doc = start(
      { type: 'setBus', bus: 'ref', level: -3 },
      { type: 'setBus', bus: 'mus', muted: true },
      { type: 'setTrack', track: 't-dia', muted: true },
      { type: 'addStage', owner: { kind: 'bus', id: 'ref' }, id: 'lim', stage: 'limiter' },
    );
    const found = printCheck(doc);
    expect(ids(found)).toEqual(['unity/ref', 'reference-stage/lim', 'muted/mus', 'muted-tracks']);
    expect(printCheck(found.reduce(mended, doc))).toEqual([]);
  });
  it('stops on names that would be equal, and on a token that does not exist', () => {
    expect(printCheck(start({ type: 'setSession', namePattern: '{session}_v{version}' }))[0]!.title).toMatch(
      /Two files/,
    );
    expect(printCheck(start({ type: 'setSession', namePattern: '{client}_{bus}' }))[0]!.why).toMatch(/\{client\}/);
  });
});

it('dots show the gravest check of each place', () => {
  const doc = start(
    { type: 'sendTracks', tracks: ['t-nar'], destination: null },
    { type: 'setBus', bus: 'ref', level: 1 },
  );
  const dots = placeDots(doc, allChecks(doc, { lines: new Map() }), false);
  expect(dots).toMatchObject({ flow: 'red', print: 'amber', room: 'grey', brief: 'green' });
});
