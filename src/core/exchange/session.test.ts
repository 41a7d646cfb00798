// What a session gives to other tools, and back: nothing is dropped in silence.
import { describe, expect, it } from 'vitest';
import { mono, monoTrack, sessionWith } from '../../../tests/support/session';
import type { EditJson } from '@/core/session';
import { readEdl, scriptOf, sessionTimeline, writeEdl, writeSrt } from '.';

const clip = (track: string, n: number, at: number): EditJson => ({
  type: 'addClip',
  id: `${track}${n}`,
  track,
  start: at * 48_000,
  media: { ...mono(`${track}-${n}`, 96_000), name: `SP_Narrator_${track}_${n}.wav` },
});
const doc = sessionWith(
  monoTrack('a', 'Narrator'),
  monoTrack('b', 'Pilot'),
  monoTrack('c', 'Apprentice'),
  ...['a', 'b', 'c'].flatMap((t) => [1, 2, 3, 4].map((n) => clip(t, n, n * 4))),
  { type: 'setMarker', marker: 'm', at: 480_000, name: 'Title' },
  {
    type: 'addCues',
    cues: [{ id: 'q', number: '4', start: 48_000, end: 96_000, character: 'Pilot', text: 'Mind the gauge.' }],
  },
);
const timeline = sessionTimeline(doc);

describe('an edit list of a session', () => {
  const text = timeline.tracks.map((_, i) => writeEdl(timeline, i)).join('\r\n');
  it('has a reel of its own for each source', () => {
    const reels = new Map(
      [...text.matchAll(/^\d{3}\s+(\S+)[^\n]*\n[^\n]*\n\* SOURCE FILE: (\S+)/gm)].map((m) => [m[2]!, m[1]!]),
    );
    expect(reels.size).toBe(12);
    expect(new Set(reels.values()).size).toBe(12);
    // Eight letters, digits and underscores (CMX 3600, from memory).
    for (const reel of reels.values()) expect(reel).toMatch(/^[A-Z0-9_]{1,8}$/);
  });
  it('comes back with every clip, on its own track', () => {
    const { value, notes } = readEdl(text, '25', 48_000, timeline.startFrames);
    expect(notes).toEqual([]);
    expect(value.tracks.map((t) => [t.name, t.clips.length])).toEqual([
      ['Narrator', 4],
      ['Pilot', 4],
      ['Apprentice', 4],
    ]);
    expect(value.tracks.flatMap((t) => t.clips.map((c) => [c.source, c.start, c.length]))).toEqual(
      timeline.tracks.flatMap((t) => t.clips.map((c) => [c.source, c.start, c.length])),
    );
  });
  it('whose events of one channel lie over each other keeps all of them, and says so', () => {
    const one = text.replace(/ A[23] {4}/g, ' A     ').replace(/\* TRACK NAME.*\r\n/g, '');
    const { value, notes } = readEdl(one, '25', 48_000, timeline.startFrames);
    expect(value.tracks.flatMap((t) => t.clips)).toHaveLength(12);
    expect(notes).toContainEqual(expect.stringMatching(/lie over each other; they were laid onto 3 tracks/));
  });
});

it('the lines of a script are what is spoken, not the names of clips', () => {
  const srt = writeSrt(scriptOf(doc));
  expect(srt).toContain('Mind the gauge.');
  expect(srt).not.toContain('SP_');
});
it('markers go along', () => expect(timeline.markers).toEqual([{ at: 480_000, length: 0, name: 'Title' }]));
