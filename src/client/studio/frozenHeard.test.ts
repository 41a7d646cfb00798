import { describe, expect, it } from 'vitest';
import { applied, mono, monoTrack, sessionWith } from '../../../tests/support/session';
import { busOf, frozenFrom, type EditJson, type SessionDoc } from '@/core/session';
import { frozenHeard } from './frozenHeard';

const clip = (track: string): EditJson => ({
  type: 'addClip',
  id: `c-${track}`,
  track,
  start: 0,
  media: mono(`m-${track}`, 4_000),
});

/** A frozen group of two tracks, one of which is also in a frozen room of its own; a third beside them. */
function session(): SessionDoc {
  const doc = sessionWith(
    ...['a', 'b', 'c'].flatMap((id) => [monoTrack(id), clip(id)]),
    { type: 'addBus', id: 'group', name: 'Group', kind: 'bus', layout: 'mono' },
    { type: 'sendBus', bus: 'group', destination: 'efx' },
    { type: 'sendTracks', tracks: ['a', 'b'], destination: 'group' },
  );
  const media = mono('m-group', 9_000);
  const from = frozenFrom(doc, busOf(doc, 'group'));
  return applied(doc, { type: 'freezeBus', bus: 'group', media, start: 0, from });
}

const soloed = (doc: SessionDoc, ...ids: string[]): SessionDoc => ({
  ...doc,
  tracks: doc.tracks.map((t) => ({ ...t, soloed: ids.includes(t.id) })),
  buses: doc.buses.map((b) => ({ ...b, soloed: ids.includes(b.id) })),
});

const plays = (doc: SessionDoc, apart: string | null = null) => [...frozenHeard(doc, apart).keys()];

describe('a frozen bus while somebody listens', () => {
  it('plays from its file', () => {
    expect(plays(session())).toEqual(['group']);
  });
  it('does not while one of its sources is soloed: the file holds the others as well', () => {
    expect(plays(soloed(session(), 'a'))).toEqual([]);
  });
  it('does while it is soloed itself, or what lies behind it, or something beside it', () => {
    for (const id of ['group', 'efx', 'c']) expect(plays(soloed(session(), id))).toEqual(['group']);
    expect(plays(soloed(session(), 'a', 'b'))).toEqual(['group']);
  });
  it('does not while a source is armed, hears its input, or a take of it is listened to', () => {
    const armed = session();
    const with_ = (part: object) => ({
      ...armed,
      tracks: armed.tracks.map((t) => (t.id === 'b' ? { ...t, ...part } : t)),
    });
    expect(plays(with_({ armed: true }))).toEqual([]);
    expect(plays(with_({ hearing: 'always', inputs: ['voice-1'] }))).toEqual([]);
    expect(plays(session(), 'b')).toEqual([]);
    expect(plays(session(), 'c')).toEqual(['group']);
  });
});
