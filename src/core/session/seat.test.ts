import { expect, it } from 'vitest';
import { applied, monoTrack, sessionWith } from '../../../tests/support/session';
import { hearingOf, monitorOf, newSeat, readEdit, seated, seatOf, upgradeDoc, type SessionDoc } from '.';

const doc = sessionWith(monoTrack('a'), monoTrack('b'), monoTrack('g'), { type: 'setTrack', track: 'g', guide: true });

it('a seat lies over a document and is found in it again', () => {
  const seat = {
    soloed: ['b', 'dia'],
    armed: ['a'],
    hearing: { b: 'always' as const },
    monitor: { level: -20, dimmed: true, muted: false },
  };
  const over = seated(doc, seat);
  expect(over.tracks[0]).toMatchObject({ armed: true });
  expect(over.tracks[1]).toMatchObject({ soloed: true, hearing: 'always' });
  expect(over.buses.find((b) => b.id === 'dia')!.soloed).toBe(true);
  expect({ ...seatOf(over), soloed: [...seatOf(over).soloed].sort() }).toEqual(seat);
  expect(doc.tracks[0]!.armed).toBeUndefined();
});

it('rows of which nothing is personal stay the same objects, and the others as long as nothing changes', () => {
  const seat = { ...newSeat(), armed: ['a'] };
  const [one, two] = [seated(doc, seat), seated(doc, { ...seat })];
  expect(one.tracks[1]).toBe(doc.tracks[1]);
  expect(two.tracks[0]).toBe(one.tracks[0]);
  expect(seated(doc, newSeat()).tracks).toBe(doc.tracks);
});

it('what is said of a track that is gone lays nothing', () => {
  expect(seatOf(seated(doc, { ...newSeat(), armed: ['nobody'], hearing: { nobody: 'never' } }))).toEqual(newSeat());
});

it('personal edits change what lies over the document only', () => {
  const over = applied(
    seated(doc, newSeat()),
    { type: 'seatTrack', track: 'a', armed: true },
    { type: 'setMonitor', dimmed: true },
  );
  expect(seatOf(over)).toEqual({ ...newSeat(), armed: ['a'], monitor: { level: -12, dimmed: true, muted: false } });
  expect(readEdit({ type: 'seatBus', bus: 'dia', soloed: true }).personal).toBe(true);
  expect(readEdit({ type: 'setTrack', track: 'a', level: 0 }).personal).toBe(false);
  expect(() => readEdit({ type: 'setTrack', track: 'a', armed: true })).toThrow(/armed/);
});

it('inputs are heard while armed, those of guides not at all, unless it is said otherwise', () => {
  expect(doc.tracks.map(hearingOf)).toEqual(['armed', 'armed', 'never']);
  expect(monitorOf(doc)).toEqual({ level: -12, dimmed: false, muted: false });
});

it('what an earlier release kept in the session is what everybody begins with', () => {
  const old = JSON.parse(JSON.stringify(doc)) as Record<string, unknown> & { tracks: Record<string, unknown>[] };
  Object.assign(old, { version: 4, monitor: { level: -18, dimmed: false, muted: false } });
  Object.assign(old.tracks[0]!, { armed: true, soloed: false, hearing: 'armed' });
  Object.assign(old.tracks[1]!, { armed: false, soloed: true, hearing: 'always' });
  const next = upgradeDoc(old as unknown as SessionDoc);
  expect(newSeat(next)).toEqual({
    soloed: ['b'],
    armed: ['a'],
    hearing: { b: 'always' },
    monitor: { level: -18, dimmed: false, muted: false },
  });
  expect({ ...next, newcomer: undefined }).toEqual({ ...doc, newcomer: undefined });
});
