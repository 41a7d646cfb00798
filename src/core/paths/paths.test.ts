import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { newBus, newSession, newStage, newTrack, type Bus, type Send, type SessionDoc } from '@/core/session';
import { circleOf, circles, linksOf, openLinks, orderOf, soloedTracks, stemsBehind, wouldLoop } from '.';

const FORMAT = {
  sampleRate: 48000,
  wordLength: 24,
  fileKind: 'Broadcast WAV',
  frameRate: '25',
  startTimecode: '10:00:00:00',
  layout: '5.1',
} as const;

const send = (id: string, to: string, more: Partial<Send> = {}): Send => ({
  id,
  to,
  level: 0,
  tap: 'after',
  on: true,
  placement: null,
  ...more,
});

/** A session whose buses lead where `outs` says (index of the target, -1 the monitor), with sends and keys between them. */
function graph(
  outs: readonly number[],
  sends: readonly (readonly [number, number])[] = [],
  keys: readonly (readonly [number, number])[] = [],
): SessionDoc {
  const doc = newSession('Test', 'TS', { ...FORMAT });
  doc.buses = outs.map((to, i) =>
    newBus(`b${i}`, `Bus ${i}`, `B${i}`, 'bus', -1, '5.1', to < 0 || to >= outs.length ? 'monitor' : `b${to}`),
  );
  const at = (i: number) => doc.buses[i % outs.length]!;
  sends.forEach(([from, to], i) => at(from).sends.push(send(`s${i}`, at(to).id)));
  keys.forEach(([listener, source], i) =>
    at(listener).chain.push({ ...newStage(`k${i}`, 'gate', true), key: at(source).id }),
  );
  return doc;
}

const outs = fc.array(fc.integer({ min: -1, max: 9 }), { minLength: 1, maxLength: 10 });
const pairs = fc.array(fc.tuple(fc.nat(9), fc.nat(9)), { maxLength: 8 });

describe('the order of tracks and buses', () => {
  it('has each once, after all that it depends on, but for the links that close a circle', () => {
    fc.assert(
      fc.property(outs, pairs, pairs, (to, sends, keys) => {
        const doc = graph(to, sends, keys);
        const { nodes, closing } = orderOf(doc);
        expect(nodes.map((b) => b.id).sort()).toEqual(doc.buses.map((b) => b.id).sort());
        const place = new Map(nodes.map((b, i) => [b.id, i]));
        for (const link of linksOf(doc).all) {
          if (link.to === 'monitor' || closing.has(link.id)) continue;
          expect(place.get(link.to)!, link.id).toBeGreaterThan(place.get(link.from)!);
        }
      }),
    );
  });
  it('cuts only links that stand in a circle, each of which is told', () => {
    fc.assert(
      fc.property(outs, pairs, pairs, (to, sends, keys) => {
        const doc = graph(to, sends, keys);
        const { closing } = orderOf(doc);
        const told = circles(doc);
        expect(told).toHaveLength(closing.size);
        for (const { nodes, links } of told) {
          expect(links).toHaveLength(nodes.length);
          links.forEach((l, i) => {
            expect(l.from).toBe(nodes[i]!.id);
            expect(l.to).toBe(nodes[(i + 1) % nodes.length]!.id);
          });
          expect(links.filter((l) => closing.has(l.id))).toHaveLength(1);
        }
      }),
    );
  });
  it('cuts no sound for a key', () => {
    fc.assert(
      fc.property(outs, pairs, (to, keys) => {
        const cut = (doc: SessionDoc) => [...orderOf(doc).closing].filter((id) => !id.includes('/key/'));
        expect(cut(graph(to, [], keys))).toEqual(cut(graph(to)));
      }),
    );
  });
  it('refuses what would close a circle and nothing else', () => {
    fc.assert(
      fc.property(outs, pairs, fc.nat(9), fc.nat(9), (to, sends, a, b) => {
        const doc = graph(to, sends);
        if (orderOf(doc).closing.size > 0) return;
        const [from, into] = [`b${a % to.length}`, `b${b % to.length}`];
        const after = graph(to, [...sends, [a % to.length, b % to.length]]);
        expect(wouldLoop(doc, from, into)).toBe(orderOf(after).closing.size > 0);
      }),
    );
  });
  it('finds a bus that feeds itself, and names a circle in its order', () => {
    expect(circles(graph([0])).map((c) => c.nodes.map((b) => b.id))).toEqual([['b0']]);
    expect(circleOf(graph([1, 2, -1]), 'b2', 'b0')).toEqual(['b0', 'b1', 'b2']);
  });
});

const studio = (): SessionDoc => {
  const d = newSession('Test', 'TS', { ...FORMAT });
  d.tracks = [newTrack('a', 'A', 'mono', 'dia'), newTrack('b', 'B', 'mono', 'efx'), newTrack('c', 'C', 'mono', null)];
  return d;
};
const bus = (d: SessionDoc, id: string): Bus => d.buses.find((x) => x.id === id)!;

describe('links', () => {
  it('remember nothing of a document that may still change', () => {
    const d = studio();
    expect(
      linksOf(d)
        .from('a')
        .map((l) => l.to),
    ).toEqual(['dia']);
    d.tracks[0]!.destination = 'nar';
    expect(
      linksOf(d)
        .from('a')
        .map((l) => l.to),
    ).toEqual(['nar']);
  });
  it('of a stem go to every reference that does not leave it out', () => {
    const d = studio();
    d.buses.push({ ...newBus('two', 'Without dialogue', 'WD', 'reference', -1, '5.1', null), leftOut: ['dia'] });
    const to = (id: string) =>
      linksOf(d)
        .from(id)
        .map((l) => l.to);
    expect(to('efx')).toEqual(['ref', 'two']);
    expect(to('dia')).toEqual(['ref']);
    bus(d, 'efx').destination = 'monitor';
    expect(to('efx')).toEqual(['monitor']);
  });
  it('of a return with rooms lead back to each stem that feeds it; a source comes into one stem only', () => {
    const d = studio();
    d.buses.unshift({ ...newBus('hall', 'Hall', 'HA', 'return', -1, 'stereo', 'amb'), rooms: 'each stem' });
    for (const t of d.tracks) t.sends = [send(`${t.id}-hall`, 'hall')];
    expect(
      linksOf(d)
        .from('hall')
        .map((l) => [l.room, l.to]),
    ).toEqual([
      ['dia', 'dia'],
      ['efx', 'efx'],
      [null, 'amb'],
    ]);
    expect(stemsBehind(d, linksOf(d).from('a'))).toEqual(['dia']);
    bus(d, 'hall').rooms = 'shared';
    expect(stemsBehind(d, linksOf(d).from('a'))).toEqual(['dia', 'amb']);
  });
});

describe('solo', () => {
  it('is nothing while nothing is soloed', () => {
    expect(soloedTracks(studio())).toBeNull();
    expect(openLinks(studio())).toBeNull();
  });
  it('of a track leaves that track', () => {
    const d = studio();
    d.tracks[1]!.soloed = true;
    expect([...soloedTracks(d)!]).toEqual(['b']);
  });
  it('of a bus leaves what comes through it, also over other buses', () => {
    const d = studio();
    bus(d, 'amb').soloed = true;
    bus(d, 'efx').destination = 'amb';
    expect([...soloedTracks(d)!]).toEqual(['b']);
    bus(d, 'ref').soloed = true;
    expect([...soloedTracks(d)!]).toEqual(['a', 'b']);
  });
  const withHall = (throughSolo: boolean): SessionDoc => {
    const d = studio();
    d.buses.unshift({ ...newBus('hall', 'Hall', 'HA', 'return', -1, 'stereo', 'amb'), throughSolo });
    d.tracks[0]!.sends = [send('a-hall', 'hall')];
    d.tracks[1]!.sends = [send('b-hall', 'hall')];
    return d;
  };
  it('of a track lets its own reverb be heard, not that of others', () => {
    const d = withHall(true);
    d.tracks[0]!.soloed = true;
    expect([...openLinks(d)!].sort()).toEqual(['a-hall', 'a/out', 'amb/out', 'dia/out', 'hall/out', 'ref/out']);
  });
  it('of a stem lets the reverb of what it holds be heard too', () => {
    const d = withHall(true);
    bus(d, 'dia').soloed = true;
    expect([...openLinks(d)!].sort()).toEqual(['a-hall', 'a/out', 'amb/out', 'dia/out', 'hall/out', 'ref/out']);
  });
  it('leaves a return silent that is not heard through solo, unless it is meant itself', () => {
    const d = withHall(false);
    d.tracks[0]!.soloed = true;
    expect([...openLinks(d)!].sort()).toEqual(['a/out', 'dia/out', 'ref/out']);
    d.tracks[0]!.soloed = false;
    bus(d, 'hall').soloed = true;
    expect([...openLinks(d)!].sort()).toEqual(['a-hall', 'amb/out', 'b-hall', 'hall/out', 'ref/out']);
  });
});
