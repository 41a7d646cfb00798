import { describe, expect, it } from 'vitest';
import { usePeaks } from '@/client';
import { CLICK, newSession } from '@/core/session';
import { applied, monoTrack, sessionWith, take } from '../../../tests/support/session';
import { dragEdit } from './drags';
import { hitAt, jointClip, type Hit, type Part } from './hits';
import { barMarks, tempoMarks } from './lanes/bars';
import { heightOf, LANE_ROW, ROW, rowAt, rowsIn, rowsOf, TAKE_ROW, takeShown, type Row, type TakesRow } from './rows';
import { ticks } from './ruler';
import { fit, scrollBy, useView, zoomBy } from './view';

const apply = applied;
const NONE = { open: new Set<string>(), all: new Set<string>() };
const session = (frameRate: '25' | '29.97df' = '25', startTimecode = '10:00:00:00') =>
  apply(
    newSession('Test', 'TS', {
      sampleRate: 48000,
      wordLength: 24,
      fileKind: 'Broadcast WAV',
      frameRate,
      startTimecode,
      layout: '5.1',
    }),
    { type: 'addTrack', id: 'a', name: 'A', layout: 'mono', destination: null },
    { type: 'addTrack', id: 'b', name: 'B', layout: 'mono', destination: null },
    {
      type: 'addClip',
      id: 'c',
      track: 'b',
      start: 96_000,
      media: { id: 'm', name: 'm.wav', channels: 1, frames: 96_000, sampleRate: 48000, kind: 'file' },
    },
    { type: 'trimClip', clip: 'c', start: 105_600, length: 76_800 },
  );

describe('clips under the pointer', () => {
  const doc = session();
  const surface = { doc, rows: rowsOf(doc, NONE, []), zoom: 960, from: 0 };
  const y = ROW + 30;
  const part = (x: number, at = y, on = surface) => {
    const hit = hitAt(on, x, at);
    return hit?.kind === 'clip' ? hit.part : null;
  };
  it('are found by row and time, with their edges', () => {
    expect([part(150, 10), part(50), part(150, 5 * ROW)]).toEqual([null, null, null]);
    expect([part(112), part(150), part(188)]).toEqual(['start', 'body', 'end']);
  });
  it('carry their fades at the upper corners', () => {
    expect([part(112, ROW + 5), part(188, ROW + 5), part(150, ROW + 5)]).toEqual(['fadeIn', 'fadeOut', 'body']);
  });
  it('have no edges when they are very narrow', () => {
    expect(part(12, y, { ...surface, zoom: 9600 })).toBe('body');
  });
  it('that meet in a crossfade have a joint between them, from both sides', () => {
    const cut = apply(
      doc,
      { type: 'splitClip', clip: 'c', at: 144_000, id: 'd' },
      { type: 'shapeClip', clip: 'd', joint: { frames: 480, curve: 'even' } },
    );
    const on = { ...surface, doc: cut, rows: rowsOf(cut, NONE, []) };
    expect([part(148, y, on), part(152, y, on)]).toEqual(['joint', 'joint']);
    const left = hitAt(on, 148, y) as Extract<Hit, { kind: 'clip' }>;
    expect(jointClip(left, 148, on).id).toBe('d');
  });
});

describe('rows', () => {
  const doc = applied(
    sessionWith(monoTrack('a'), monoTrack('b')),
    ...Array.from({ length: 500 }, (_, i) => take(`t${i + 1}`, 'a', i * 10, 5_000)),
  );
  const open = new Set(['a']);
  const rows = rowsOf(doc, { open, all: open }, []);
  const numbers = (list: readonly Row[]) =>
    list.map((r) => (r.kind === 'takes' ? r.takes.map((t) => t.number) : r.kind));
  it('show the takes of an open track, the newest first', () => {
    expect(numbers(rows.slice(0, 3))).toEqual(['track', [500], [499]]);
    expect(rows.at(-1)!.track!.id).toBe('b');
    // All of them, and the row that folds them.
    expect(heightOf(rows)).toBe(2 * ROW + 501 * TAKE_ROW);
  });
  it('fold the older takes, so that other tracks stay in reach', () => {
    const folded = rowsOf(doc, { open, all: new Set() }, []);
    expect(numbers(folded)).toEqual(['track', [500], [499], [498], [497], [496], 'more', 'track']);
    expect(folded.at(-2)).toMatchObject({ kind: 'more', hidden: 495 });
    expect(rows.at(-2)).toMatchObject({ kind: 'more', hidden: 0 });
  });
  it('hold takes that do not meet in time side by side, the newest of each in the first', () => {
    const cues = applied(
      sessionWith(monoTrack('a')),
      ...[0, 0, 20, 20, 0, 40].map((at, i) => take(`t${i + 1}`, 'a', at * 1000, 10_000)),
    );
    const [, ...takes] = rowsOf(cues, { open, all: new Set() }, []);
    expect(numbers(takes)).toEqual([[5, 4, 6], [2, 3], [1]]);
    const first = takes[0] as TakesRow;
    expect([0, 22_000, 31_000, 90_000].map((at) => takeShown(first, null, at).number)).toEqual([5, 4, 4, 6]);
    expect(takeShown(first, 't6', 0).number).toBe(6);
    const hit = (x: number) =>
      hitAt({ doc: cues, rows: rowsOf(cues, { open, all: new Set() }, []), zoom: 100, from: 0 }, x, ROW + 5);
    expect(hit(50)).toMatchObject({ kind: 'take', take: { number: 5 } });
    expect(hit(250)).toMatchObject({ kind: 'take', take: { number: 4 } });
    expect(hit(150)).toBeNull();
  });
  it('show lanes below their track, those of buses below all', () => {
    const lanes = (owner: string) => (owner === 'b' ? [] : [{ node: owner, param: 'level' }]);
    const some = rowsOf(sessionWith(monoTrack('a'), monoTrack('b')), NONE, [], lanes);
    const seen = some.map((r) => (r.kind === 'lane' ? r.target.node : r.track.name));
    expect(seen.slice(0, 3)).toEqual(['a', 'a', 'b']);
    expect(seen.slice(3)).toEqual(['dia', 'nar', 'mus', 'efx', 'amb', 'ref', CLICK]);
    expect(some[1]).toMatchObject({ top: ROW, height: LANE_ROW });
    expect(rowAt(some, ROW + LANE_ROW + 1)!.track!.id).toBe('b');
  });
  it('are found by height, and only those in view are drawn', () => {
    expect(numbers([rowAt(rows, ROW + 3 * TAKE_ROW + 1)!])).toEqual([[497]]);
    expect(rowAt(rows, heightOf(rows))).toBeUndefined();
    const seen = rowsIn(rows, 1_000, 1_600);
    expect(seen.length).toBeLessThan(600 / TAKE_ROW + 3);
    expect(seen[0]!.top).toBeLessThanOrEqual(1_000);
    expect(seen.at(-1)!.top + TAKE_ROW).toBeGreaterThanOrEqual(1_600);
  });
});

describe('dragging', () => {
  const doc = session();
  const clip = doc.tracks[1]!.clips[0]!;
  const drag = (part: Part, by: number, free = false, on = doc) =>
    dragEdit({ doc: on, clips: ['c'], reach: free ? 0 : 3_000, playhead: 400_000 }, clip, part, by);
  it('moves by whole frames, or freely', () => {
    expect(drag('body', 1000)).toEqual({ type: 'moveClips', clips: ['c'], by: 1_920 });
    expect(drag('body', 1000, true)).toEqual({ type: 'moveClips', clips: ['c'], by: 1000 });
    expect(drag('body', -1e9)).toEqual({ type: 'moveClips', clips: ['c'], by: -105_600 });
  });
  it('is drawn to the playhead, to cues and markers within reach', () => {
    expect(drag('body', 400_000 - 105_600 + 2_900)).toMatchObject({ by: 400_000 - 105_600 });
    const marked = apply(doc, { type: 'setMarker', marker: 'k', at: 106_001, name: 'Here' });
    expect(drag('body', 1_000, false, marked)).toMatchObject({ by: 401 });
  });
  it('lays the beginning of a phrase on that of another track, as where a guide speaks', () => {
    // Both files are silent for a while and then speak.
    const speaks = (from: number, frames: number) =>
      Int16Array.from(
        { length: 2 * Math.ceil(frames / 256) },
        (_, i) => ((i >> 1) * 256 >= from ? 9_000 : 1) * (i % 2 ? 1 : -1),
      );
    const guide = {
      id: 'guide',
      name: 'guide.wav',
      channels: 1,
      frames: 96_000,
      sampleRate: 48_000,
      kind: 'file' as const,
    };
    const on = apply(doc, { type: 'addClip', id: 'g', track: doc.tracks[0]!.id, start: 200_000, media: guide });
    usePeaks.setState({
      files: { guide: [speaks(25_600, 96_000)], [clip.media]: [speaks(22_528, 96_000)] },
    });
    const to = 200_000 + 25_600 - (22_528 - clip.offset);
    expect(drag('body', to - clip.start + 2_000, false, on)).toMatchObject({ by: to - clip.start });
    expect(drag('body', to - clip.start + 2_000, true, on)).toMatchObject({ by: to - clip.start + 2_000 });
    usePeaks.setState({ files: {} });
  });
  it('trims no further than the file has sound', () => {
    expect(drag('start', -1e9)).toEqual({ type: 'trimClip', clip: 'c', start: 96_000, length: 86_400 });
    expect(drag('end', 1e9)).toEqual({ type: 'trimClip', clip: 'c', start: 105_600, length: 86_400 });
  });
  it('pulls fades out of the corners, no longer than the clip', () => {
    expect(drag('fadeIn', 900)).toMatchObject({ fadeIn: { frames: 900, curve: 'power' } });
    expect(drag('fadeOut', -1e9)).toMatchObject({ fadeOut: { frames: 76_800 } });
  });
  it('never trims a clip away, and what it gives is accepted', () => {
    for (const part of ['start', 'body', 'end', 'fadeIn', 'fadeOut'] as const) {
      for (const by of [-1e9, -5000, 0, 333, 1e9]) expect(() => apply(doc, drag(part, by))).not.toThrow();
    }
    expect(drag('end', -1e9)).toMatchObject({ length: 1 });
  });
});

describe('bars', () => {
  const at120 = session();
  const changing = apply(at120, {
    type: 'setTempo',
    tempos: [
      { beat: 0, tempo: 120, glides: false },
      { beat: 8, tempo: 60, glides: false },
    ],
    meters: [{ bar: 1, beats: 4, value: 4 }],
  });
  it('stand where the tempo map has them, few enough to be read', () => {
    // At 120 beats a minute a bar of four lasts two seconds, at 60 four.
    const bars = (gap: number) => barMarks(changing, 0, 16 * 48_000, gap).map((m) => [m.bar, m.sample / 48_000]);
    expect(bars(1)).toEqual([[1, 0], [2, 2], [3, 4], [4, 8], [5, 12], [6, 16]]); // prettier-ignore
    expect(bars(3 * 48_000)).toEqual([[1, 0], [3, 4], [5, 12]]); // prettier-ignore
    expect(barMarks(changing, 5 * 48_000, 9 * 48_000, 1).map((m) => m.bar)).toEqual([4]);
  });
  it('the tempo is said at the left edge and where it changes', () => {
    expect(tempoMarks(changing, 0, 480_000)).toEqual([
      { sample: 0, tempo: 120 },
      { sample: 192_000, tempo: 60 },
    ]);
    expect(tempoMarks(changing, 200_000, 480_000)).toEqual([{ sample: 200_000, tempo: 60 }]);
  });
});

describe('the ruler', () => {
  it('counts timecode: seconds never reach 60', () => {
    const labels = ticks(session(), 0, 48000 * 120, 48000 * 9)
      .map((t) => t.label)
      .filter(Boolean);
    expect(labels.slice(0, 4)).toEqual(['10:00:00:00', '10:00:10:00', '10:00:20:00', '10:00:30:00']);
    expect(labels).toContain('10:01:00:00');
    expect(labels.every((l) => Number(l!.slice(6, 8)) < 60)).toBe(true);
  });
  it('keeps labels apart, at any zoom', () => {
    for (const gap of [100, 2000, 30_000, 500_000, 9_000_000]) {
      const at = ticks(session(), 0, gap * 12, gap)
        .filter((t) => t.label)
        .map((t) => t.sample);
      for (let i = 1; i < at.length; i++)
        expect(at[i]! - at[i - 1]!).toBeGreaterThanOrEqual(Math.min(gap, 48000 * 3600) - 1);
      expect(at.length).toBeGreaterThan(0);
    }
  });
  it('stands on frames, in drop-frame too', () => {
    const list = ticks(session('29.97df', '00:00:58;00'), 0, 48000 * 4, 48000);
    expect(list.find((t) => t.sample === 0)?.label).toBe('00:00:58;00');
    expect(list.every((t) => t.label === null || /^\d\d:\d\d:\d\d;\d\d$/.test(t.label))).toBe(true);
  });
  it('goes on where one scrolls to', () => {
    const list = ticks(session(), 48000 * 30, 48000 * 60, 48000 * 5);
    expect(list.find((t) => t.label)!.sample).toBeGreaterThanOrEqual(48000 * 25);
    expect(list.at(-1)!.sample).toBeLessThanOrEqual(48000 * 60);
  });
});

describe('zoom and scroll', () => {
  it('keeps what is under the pointer where it is', () => {
    useView.setState({ zoom: 1000, from: 50_000, width: 800 });
    const around = 50_000 + 200 * 1000;
    zoomBy(0.5, around);
    expect((around - useView.getState().from) / useView.getState().zoom).toBeCloseTo(200, 6);
  });
  it('never goes before the start, nor closer than four samples a pixel', () => {
    useView.setState({ zoom: 1000, from: 0, width: 800 });
    scrollBy(-500);
    expect(useView.getState().from).toBe(0);
    for (let i = 0; i < 40; i++) zoomBy(0.5);
    expect(useView.getState().zoom).toBe(4);
  });
  it('fits a stretch into the width', () => {
    fit(1000, 801_000);
    expect(useView.getState()).toMatchObject({ from: 1000, zoom: 1000 });
  });
});
