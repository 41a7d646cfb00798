import { describe, expect, it } from 'vitest';
import { FORMAT } from '../../../tests/support/session';
import { applyEdit, newSession, readEdit, type EditJson, type SessionDoc } from '@/core/session';
import { allChecks, deviceCheck, pathAudit, placeDots, printCheck, rollCheck, type Check } from '.';

const apply = (doc: SessionDoc, ...edits: EditJson[]) => edits.reduce((d, e) => applyEdit(d, readEdit(e)).doc, doc);
const start = (...edits: EditJson[]) =>
  apply(
    newSession('Test', 'TS', { ...FORMAT }),
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
  it('a stem that feeds a stem counts twice for whoever adds them up: told, and mended', () => {
    const doc = start({ type: 'sendBus', bus: 'efx', destination: 'amb' });
    const check = pathAudit(doc).find((c) => c.id === 'stem-in-stem/efx');
    expect(check).toMatchObject({ grade: 'stop', about: ['efx', 'amb'] });
    expect(pathAudit(mended(doc, check!))).toEqual([]);
  });
  const hall: EditJson[] = [
    {
      type: 'addTracks',
      tracks: [{ id: 'hall', name: 'Hall', layout: 'stereo', kind: 'return', destination: 'amb' }],
    },
    { type: 'addStage', owner: { kind: 'bus', id: 'hall' }, id: 'hall-c', stage: 'compressor' },
    { type: 'addSend', owner: 't-nar', id: 's1', to: 'hall' },
  ];
  it('a source that comes into a second stem by a send is told; both mends mend it', () => {
    const doc = start(...hall);
    const check = pathAudit(doc).find((c) => c.id === 'two-stems/s1')!;
    expect(check.title).toBe('Track of nar is in Narration and, through Hall, in Ambience');
    for (const mend of check.mends) expect(ids(pathAudit(apply(doc, ...mend.edits)))).not.toContain('two-stems/s1');
    // What each room does apart is said.
    expect(ids(pathAudit(apply(doc, ...check.mends[0]!.edits)))).toEqual(['rooms/hall']);
  });
  it('a return in the reference that reaches no stem is told, and each mend leads it to one', () => {
    const doc = start(
      { type: 'addTracks', tracks: [{ id: 'q', name: 'Quay', layout: '5.1', kind: 'return', destination: 'ref' }] },
      { type: 'addSend', owner: 't-nar', id: 's', to: 'q' },
    );
    const check = pathAudit(doc).find((c) => c.id === 'no-stem/q')!;
    expect(check.mends).toHaveLength(5);
    for (const mend of check.mends) expect(ids(pathAudit(apply(doc, ...mend.edits)))).not.toContain('no-stem/q');
  });
  it('a trim, a level or a stage on any reference is told before a print, and mended', () => {
    const doc = start(
      { type: 'addReference', id: 'two', name: 'Two', leftOut: [] },
      { type: 'setBus', bus: 'two', trim: 3, level: -1 },
      { type: 'addStage', owner: { kind: 'bus', id: 'two' }, id: 'two-eq', stage: 'eq' },
    );
    const told = printCheck(doc).filter((c) => c.about.includes('two') && c.grade === 'warn');
    expect(ids(told).sort()).toEqual(['reference-stage/two-eq', 'trim/two', 'unity/two']);
    const after = told.reduce((d, c) => mended(d, c), doc);
    expect(ids(printCheck(after)).some((id) => id.includes('two'))).toBe(false);
  });
  it('a circle that a key closes is opened at the key, one that a send closes at the send', () => {
    const keyed = start(
      { type: 'addTracks', tracks: [{ id: 'g', name: 'Group', layout: '5.1', kind: 'bus', destination: 'nar' }] },
      { type: 'addStage', owner: { kind: 'track', id: 't-nar' }, id: 'gate', stage: 'gate' },
      { type: 'setStageKey', owner: { kind: 'track', id: 't-nar' }, stage: 'gate', key: 'g' },
      { type: 'sendTracks', tracks: ['t-nar'], destination: 'g' },
    );
    const byKey = pathAudit(keyed).find((c) => c.id.startsWith('loop/'))!;
    expect(byKey.mends[0]!.label).toBe('Let Track of nar listen to itself');
    expect(ids(pathAudit(mended(keyed, byKey)))).toEqual([]);
    const sent = start(
      ...hall,
      { type: 'addSend', owner: 'amb', id: 's2', to: 'efx' },
      { type: 'sendBus', bus: 'efx', destination: 'amb' },
    );
    const bySend = pathAudit(sent).find((c) => c.id.startsWith('loop/'))!;
    expect(bySend.mends[0]!.label).toBe('Switch off the send from Ambience to Effects');
    expect(ids(pathAudit(mended(sent, bySend))).some((id) => id.startsWith('loop/'))).toBe(false);
  });
  it('a stem that every reference leaves out on purpose is no finding', () => {
    expect(pathAudit(start({ type: 'setReference', bus: 'ref', leftOut: ['mus'] }))).toEqual([]);
  });
  it('a circle of stems is opened at all of them: none is left feeding another', () => {
    const doc = start(
      { type: 'sendBus', bus: 'dia', destination: 'nar' },
      { type: 'sendBus', bus: 'nar', destination: 'mus' },
      { type: 'sendBus', bus: 'mus', destination: 'dia' },
    );
    const [check] = pathAudit(doc);
    expect(check!.id).toBe('loop/dia+mus+nar');
    expect(pathAudit(mended(doc, check!))).toEqual([]);
  });
  it('where a stem was removed and nothing tells where its track belongs, all stems are offered', () => {
    const doc = start({ type: 'removeBus', bus: 'nar' });
    // Its likes go to four other stems, one each: none is more likely than that, so the first of them is offered.
    expect(pathAudit(doc).find((c) => c.id === 'no-stem/t-nar')!.mends.length).toBe(1);
    const alone = apply(
      start(),
      ...['dia', 'mus', 'efx', 'amb'].map((b): EditJson => ({ type: 'removeTrack', track: `t-${b}` })),
      { type: 'removeBus', bus: 'nar' },
    );
    const mends = pathAudit(alone).find((c) => c.id === 'no-stem/t-nar')!.mends;
    expect(mends.map((m) => m.label)).toEqual([
      'Send to Dialogue',
      'Send to Music',
      'Send to Effects',
      'Send to Ambience',
    ]);
  });
  it.each(['TS_NAR_51_100000_v03.wav', 'TS_NAR_51_100512_v11-2.wav'])(
    'a print that was brought in again is told: %s',
    (name) => {
      const media = { id: 'm', name, channels: 1, frames: 4800, sampleRate: 48000, kind: 'file' as const };
      const doc = start({ type: 'addClip', id: 'c', track: 't-nar', start: 0, media });
      const check = pathAudit(doc).find((c) => c.id === 'printed-again/t-nar');
      expect(check?.grade).toBe('warn');
      expect(ids(pathAudit(mended(doc, check!)))).not.toContain('printed-again/t-nar');
      const other = start({
        type: 'addClip',
        id: 'c',
        track: 't-nar',
        start: 0,
        media: { ...media, name: 'Voice 12.wav' },
      });
      expect(pathAudit(other)).toEqual([]);
    },
  );
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
  const armed: EditJson = { type: 'seatTrack', track: 't-nar', armed: true };
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
      id: 'not-open/dev',
      grade: 'stop',
    });
  });
  it('a line that has spoken may be silent, and one that was passed by is not asked about again', () => {
    const doc = start(armed, patched);
    expect(rollCheck(doc, { ...live(-80), spoken: new Set(['dev/1']) })).toEqual([]);
    expect(rollCheck(doc, { ...live(-80), spoken: new Set(['dev/2']) })).toHaveLength(1);
    expect(rollCheck(doc, { ...live(-80), passed: new Set(['no-signal/t-nar/dev/1']) })).toEqual([]);
  });
  it('a device that is off is one finding for all its lines, and can be switched on', () => {
    const doc = start(
      armed,
      patched,
      { type: 'seatTrack', track: 't-dia', armed: true },
      { type: 'addLine', device: 'dev', channel: 1, name: 'Desk' },
      { type: 'patch', track: 't-dia', channel: 0, line: 'dev/2' },
    );
    const devices = new Map([['dev', { name: 'Eight', state: 'off' as const, simulated: true }]]);
    const found = rollCheck(doc, { lines: new Map(), devices });
    expect(ids(found)).toEqual(['not-open/dev']);
    expect(found[0]!.title).toBe('Eight is switched off');
    expect(found[0]!.mends.map((m) => m.act ?? m.edits.length)).toEqual([{ device: 'dev', what: 'switch-on' }, 2]);
  });
  it('a device that went away is told for as long as it is away, whether or not its track is armed', () => {
    const away = (state: 'on' | 'off' | 'gone') => ({
      lines: new Map(),
      devices: new Map([['dev', { name: 'Eight', state, simulated: true }]]),
    });
    expect(deviceCheck(start(patched), away('gone'))[0]).toMatchObject({ id: 'device-gone/dev', grade: 'warn' });
    expect(deviceCheck(start(patched, armed), away('gone'))[0]).toMatchObject({
      grade: 'stop',
      mends: [{ act: { device: 'dev', what: 'plug-in' } }],
    });
    // One that this computer has never seen is not there either.
    expect(deviceCheck(start(patched), { lines: new Map(), devices: new Map() })).toHaveLength(1);
    expect(rollCheck(start(patched, armed), away('gone'))).toEqual([]);
    for (const state of ['on', 'off'] as const) expect(deviceCheck(start(patched), away(state))).toEqual([]);
    expect(deviceCheck(start(), away('gone'))).toEqual([]);
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
  it('lanes count in place of what is set: a reference that follows one is told, a mute that does is not', () => {
    const lane = (node: string, param: string, value: number): EditJson => ({
      type: 'writeLane',
      target: { node, param },
      from: 0,
      to: 9,
      points: [{ at: 0, value, shape: 'step' }],
    });
    const doc = start(
      { type: 'setBus', bus: 'ref', level: -2 },
      { type: 'setBus', bus: 'mus', muted: true },
      { type: 'setTrack', track: 't-efx', muted: true },
      lane('ref', 'level', -6),
      lane('mus', 'muted', 0),
      lane('t-efx', 'muted', 0),
    );
    const found = printCheck(doc);
    expect(ids(found)).toEqual(['reference-lane/ref']);
    // Without the lane the level counts that is set.
    expect(ids(printCheck(mended(doc, found[0]!)))).toEqual(['unity/ref']);
    expect(printCheck(start(lane('ref', 'level', 0)))).toEqual([]);
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
