import { describe, expect, it } from 'vitest';
import { applied, monoTrack, sessionWith } from '../../../tests/support/session';
import { newRoom, portsFrom, roomFaults, setSpeaker, type Room } from '@/core/rooms';
import type { EditJson, SessionDoc } from '@/core/session';
import { allChecks, oversCheck, pathAudit, printCheck, type Check } from '.';

const find = (checks: readonly Check[], id: string): Check | undefined => checks.find((c) => c.id === id);
const mended = (doc: SessionDoc, check: Check, mend = 0): SessionDoc => applied(doc, ...check.mends[mend]!.edits);
const stage = (bus: string, type: string, values: Record<string, number> = {}): EditJson[] => [
  { type: 'addStage', owner: { kind: 'bus', id: bus }, id: `${bus}-${type}`, stage: type },
  { type: 'setStage', owner: { kind: 'bus', id: bus }, stage: `${bus}-${type}`, values },
];

describe('the same stage twice', () => {
  it('on a stem and the reference is told, and taken off the reference alone', () => {
    const doc = sessionWith(...stage('dia', 'lowCut', { frequency: 80 }), ...stage('ref', 'lowCut', { frequency: 80 }));
    const check = find(pathAudit(doc), 'doubled/ref/ref-lowCut')!;
    expect(check).toMatchObject({ grade: 'warn', about: ['ref', 'dia'] });
    const after = mended(doc, check);
    expect(find(pathAudit(after), check.id)).toBeUndefined();
    expect(after.buses.map((b) => b.chain.length)).toEqual(doc.buses.map((b) => (b.id === 'ref' ? 0 : b.chain.length)));
  });

  it.each([
    ['other values', [...stage('dia', 'lowCut', { frequency: 80 }), ...stage('ref', 'lowCut', { frequency: 120 })]],
    ['limiters, which both are wanted', [...stage('dia', 'limiter'), ...stage('ref', 'limiter')]],
    [
      'one of a stem that the reference leaves out',
      [...stage('nar', 'lowCut'), ...stage('ref', 'lowCut'), { type: 'setReference', bus: 'ref', leftOut: ['nar'] }],
    ],
  ] satisfies [string, EditJson[]][])('not of %s', (_, edits) => {
    expect(pathAudit(sessionWith(...edits)).filter((c) => c.id.startsWith('doubled'))).toEqual([]);
  });

  it('what stands on the reference alone is carried by its stems', () => {
    const doc = sessionWith(...stage('ref', 'lowCut', { frequency: 80 }));
    const check = find(printCheck(doc), 'reference-stage/ref-lowCut')!;
    expect(check.mends[0]!.label).toBe('Carry it on the stems');
    const after = mended(doc, check);
    expect(find(printCheck(after), check.id)).toBeUndefined();
    expect(pathAudit(after).filter((c) => c.id.startsWith('doubled'))).toEqual([]);
    for (const b of after.buses) expect(b.chain.length).toBe(b.kind === 'stem' ? 1 : 0);
  });
});

describe('width', () => {
  const surround: EditJson = { type: 'addTrack', id: 'surf', name: 'Surf', layout: '5.1', destination: 'pair' };
  const pair: EditJson = { type: 'addBus', kind: 'stem', id: 'pair', name: 'Pair', layout: 'stereo' };

  it('that is lost in a narrower bus is told with what loses it', () => {
    const check = find(pathAudit(sessionWith(pair, surround)), 'width-lost/pair');
    expect(check).toMatchObject({ grade: 'warn', about: ['pair', 'surf'] });
    expect(check!.title).toContain('Surf (5.1) is folded into Pair, which is stereo');
  });

  it('is not lost in a wider bus, nor by mono in stereo', () => {
    const wide = { ...surround, destination: 'amb' } as EditJson;
    const mono = { ...monoTrack('m'), destination: 'pair' } as EditJson;
    expect(pathAudit(sessionWith(pair, wide, mono)).filter((c) => c.id.startsWith('width-lost'))).toEqual([]);
  });

  it('that is left in a surround stem of stereo sources is a note, until one stands elsewhere', () => {
    const wind: EditJson = { type: 'addTrack', id: 'wind', name: 'Wind', layout: 'stereo', destination: 'amb' };
    const doc = sessionWith(wind);
    expect(find(pathAudit(doc), 'width-left/amb')?.grade).toBe('note');
    const placed = applied(doc, {
      type: 'placeTrack',
      track: 'wind',
      placement: { azimuth: 120, distance: 1, width: 60, lfe: -100 },
    });
    expect(find(pathAudit(placed), 'width-left/amb')).toBeUndefined();
  });
});

describe('overs', () => {
  const live = (db: number) => ({ lines: new Map(), overs: { efx: { count: 14, db, at: 48_000 * 41 } } });

  it('are told with how often, how far and where; the trim takes as much away', () => {
    const doc = sessionWith();
    const check = find(allChecks(doc, live(1.83)), 'overs/efx')!;
    expect(check.title).toBe('Effects went over 14 times before its chain');
    expect(check.why).toContain('Highest +1.8 dBFS at 10:00:41:00');
    expect(check.mends[0]!.label).toBe('Trim -2.1 dB');
    const efx = mended(doc, check).buses.find((b) => b.id === 'efx')!;
    expect(1.83 + efx.trim).toBeLessThanOrEqual(-0.2);
    expect(1.83 + efx.trim).toBeGreaterThan(-0.31);
  });

  it('that no trim can take away have no such mend', () => {
    expect(oversCheck(sessionWith(), live(30))[0]!.mends).toEqual([]);
  });
});

describe('a level that follows a lane', () => {
  const lane = (...values: number[]): EditJson => ({
    type: 'writeLane',
    target: { node: 'amb', param: 'level' },
    from: 0,
    to: 10_000,
    points: values.map((value, i) => ({ at: i * 1000, value, shape: 'line' })),
  });

  it('and ends beside unity is noted, and brought back', () => {
    const doc = sessionWith(lane(0, -4, -2));
    const check = find(printCheck(doc), 'lane-end/amb')!;
    expect(check.grade).toBe('note');
    expect(find(printCheck(mended(doc, check)), 'lane-end/amb')).toBeUndefined();
  });

  it.each([
    ['at unity', [-6, 0]],
    ['in silence', [0, -100]],
  ])('and ends %s is not', (_, values) => {
    expect(find(printCheck(sessionWith(lane(...values))), 'lane-end/amb')).toBeUndefined();
  });
});

it('buses that are not at unity are set there one by one, or all', () => {
  const doc = sessionWith(
    { type: 'setBus', bus: 'dia', level: -2 },
    { type: 'setBus', bus: 'ref', level: 1 },
    { type: 'setBus', bus: 'mus', level: 3 },
  );
  const check = find(printCheck(doc), 'unity/dia')!;
  expect(check.mends.map((m) => m.label)).toEqual(['Set to unity', 'All 3 to unity']);
  const levels = (d: SessionDoc) => ['dia', 'ref', 'mus'].map((id) => d.buses.find((b) => b.id === id)!.level);
  expect(levels(mended(doc, check, 0))).toEqual([0, 1, 3]);
  expect(levels(mended(doc, check, 1))).toEqual([0, 0, 0]);
});

describe('four in two', () => {
  it('on anything but a quad is told, and taken out by its mend', () => {
    const doc = sessionWith(...stage('dia', 'fourDecoder'));
    const check = find(pathAudit(doc), 'four/dia/dia-fourDecoder')!;
    expect(check).toMatchObject({ grade: 'warn', title: 'Four in two: decoder does nothing on Dialogue' });
    expect(find(pathAudit(mended(doc, check)), check.id)).toBeUndefined();
    const quad = applied(doc, { type: 'setBus', bus: 'dia', layout: 'quad' });
    expect(find(pathAudit(quad), check.id)).toBeUndefined();
  });
});

describe('the room that is played in', () => {
  const live = (room: Room) => ({
    lines: new Map<string, number>(),
    room: { name: room.name, faults: roomFaults(room, { name: 'The monitor', channels: 12 }) },
  });
  const room = portsFrom(newRoom('Mixing room', 'out', '5.1'), 1);
  const ids = (r: Room) => allChecks(sessionWith(), live(r)).flatMap((c) => (c.place === 'room' ? [c] : []));
  it('stops where two loudspeakers share a port, warns where one has none, and is silent where all is well', () => {
    expect(ids(room)).toEqual([]);
    expect(ids(setSpeaker(room, 'R', { port: 1 }))).toMatchObject([{ grade: 'stop', title: 'Mixing room: L, R' }]);
    expect(ids(setSpeaker(room, 'R', { port: null }))).toMatchObject([{ grade: 'warn', title: 'Mixing room: R' }]);
    expect(ids(setSpeaker(room, 'R', { muted: true }))).toEqual([]);
  });
});
