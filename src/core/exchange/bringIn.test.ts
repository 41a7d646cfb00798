import { describe, expect, it } from 'vitest';
import { applied, mono, monoTrack, sessionWith } from '../../../tests/support/session';
import { printCheck } from '@/core/checks';
import type { EditJson, SessionDoc } from '@/core/session';
import { bringIn, HAND_OVER, readTimeline } from '.';

const clip = (track: string, n: number, at: number): EditJson => ({
  type: 'addClip',
  id: `${track}${n}`,
  track,
  start: at * 48_000,
  media: { ...mono(`${track}-${n}`, 96_000), name: `SP_${track}_${n}.wav` },
});
const doc: SessionDoc = sessionWith(
  monoTrack('a', 'Narrator'),
  monoTrack('b', 'Pilot'),
  ...['a', 'b'].flatMap((t) => [1, 2, 3].map((n) => clip(t, n, n * 4))),
  { type: 'trimClip', clip: 'a2', start: 8 * 48_000 + 9_600, length: 48_000 },
  { type: 'setMarker', marker: 'm', at: 480_000, name: 'Title' },
);
const of = (id: string) => HAND_OVER.find((h) => h.id === id)!;
/** The session with its files, and nothing on its tracks. */
const empty: SessionDoc = { ...doc, tracks: doc.tracks.map((t) => ({ ...t, clips: [] })), markers: [] };
const lying = (d: SessionDoc) =>
  d.tracks.map((t) => [t.name, t.clips.map((c) => [d.media[c.media]!.name, c.start, c.offset, c.length])]);

let count = 0;
const newId = (what: string) => `${what}-${count++}`;

describe.each(['otio', 'edl'] as const)('a session as %s', (id) => {
  const { text, ending } = of(id).make(doc);
  it('comes back as it was', () => {
    const brought = bringIn(empty, readTimeline(empty, `Lamp${ending}`, text), newId);
    expect(brought).toMatchObject({ laid: 6, made: [], notes: [] });
    const back = applied(empty, ...brought.edits);
    expect(lying(back)).toEqual(lying(doc));
    if (id === 'otio') expect(back.markers.map((m) => [m.at, m.name])).toEqual([[480_000, 'Title']]);
  });
  it('makes the tracks that are not there, and names the files that are not', () => {
    const { 'b-2': _, ...media } = empty.media;
    const bare = { ...empty, media, tracks: [] };
    const brought = bringIn(bare, readTimeline(bare, `Lamp${ending}`, text), newId);
    expect(brought).toMatchObject({ laid: 5, made: ['Narrator', 'Pilot'] });
    expect(brought.notes).toEqual([expect.stringMatching(/SP_b_2\.wav is not among the files/)]);
    const back = applied(bare, ...brought.edits);
    expect(back.tracks.map((t) => t.clips.length)).toEqual([3, 2]);
  });
  it('names a file that is too short here, and what would lie before the start', () => {
    const short = { ...empty, media: { ...empty.media, 'a-1': { ...empty.media['a-1']!, frames: 900 } } };
    expect(bringIn(short, readTimeline(short, `x${ending}`, text), newId).notes).toEqual([
      expect.stringMatching(/SP_a_1\.wav is shorter here than/),
    ]);
    const later = applied(empty, { type: 'setFormat', startTimecode: '10:00:10:00' });
    const brought = bringIn(later, readTimeline(later, `x${ending}`, text), newId);
    expect(brought.notes.join(' ')).toMatch(/begins before 10:00:10:00/);
  });
});

it('what was printed of a session is no part of its timeline', () => {
  const back = applied(doc, {
    ...{ type: 'bringPrintBack', version: 1 },
    rows: [
      {
        ...{ track: 'p', name: 'Print 1: Reference', layout: 'mono' },
        clips: [{ id: 'pc', start: 0, lead: 0, media: mono('pm', 9_000) }],
      },
    ],
  });
  expect(of('otio').make(back).text).toBe(of('otio').make(doc).text);
  // Nor is it missed from a print, or taken for what goes on after it.
  const ids = (d: SessionDoc) => printCheck(d).map((c) => c.id);
  expect(ids(back)).toEqual(ids(doc));
});

describe('what is lost on the way', () => {
  it('is said before', () => {
    const rich = applied(
      doc,
      { type: 'setClipGain', clip: 'a1', gain: -3 },
      { type: 'shapeClip', clip: 'a1', fadeIn: { frames: 480, curve: 'even' } },
      { type: 'moveClip', clip: 'b1', start: 4 * 48_000 + 7 },
    );
    const said = of('edl').make(rich).losses.join(' ');
    expect(said).toMatch(/1 clip does not lie on frames/);
    expect(said).toMatch(/1 marker is left out/);
    expect(said).toMatch(/1 clip has fades/);
    expect(said).toMatch(/1 clip has a gain/);
    expect(of('otio').make(rich).losses.join(' ')).not.toMatch(/frames|marker/);
  });
  it.each(['csv', 'srt', 'vtt'])('a script that is not there is no empty %s', (id) => {
    expect(() => of(id).make(doc)).toThrow(/no script yet/);
    const spoken = applied(doc, {
      type: 'addCues',
      cues: [{ id: 'q', number: '4', start: 48_000, end: 96_000, character: 'Pilot', text: 'Mind the gauge.' }],
    });
    expect(of(id).make(spoken)).toMatchObject({ ending: `.${id}`, text: expect.stringContaining('Mind the gauge.') });
  });
  it('a file that is neither is refused', () => {
    expect(() => readTimeline(doc, 'list.txt', '')).toThrow(/\.otio, an edit list in \.edl/);
    expect(() => readTimeline(doc, 'x.otio', '{')).toThrow();
  });
});
