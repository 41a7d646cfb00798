import { describe, expect, it } from 'vitest';
import { applyEdit, newSession, readEdit, type EditJson, type SessionDoc } from '@/core/session';
import { dragEdit, hitAt } from './clipPointer';
import { ROW } from './drawRows';
import { ticks } from './ruler';
import { fit, scrollBy, useView, zoomBy } from './view';

const apply = (doc: SessionDoc, ...edits: EditJson[]) => edits.reduce((d, e) => applyEdit(d, readEdit(e)).doc, doc);
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
  const surface = { doc: session(), zoom: 960, from: 0 };
  const y = ROW + 10;
  it('are found by row and time, with their edges', () => {
    expect(hitAt(surface, 150, 10)).toBeNull();
    expect(hitAt(surface, 50, y)).toBeNull();
    expect(hitAt(surface, 112, y)?.part).toBe('start');
    expect(hitAt(surface, 150, y)?.part).toBe('body');
    expect(hitAt(surface, 188, y)?.part).toBe('end');
    expect(hitAt(surface, 150, 5 * ROW)).toBeNull();
  });
  it('have no edges when they are very narrow', () => {
    expect(hitAt({ ...surface, zoom: 9600 }, 12, y)?.part).toBe('body');
  });
});

describe('dragging', () => {
  const doc = session();
  const clip = doc.tracks[1]!.clips[0]!;
  const drag = (part: 'start' | 'body' | 'end', by: number, free = false) => dragEdit(doc, { clip, part }, by, free);
  it('moves by whole frames, or freely', () => {
    expect(drag('body', 1000)).toEqual({ type: 'moveClip', clip: 'c', start: 107_520 });
    expect(drag('body', 1000, true)).toEqual({ type: 'moveClip', clip: 'c', start: 106_600 });
    expect(drag('body', -1e9)).toEqual({ type: 'moveClip', clip: 'c', start: 0 });
  });
  it('trims no further than the file has sound', () => {
    expect(drag('start', -1e9)).toEqual({ type: 'trimClip', clip: 'c', start: 96_000, length: 86_400 });
    expect(drag('end', 1e9)).toEqual({ type: 'trimClip', clip: 'c', start: 105_600, length: 86_400 });
  });
  it('never trims a clip away, and what it gives is accepted', () => {
    for (const part of ['start', 'body', 'end'] as const) {
      for (const by of [-1e9, -5000, 0, 333, 1e9]) expect(() => apply(doc, drag(part, by))).not.toThrow();
    }
    expect(drag('end', -1e9)).toMatchObject({ length: 1 });
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
