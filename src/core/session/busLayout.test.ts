import { describe, expect, it } from 'vitest';
import { applied, sessionWith } from '../../../tests/support/session';
import type { SessionDoc } from './document';
import { laneKey } from './lanes';

const bus = (doc: SessionDoc, id: string) => doc.buses.find((b) => b.id === id)!;
const filesOf = (doc: SessionDoc, id: string) => doc.deliverables.filter((d) => d.bus === id).map((d) => d.layout);

describe('the layout of a bus', () => {
  it('of a stem is followed by the files that have it; a fold-down stays as it was asked for', () => {
    const doc = sessionWith({ type: 'addDeliverable', id: 'd', bus: 'mus', layout: 'stereo', token: 'MU2' });
    const next = applied(doc, { type: 'setBus', bus: 'mus', layout: 'quad' });
    expect(bus(next, 'mus').layout).toBe('quad');
    expect(filesOf(next, 'mus')).toEqual(expect.arrayContaining(['quad', 'stereo']));
    expect(filesOf(next, 'dia')).toEqual(['5.1']);
  });

  it('of a placed return: made wider it goes speaker by speaker, and its place and what led that are gone', () => {
    const placement = { azimuth: 90, distance: 1, width: 60, lfe: -100 };
    const target = { node: 'r', param: 'azimuth' };
    const doc = sessionWith(
      { type: 'addBus', kind: 'return', id: 'r', name: 'Room', layout: 'stereo' },
      { type: 'setBus', bus: 'r', placement },
      { type: 'writeLane', target, from: 0, to: 0, points: [{ at: 0, value: 30, shape: 'line' }] },
    );
    const mono = applied(doc, { type: 'setBus', bus: 'r', layout: 'mono' });
    expect(bus(mono, 'r').placement).toEqual(placement);
    const wide = applied(doc, { type: 'setBus', bus: 'r', layout: '5.1' });
    expect(bus(wide, 'r').placement).toBeNull();
    expect(wide.lanes[laneKey(target)]).toBeUndefined();
  });

  it('of a reference is that of the mix', () => {
    expect(() => applied(sessionWith(), { type: 'setBus', bus: 'ref', layout: 'stereo' })).toThrow(/layout of the mix/);
  });
});
