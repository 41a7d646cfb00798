import { describe, expect, it } from 'vitest';
import { FORMAT } from '../../../tests/support/session';
import { applyEdit, newSession, readEdit, type EditJson, type SessionDoc } from '@/core/session';
import { layoutMap } from './layout';

const session = (tracks: number, stems: number): SessionDoc => {
  let doc = newSession('Test', 'TS', { ...FORMAT });
  const apply = (e: EditJson) => (doc = applyEdit(doc, readEdit(e)).doc);
  for (let i = 0; i < tracks; i++)
    apply({ type: 'addTrack', id: `t${i}`, name: `T ${i}`, layout: 'mono', destination: 'dia' });
  for (let i = 5; i < stems; i++) apply({ type: 'addStem', id: `s${i}`, name: `Stem ${i}`, tracks: [] });
  return doc;
};

describe('the map', () => {
  it.each([
    [0, 5],
    [3, 5],
    [12, 5],
    [64, 5],
    [20, 12],
  ])('%i tracks, %i stems: nothing overlaps, left to right', (tracks, stems) => {
    const map = layoutMap(session(tracks, stems), 620);
    const boxes = [...map.tracks, ...map.buses, ...map.ends];
    for (const a of boxes) {
      expect(a.y + a.height).toBeLessThanOrEqual(map.height + 60);
      for (const b of boxes)
        if (a !== b && a.x === b.x)
          expect(a.y + a.height <= b.y || b.y + b.height <= a.y, `${a.id} ${b.id}`).toBe(true);
    }
    const x = (id: string) => boxes.find((b) => b.id === id)!.x;
    expect(x('dia')).toBeLessThan(x('ref'));
    expect(x('ref')).toBeLessThan(x('monitor'));
    if (tracks) expect(x('t0')).toBeLessThan(x('dia'));
  });
  it('fits twelve tracks and five stems into a window of 1280x800', () => {
    const map = layoutMap(session(12, 5), 620);
    expect(Math.max(...map.tracks.map((t) => t.y + t.height))).toBeLessThanOrEqual(620);
  });
});
