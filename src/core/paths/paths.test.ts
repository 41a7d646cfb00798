import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { newBus, newSession, newTrack, type SessionDoc } from '@/core/session';
import { busOrder, loops, soloedTracks } from '.';

const FORMAT = {
  sampleRate: 48000,
  wordLength: 24,
  fileKind: 'Broadcast WAV',
  frameRate: '25',
  startTimecode: '10:00:00:00',
  layout: '5.1',
} as const;

/** A session whose buses lead where `links` says: index of the target, -1 the monitor. */
function graph(links: readonly number[]): SessionDoc {
  const doc = newSession('Test', 'TS', { ...FORMAT });
  doc.buses = links.map((to, i) =>
    newBus(`b${i}`, `Bus ${i}`, `B${i}`, 'bus', -1, '5.1', to < 0 || to >= links.length ? 'monitor' : `b${to}`),
  );
  return doc;
}

const links = fc.array(fc.integer({ min: -1, max: 9 }), { minLength: 1, maxLength: 10 });

describe('order of buses', () => {
  it('has every bus once, after all that feed it, but for the links that close a circle', () => {
    fc.assert(
      fc.property(links, (to) => {
        const doc = graph(to);
        const { buses, closing } = busOrder(doc);
        expect(buses.map((b) => b.id).sort()).toEqual(doc.buses.map((b) => b.id).sort());
        const place = new Map(buses.map((b, i) => [b.id, i]));
        for (const b of buses) {
          if (b.destination === 'monitor' || closing.has(b.id)) continue;
          expect(place.get(b.destination!)!).toBeGreaterThan(place.get(b.id)!);
        }
      }),
    );
  });
  it('cuts exactly one link of each circle', () => {
    fc.assert(
      fc.property(links, (to) => {
        const doc = graph(to);
        const { closing } = busOrder(doc);
        const circles = loops(doc);
        expect(closing.size).toBe(circles.length);
        for (const circle of circles) expect(circle.filter((b) => closing.has(b.id))).toHaveLength(1);
      }),
    );
  });
  it('finds a bus that feeds itself', () => {
    expect(loops(graph([0])).map((c) => c.map((b) => b.id))).toEqual([['b0']]);
  });
});

describe('solo', () => {
  const doc = (): SessionDoc => {
    const d = newSession('Test', 'TS', { ...FORMAT });
    d.tracks = [newTrack('a', 'A', 'mono', 'dia'), newTrack('b', 'B', 'mono', 'efx'), newTrack('c', 'C', 'mono', null)];
    return d;
  };
  it('is nothing while nothing is soloed', () => {
    expect(soloedTracks(doc())).toBeNull();
  });
  it('of a track leaves that track', () => {
    const d = doc();
    d.tracks[1]!.soloed = true;
    expect([...soloedTracks(d)!]).toEqual(['b']);
  });
  it('of a bus leaves what comes through it, also over other buses', () => {
    const d = doc();
    d.buses.find((b) => b.id === 'amb')!.soloed = true;
    d.buses.find((b) => b.id === 'efx')!.destination = 'amb';
    expect([...soloedTracks(d)!]).toEqual(['b']);
    d.buses.find((b) => b.id === 'ref')!.soloed = true;
    expect([...soloedTracks(d)!]).toEqual(['a', 'b']);
  });
});
