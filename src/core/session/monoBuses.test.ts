import { describe, expect, it } from 'vitest';
import { newKernels } from '../../../tests/support/kernels';
import { applied, monoTrack, sessionWith } from '../../../tests/support/session';
import { compilePlan } from '@/core/engine';
import { layoutOf } from '@/core/speakers';
import { speakersFor, type SessionDoc } from '.';

const k = newKernels();
const ids = ['m0', 'm1', 'm2', 'm3', 'm4', 'm5'];
const doc = sessionWith(monoTrack('a', 'Bell'), { type: 'splitBus', bus: 'efx', ids });
const names = (d: SessionDoc, list: readonly string[]) => list.map((id) => d.buses.find((b) => b.id === id)!.name);
const gainsOf = (d: SessionDoc, from: string) =>
  compilePlan(k, d, { mode: 'print' })
    .nodes.find((n) => n.id === from)!
    .links.flatMap((l) => l.gains);

describe('a wide bus split into mono buses', () => {
  it('has one for each speaker, named after it; what goes there sounds in that speaker alone, the LFE too', () => {
    expect(names(doc, ids).map((n) => n.split(' ').at(-1))).toEqual(['L', 'R', 'C', 'LFE', 'Ls', 'Rs']);
    ids.forEach((id, channel) => expect(gainsOf(doc, id), id).toEqual([[0, channel, 1]]));
  });
  it('one that is mono, or is split already, is refused', () => {
    expect(() => applied(doc, { type: 'splitBus', bus: 'm0', ids: ['x'] })).toThrow(/mono already/);
    expect(() => applied(doc, { type: 'splitBus', bus: 'efx', ids: ids.map((i) => `${i}x`) })).toThrow(/already/);
    expect(() => applied(doc, { type: 'splitBus', bus: 'amb', ids: ['x'] })).toThrow(/6 speakers, 1 mono/);
  });
  it('still finds its speakers by name in another layout; what is missing there goes where it stood', () => {
    const quad = applied(doc, { type: 'setBus', bus: 'efx', layout: 'quad' });
    expect(gainsOf(quad, 'm4')).toEqual([[0, 2, 1]]);
    expect(gainsOf(quad, 'm2').map(([, c]) => c)).toEqual([0, 1]);
  });
});

describe('mono buses joined to a layout', () => {
  const group = (id: string, name: string) => ({
    type: 'addBus' as const,
    id,
    name,
    kind: 'bus' as const,
    layout: 'mono' as const,
  });
  const parts = sessionWith(group('p', 'Surf Rs'), group('q', 'Surf L'), group('r', 'Surf middle'));
  const join = (d: SessionDoc, layout: '5.1' | 'stereo') =>
    applied(d, { type: 'joinBuses', buses: ['p', 'q', 'r'], id: 'all', name: 'Surf', layout });
  it('go to the speakers that their names mean, the others to those that are left, in order', () => {
    expect(speakersFor(layoutOf('5.1'), ['Surf Rs', 'Surf L', 'Surf middle', 'a/L'])).toEqual(['Rs', 'L', 'R', 'C']);
    const joined = join(parts, '5.1');
    expect(joined.buses.find((b) => b.id === 'all')).toMatchObject({
      name: 'Surf',
      kind: 'bus',
      layout: '5.1',
      destination: parts.buses.find((b) => b.id === 'p')!.destination,
    });
    expect(gainsOf(joined, 'p')).toEqual([[0, 5, 1]]);
    expect(gainsOf(joined, 'q')).toEqual([[0, 0, 1]]);
    expect(gainsOf(joined, 'r')).toEqual([[0, 1, 1]]);
  });
  it('are refused where they are too many, wide, or go to different buses', () => {
    expect(() => join(parts, 'stereo')).toThrow(/Stereo has 2 speakers for 3 buses/i);
    expect(() => join(applied(parts, { type: 'setBus', bus: 'p', layout: 'stereo' }), '5.1')).toThrow(/only mono/);
    expect(() => join(applied(parts, { type: 'sendBus', bus: 'p', destination: 'mus' }), '5.1')).toThrow(
      /different buses/,
    );
  });
});

describe('a source in one speaker alone', () => {
  const at = (speaker: string) => ({
    type: 'placeTrack' as const,
    track: 'a',
    placement: { azimuth: 0, distance: 1, width: 0, lfe: -100, speaker },
  });
  it('sounds nowhere else, until a lane moves it', () => {
    const placed = applied(doc, at('LFE'));
    expect(gainsOf(placed, 'a')).toEqual([[0, 3, 1]]);
    const moving = applied(placed, {
      type: 'writeLane',
      target: { node: 'a', param: 'azimuth' },
      from: 0,
      to: 48_000,
      points: [
        { at: 0, value: 0, shape: 'line' },
        { at: 48_000, value: 110, shape: 'line' },
      ],
    });
    const link = compilePlan(k, moving, { mode: 'print' }).nodes.find((n) => n.id === 'a')!.links[0]!;
    expect(link.lanes?.place?.base.speaker).toBeUndefined();
  });
  it('with what is no label is refused', () => {
    expect(() => applied(doc, at('not a label'))).toThrow(/speaker/);
  });
});
