// Taking back one's own step beside the steps of others, and what belongs to a seat.
import { describe, expect, it } from 'vitest';
import { applied, monoTrack, sessionWith } from '../../../tests/support/session';
import { ChangedSince, patchDoc, patchBetween, takeBack, type EditJson, type SessionDoc } from '.';

const start = sessionWith(monoTrack('a'), monoTrack('b'), monoTrack('c'), {
  type: 'addStage',
  owner: { kind: 'track', id: 'a' },
  id: 'g',
  stage: 'gate',
});

/** Mine is made first, then theirs; then mine is taken back. */
function back(mine: EditJson[], theirs: EditJson[], from: SessionDoc = start): SessionDoc {
  const after = applied(from, ...mine);
  return takeBack(after, from, applied(after, ...theirs));
}

const level = (track: string, db: number): EditJson => ({ type: 'setTrack', track, level: db });

describe('one’s own step', () => {
  it('is taken back, and what others did since stays', () => {
    const doc = back([level('a', -6)], [level('b', -3), { type: 'setTrack', track: 'a', muted: true }]);
    expect(doc).toEqual(applied(start, level('b', -3), { type: 'setTrack', track: 'a', muted: true }));
  });
  it('is known by its row, wherever others have moved it', () => {
    const doc = back(
      [level('c', -6)],
      [
        { type: 'removeTrack', track: 'a' },
        { type: 'orderTracks', order: ['c', 'b'] },
      ],
    );
    expect(doc.tracks.map((t) => [t.id, t.level])).toEqual([
      ['c', 0],
      ['b', 0],
    ]);
  });
  it('that removed a row brings it back at its place', () => {
    const doc = back([{ type: 'removeTrack', track: 'b' }], [level('a', -1), monoTrack('d')]);
    expect(doc.tracks.map((t) => t.id)).toEqual(['a', 'b', 'c', 'd']);
    expect(doc.tracks[0]!.level).toBe(-1);
  });
  it('that made a row takes it away', () => {
    expect(back([monoTrack('d')], [level('a', -1)]).tracks.map((t) => t.id)).toEqual(['a', 'b', 'c']);
  });
  it('that ordered rows is taken back beside new ones', () => {
    const doc = back([{ type: 'orderTracks', order: ['c', 'a', 'b'] }], [monoTrack('d')]);
    expect(doc.tracks.map((t) => t.id)).toEqual(['a', 'b', 'c', 'd']);
  });
  it('reaches into chains and lanes', () => {
    const mine: EditJson[] = [
      { type: 'setStage', owner: { kind: 'track', id: 'a' }, stage: 'g', values: { threshold: -40 } },
      {
        type: 'writeLane',
        target: { node: 'b', param: 'level' },
        from: 0,
        to: 9,
        points: [{ at: 3, value: -3, shape: 'line' }],
      },
    ];
    const theirs: EditJson[] = [
      { type: 'setStage', owner: { kind: 'track', id: 'a' }, stage: 'g', values: { range: -20 } },
    ];
    expect(back(mine, theirs)).toEqual(applied(start, ...theirs));
  });
  it.each<[string, EditJson[], EditJson[], RegExp]>([
    ['a value', [level('a', -6)], [level('a', -9)], /tracks \/ a \/ level/],
    ['a row that was made', [monoTrack('d')], [level('d', -2)], /tracks \/ d/],
    ['a row that went', [level('a', -6)], [{ type: 'removeTrack', track: 'a' }], /tracks \/ a/],
    [
      'an order',
      [{ type: 'orderTracks', order: ['c', 'a', 'b'] }],
      [{ type: 'orderTracks', order: ['b', 'a', 'c'] }],
      /tracks/,
    ],
  ])('is refused where others changed the same thing: %s', (_, mine, theirs, path) => {
    expect(() => back(mine, theirs)).toThrow(ChangedSince);
    expect(() => back(mine, theirs)).toThrow(path);
  });
  it('that others have taken back already changes nothing', () => {
    expect(back([level('a', -6)], [level('a', 0)])).toEqual(start);
  });
});

it('a document becomes another by patches of what differs', () => {
  const target = applied(
    start,
    level('b', -3),
    { type: 'removeTrack', track: 'c' },
    { type: 'setBus', bus: 'dia', trim: 2 },
  );
  const { doc, patches, inverse } = patchBetween(start, target);
  expect(doc).toEqual(target);
  expect(patchDoc(start, patches)).toEqual(target);
  expect(patchDoc(target, inverse)).toEqual(start);
  expect(patchBetween(start, applied(start, level('b', -3))).patches).toEqual([
    { op: 'replace', path: ['tracks', 1, 'level'], value: -3 },
  ]);
});
