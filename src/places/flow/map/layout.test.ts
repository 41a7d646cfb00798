import { describe, expect, it } from 'vitest';
import { monoTrack, sessionWith } from '../../../../tests/support/session';
import type { EditJson, SessionDoc } from '@/core/session';
import { layoutMap, type Box, type MapBand, type MapLayout } from './layout';
import { spread } from './spread';

const ROOM = { width: 962, height: 620 };

const session = (tracks: number, stems: number, ...more: EditJson[]): SessionDoc =>
  sessionWith(
    ...Array.from({ length: tracks }, (_, i) => monoTrack(`t${i}`, `T ${i}`)),
    ...Array.from({ length: Math.max(0, stems - 5) }, (_, i): EditJson => ({
      type: 'addBus',
      kind: 'stem',
      id: `s${i}`,
      name: `Stem ${i}`,
    })),
    ...more,
  );

/** 64 tracks in groups of groups and stems, with sends to returns. */
const large = (): SessionDoc =>
  session(
    64,
    8,
    ...Array.from({ length: 12 }, (_, g): EditJson => ({
      type: 'addBus',
      kind: 'bus',
      id: `g${g}`,
      name: `Group ${g}`,
      sources: g % 3 === 2 ? [`g${g - 1}`] : [`t${4 * g}`, `t${4 * g + 1}`],
    })),
    ...Array.from({ length: 8 }, (_, r): EditJson => ({
      type: 'addBus',
      kind: 'return',
      id: `r${r}`,
      name: `Return ${r}`,
      sources: [`t${r}`, `t${63 - r}`, `g${r}`],
    })),
    ...Array.from({ length: 20 }, (_, i): EditJson => ({
      type: 'sendTracks',
      tracks: [`t${40 + i}`],
      destination: ['mus', 'amb', 'efx', 's0', 's1', 's2'][i % 6]!,
    })),
  );

/** Boxes that a stretch of a band runs behind, its own not counted. */
function behind(band: MapBand, boxes: readonly Box[]): string[] {
  const hit = new Set<string>();
  for (let i = 1; i < band.points.length; i++) {
    const [a, b] = [band.points[i - 1]!, band.points[i]!];
    // Over a column a band runs straight; between columns there are no boxes.
    for (const box of boxes)
      if (box.id !== band.from && box.id !== band.to && a.x < box.x + box.width && b.x > box.x)
        if (Math.max(a.y, b.y) > box.y && Math.min(a.y, b.y) < box.y + box.height) hit.add(box.id);
  }
  return [...hit];
}

function overlaps(map: MapLayout): string[] {
  const found: string[] = [];
  for (const a of map.boxes)
    for (const b of map.boxes)
      if (a.id < b.id && a.column === b.column && a.y < b.y + b.height && b.y < a.y + a.height)
        found.push(`${a.id} ${b.id}`);
  return found;
}

const boxOf = (map: MapLayout, id: string): Box => map.boxes.find((b) => b.id === id)!;

describe('the map', () => {
  it.each([
    ['no track', session(0, 5)],
    ['three tracks', session(3, 5)],
    ['twelve tracks', session(12, 5)],
    ['64 tracks', session(64, 5)],
    ['twelve stems', session(20, 12)],
    ['64 tracks in 12 groups and 8 returns', large()],
  ])('%s: nothing overlaps, no band runs behind a box or out of the map, all from left to right', (_, doc) => {
    const map = layoutMap(doc, ROOM);
    expect(overlaps(map)).toEqual([]);
    for (const band of map.bands) {
      expect(behind(band, map.boxes), band.id).toEqual([]);
      expect(boxOf(map, band.from).column, band.id).toBeLessThan(boxOf(map, band.to).column);
      for (const { x, y } of band.points) {
        expect(x).toBeGreaterThanOrEqual(0);
        expect(x).toBeLessThanOrEqual(map.width);
        expect(y).toBeGreaterThanOrEqual(0);
        expect(y).toBeLessThanOrEqual(map.height);
      }
    }
    expect(boxOf(map, 'dia').x).toBeLessThan(boxOf(map, 'ref').x);
    expect(boxOf(map, 'ref').x).toBeLessThan(boxOf(map, 'monitor').x);
  });

  it('fits twelve tracks and five stems, or a return and a group besides, into a window of 1280x800', () => {
    for (const more of [[], [{ type: 'addBus', kind: 'return', id: 'r', name: 'Room', sources: ['t0', 't5'] }]]) {
      const map = layoutMap(session(12, 5, ...(more as EditJson[])), ROOM);
      expect(map.width).toBeLessThanOrEqual(ROOM.width);
      expect(map.height).toBeLessThanOrEqual(ROOM.height);
    }
  });

  it('a group of groups stands one column further, a return behind all that is sent to it', () => {
    const map = layoutMap(large(), ROOM);
    expect(boxOf(map, 'g1').column).toBe(1);
    expect(boxOf(map, 'g2').column).toBe(2);
    // Group 2 is sent to return 2.
    expect(boxOf(map, 'r2').column).toBe(3);
    expect(boxOf(map, 'dia').column).toBe(4);
  });

  it('folded, the sources of a stem are one box, with one band to each place they go to', () => {
    const doc = session(6, 5, { type: 'addBus', kind: 'return', id: 'r', name: 'Room', sources: ['t0', 't1'] });
    const map = layoutMap(doc, { ...ROOM, folded: new Set(['dia']) });
    expect(map.boxes.filter((b) => b.column === 0).map((b) => [b.id, b.tracks?.length])).toEqual([['fold:dia', 6]]);
    const from = map.bands.filter((b) => b.from === 'fold:dia');
    expect(from.map((b) => [b.link.kind, b.to, b.more.length])).toEqual([
      ['out', 'dia', 5],
      ['send', 'r', 1],
    ]);
  });

  it('stems that are limited together are braced', () => {
    const linked = { on: true, ceiling: -1, release: 80, peaks: 'true' as const };
    const map = layoutMap(session(5, 5, { type: 'setReference', bus: 'ref', linked, leftOut: ['nar'] }), ROOM);
    const stems = ['dia', 'mus', 'efx', 'amb'].map((id) => boxOf(map, id));
    expect(map.braces).toHaveLength(1);
    expect(map.braces[0]!.top).toBeLessThanOrEqual(Math.min(...stems.map((s) => s.y)));
    expect(map.braces[0]!.bottom).toBeGreaterThanOrEqual(Math.max(...stems.map((s) => s.y + s.height)));
  });

  it('a circle is drawn too', () => {
    const doc = session(
      2,
      5,
      { type: 'sendBus', bus: 'dia', destination: 'mus' },
      { type: 'sendBus', bus: 'mus', destination: 'dia' },
    );
    expect(layoutMap(doc, ROOM).bands.map((b) => b.id)).toEqual(expect.arrayContaining(['band:dia', 'band:mus']));
  });
});

describe('a column', () => {
  const box = (want: number, height = 10) => ({ want, height });

  it('things that have room stand where they want to', () => {
    expect(spread([box(20), box(60)], () => 5, 0)).toEqual([15, 55]);
  });

  it('things that would overlap share the way', () => {
    // Both want 50: with 10 each and 5 between, they stand 12.5 to either side.
    expect(spread([box(50), box(50)], () => 5, 0)).toEqual([37.5, 52.5]);
  });

  it('what would stand too low moves up, as long as there is room', () => {
    expect(spread([box(90), box(200)], () => 5, 0, 100)).toEqual([75, 90]);
    expect(spread([box(90, 60), box(200, 60)], () => 5, 0, 100)).toEqual([0, 65]);
  });

  it('nothing stands above the top', () => {
    expect(spread([box(0), box(0), box(100)], () => 2, 8)).toEqual([8, 20, 95]);
  });
});
