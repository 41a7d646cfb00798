import { describe, expect, it } from 'vitest';
import { applied, monoTrack, sessionWith } from '../../../tests/support/session';
import type { Bus, SessionDoc } from './document';
import type { EditJson } from './edits';
import { azimuthOf, middleOf, placeReturn, roomBehind, sideOf } from './returnPlaces';

const at = (track: string, azimuth: number): EditJson => ({
  type: 'placeTrack',
  track,
  placement: { azimuth, distance: 1, width: 0, lfe: -100 },
});
const start = (layout: 'mono' | 'stereo' | '5.1' = 'stereo', ...edits: EditJson[]): SessionDoc =>
  sessionWith(
    monoTrack('a', 'Ann'),
    monoTrack('b', 'Ben'),
    at('a', 30),
    at('b', 90),
    { type: 'addBus', kind: 'return', id: 'r', name: 'Room', layout, sources: ['a', 'b'] },
    { type: 'addStage', owner: { kind: 'bus', id: 'r' }, id: 'r-rev', stage: 'reverb' },
    ...edits,
  );
const bus = (doc: SessionDoc, id: string): Bus => doc.buses.find((b) => b.id === id)!;

describe('a return on a side', () => {
  it.each([
    [60, 'same', 60],
    [60, 'opposite', -60],
    [60, 'behind', 120],
    [-45, 'behind', -135],
    [0, 'behind', 180],
    [0, 'opposite', 0],
    [180, 'opposite', 180],
  ] as const)('of sounds at %d°, the %s side is at %d°', (middle, side, azimuth) => {
    expect(Math.abs(azimuthOf(middle, side))).toBe(Math.abs(azimuth));
    if (Math.abs(azimuth) !== 180) expect(azimuthOf(middle, side) + 0).toBe(azimuth);
  });

  it('is found from the middle of what is sent to it, and told again', () => {
    const doc = start();
    expect(middleOf(doc, bus(doc, 'r'))).toBe(60);
    expect(sideOf(doc, bus(doc, 'r'))).toBeNull();
    for (const side of ['same', 'opposite', 'behind'] as const) {
      const next = applied(doc, placeReturn(doc, bus(doc, 'r'), side));
      expect(sideOf(next, bus(next, 'r'))).toBe(side);
    }
  });

  it('around the back is no mean of numbers', () => {
    const doc = start('stereo', at('a', 170), at('b', -170));
    expect(Math.abs(middleOf(doc, bus(doc, 'r')))).toBe(180);
  });

  it('is none of a surround return', () => {
    const doc = start('5.1');
    expect(() => placeReturn(doc, bus(doc, 'r'), 'behind')).toThrow(/speaker by speaker/);
  });
});

describe('a second room behind', () => {
  it('has the same sends and chain, another variant, and the first one in front', () => {
    const doc = start('stereo', { type: 'setSend', owner: 'b', send: 'r-b', level: -20, tap: 'before' });
    const next = applied(doc, ...roomBehind(doc, bus(doc, 'r'), 'rear'));
    const rear = bus(next, 'rear');
    expect(rear).toMatchObject({
      name: 'Room behind',
      kind: 'return',
      layout: 'stereo',
      destination: bus(doc, 'r').destination,
    });
    expect(next.tracks.map((t) => t.sends.filter((s) => s.to === 'rear').map((s) => [s.level, s.tap]))).toEqual([
      [[-12, 'after']],
      [[-20, 'before']],
    ]);
    expect(rear.chain.map((s) => [s.type, s.values.seed])).toEqual([['reverb', 2]]);
    expect([bus(next, 'r').placement!.azimuth, rear.placement!.azimuth]).toEqual([0, 180]);
  });

  it('is refused of any other layout', () => {
    const doc = start('mono');
    expect(() => roomBehind(doc, bus(doc, 'r'), 'rear')).toThrow(/stereo/);
  });
});
