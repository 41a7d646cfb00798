import { describe, expect, it } from 'vitest';
import { FORMAT } from '../../../tests/support/session';
import { applyEdit, gapsOf, newSession, readEdit, type EditJson, type MediaRef, type SessionDoc } from '.';

const apply = (doc: SessionDoc, ...edits: EditJson[]) => edits.reduce((d, e) => applyEdit(d, readEdit(e)).doc, doc);
const media = (id: string, frames: number, channels = 1): MediaRef => ({
  id,
  name: `${id}.wav`,
  channels,
  frames,
  sampleRate: 48000,
  kind: 'file',
});
const doc = apply(
  newSession('Test', 'TS', { ...FORMAT }),
  { type: 'addTrack', id: 'a', name: 'Narrator', layout: 'mono', destination: 'nar' },
  { type: 'addTrack', id: 's', name: 'Surf', layout: 'stereo', destination: 'amb' },
  { type: 'addClip', id: 'c1', track: 'a', start: 1000, media: media('m1', 500) },
  { type: 'addClip', id: 'c2', track: 'a', start: 1400, media: media('m2', 300) },
  { type: 'addClip', id: 'c3', track: 'a', start: 5000, media: media('m3', 500) },
  { type: 'addRoomTone', id: 'rt', name: 'Booth', media: media('mt', 1000) },
);
const track = doc.tracks[0]!;

describe('gaps of a track', () => {
  it.each([
    [
      0,
      6000,
      [
        [0, 1000],
        [1700, 5000],
        [5500, 6000],
      ],
    ],
    [1200, 5200, [[1700, 5000]]],
    [1000, 1700, []],
    [2000, 2100, [[2000, 2100]]],
  ] as [number, number, number[][]][])('between %i and %i', (start, end, expected) => {
    expect(gapsOf(track, start, end).map((g) => [g.start, g.end])).toEqual(expected);
  });
  it('are filled with room tone, repeated and cut to fit to the sample, and nothing else is touched', () => {
    const filled = apply(doc, { type: 'fillGaps', tone: 'rt', track: 'a', start: 0, end: 6000, id: 'f' }).tracks[0]!;
    expect(gapsOf(filled, 0, 6000)).toEqual([]);
    const added = filled.clips.filter((c) => c.media === 'mt');
    expect(added.map((c) => [c.start, c.length])).toEqual([
      [0, 1000],
      [1700, 1000],
      [2700, 1000],
      [3700, 1000],
      [4700, 300],
      [5500, 500],
    ]);
    expect(filled.clips.filter((c) => c.media !== 'mt')).toEqual(track.clips);
    expect(() =>
      apply(
        { ...doc, tracks: [filled, doc.tracks[1]!] },
        { type: 'fillGaps', tone: 'rt', track: 'a', start: 0, end: 6000, id: 'g' },
      ),
    ).toThrow(/no gap in the range/);
  });
  it('of another width are not filled, and a tone that is gone is told', () => {
    expect(() => apply(doc, { type: 'fillGaps', tone: 'rt', track: 's', start: 0, end: 6000, id: 'f' })).toThrow(
      /has 1 channels, Surf is stereo/,
    );
    expect(() => apply(doc, { type: 'removeRoomTones', tones: ['rt', 'zz'] })).toThrow(/not on the shelf/);
  });
});
