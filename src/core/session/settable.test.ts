import { describe, expect, it } from 'vitest';
import { applied, mono, monoTrack, sessionWith } from '../../../tests/support/session';
import { readEdit, settables, wantedBy } from '.';

const doc = sessionWith(
  monoTrack('a', 'Narrator 1'),
  monoTrack('b', 'Boat'),
  { type: 'addLine', device: 'dev', channel: 0, name: 'Booth' },
  { type: 'addStage', owner: { kind: 'track', id: 'a' }, id: 'comp', stage: 'compressor' },
  {
    type: 'addTracks',
    tracks: [{ id: 'hall', name: 'Hall', layout: 'stereo', kind: 'return', destination: 'amb' }],
  },
  { type: 'addSend', owner: 'a', id: 's', to: 'hall' },
  { type: 'addClip', id: 'c', track: 'a', start: 0, media: mono('m', 9_000) },
);

describe('values by name', () => {
  it('are set by edits that are taken, and are then what was asked', () => {
    const all = settables(doc);
    expect(all.length).toBeGreaterThan(30);
    for (const { param, name, set } of all) {
      const asked = Math.min(param.max, param.min + param.step * 3);
      const next = applied(doc, set(asked));
      expect(settables(next).find((s) => s.name === name)!.value, name).toBeCloseTo(asked, 9);
    }
  });
  it.each([
    ['narrator level -3', 'Narrator 1, Level', -3],
    ['narrator lev −3,5 dB', 'Narrator 1, Level', -3.5],
    ['narrator 1 compressor threshold -18 dB', 'Narrator 1, Compressor Threshold', -18],
    ['boat azimuth 110', 'Boat, Azimuth', 110],
    ['send hall -6', 'Narrator 1, Send to Hall', -6],
    ['booth gain 42', 'Booth, line sheet Gain', 42],
    ['monitor level -20', 'Monitor level', -20],
    ['booth cut freq 0.12 k', 'Booth, Low cut Frequency', 120],
  ])('"%s" means %s', (text, name, value) => {
    const [first] = wantedBy(doc, text);
    expect(first).toMatchObject({ target: { name }, value, fault: null });
    expect(() => readEdit(first!.target.set(value))).not.toThrow();
  });
  it('beyond their limits are told, not set', () => {
    expect(wantedBy(doc, 'boat level 40')[0]!.fault).toBe('goes from -100 to 24 dB');
  });
  it.each(['narrator', 'narrator 1', 'nar 12', '10:00:45:00', '12', '', 'nobody level 3', 'boat level x'])(
    '"%s" means none',
    (text) => {
      expect(wantedBy(doc, text)).toEqual([]);
    },
  );
});
