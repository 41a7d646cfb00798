import { describe, expect, it } from 'vitest';
import { applied, mono, monoTrack, sessionWith } from '../../../tests/support/session';
import type { EditJson } from '@/core/session';
import { sameMap, sameRows, sameSet } from './drawn';
import { rowsOf } from './rows';

const doc = sessionWith(monoTrack('a'), monoTrack('b'), {
  type: 'addClip',
  id: 'c',
  track: 'b',
  start: 1_000,
  media: mono('m', 9_000),
});
const rows = (...edits: EditJson[]) => rowsOf(applied(doc, ...edits), { open: new Set(['b']), all: new Set() }, []);

describe('rows look the same', () => {
  it.each<[string, EditJson, boolean]>([
    ['after a level', { type: 'setTrack', track: 'b', level: -6 }, true],
    [
      'after a destination, whose colour is looked at by itself',
      { type: 'sendTracks', tracks: ['b'], destination: 'efx' },
      true,
    ],
    ['after a mute', { type: 'setTrack', track: 'b', muted: true }, false],
    ['after arming', { type: 'seatTrack', track: 'b', armed: true }, false],
    ['after a clip was moved', { type: 'moveClip', clip: 'c', start: 2_000 }, false],
    ['in another order', { type: 'orderTracks', order: ['b', 'a'] }, false],
    ['with one more', monoTrack('d'), false],
  ])('%s: %s', (_, edit, same) => {
    expect(sameRows(rows(), rows(edit))).toBe(same);
  });
});

it('maps and sets are the same with the same in them', () => {
  expect(sameMap(new Map([['a', 1]]), new Map([['a', 1]]))).toBe(true);
  expect(sameMap(new Map([['a', 1]]), new Map([['a', 2]]))).toBe(false);
  expect(sameSet(null, null)).toBe(true);
  expect(sameSet(null, new Set())).toBe(false);
  expect(sameSet(new Set(['a']), new Set(['a']))).toBe(true);
  expect(sameSet(new Set(['a']), new Set(['b']))).toBe(false);
});
