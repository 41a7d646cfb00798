import type { Clip, SessionDoc, Take, Track } from '@/core/session';
import { rowAt, rowsIn, type Row } from './rows';

/** Pixels near an edge that count as the edge, and from the top that belong to fades. */
const EDGE = 7;
const FADE_TOP = 13;

export type Part = 'start' | 'end' | 'body' | 'fadeIn' | 'fadeOut' | 'joint';

export type Hit = { kind: 'clip'; clip: Clip; track: Track; part: Part } | { kind: 'take'; take: Take; track: Track };

export interface Surface {
  doc: SessionDoc;
  rows: readonly Row[];
  zoom: number;
  from: number;
}

/** What lies under a point of the rows; `y` counts from the top of the first row. */
export function hitAt({ rows, zoom, from }: Surface, x: number, y: number): Hit | null {
  const row = rowAt(rows, y);
  if (!row) return null;
  const inside = (start: number, length: number) => {
    const x0 = (start - from) / zoom;
    const x1 = (start + length - from) / zoom;
    return x < x0 - 2 || x > x1 + 2 ? null : { x0, x1 };
  };
  if (row.kind === 'takes') {
    const take = row.takes.find((t) => inside(t.start, t.length));
    return take ? { kind: 'take', take, track: row.track } : null;
  }
  if (row.kind !== 'track') return null;
  const { track } = row;
  for (const clip of [...track.clips].reverse()) {
    const box = inside(clip.start, clip.length);
    if (!box) continue;
    return { kind: 'clip', clip, track, part: partAt(clip, track, box.x0, box.x1, x, y - row.top) };
  }
  return null;
}

/** A rectangle over the rows, from where it was begun to where the pointer is (pixels; y from the top of the first row). */
export interface Lasso {
  x: number;
  y: number;
  toX: number;
  toY: number;
}

/** Clips that a lasso touches. */
export function clipsWithin({ rows, zoom, from }: Surface, { x, y, toX, toY }: Lasso): string[] {
  const [first, last] = [from + Math.min(x, toX) * zoom, from + Math.max(x, toX) * zoom];
  return rowsIn(rows, Math.min(y, toY), Math.max(y, toY) + 1).flatMap((row) =>
    row.kind === 'track'
      ? row.track.clips.filter((c) => c.start < last && c.start + c.length > first).map((c) => c.id)
      : [],
  );
}

function partAt(clip: Clip, track: Track, x0: number, x1: number, x: number, y: number): Part {
  if (x1 - x0 <= 3 * EDGE) return 'body';
  const next = track.clips.find((c) => c.start === clip.start + clip.length);
  if (x - x0 < EDGE) return clip.joint ? 'joint' : y < FADE_TOP ? 'fadeIn' : 'start';
  if (x1 - x < EDGE) return next?.joint ? 'joint' : y < FADE_TOP ? 'fadeOut' : 'end';
  return 'body';
}

/** The clip whose beginning is the joint that was hit. */
export function jointClip(hit: Extract<Hit, { kind: 'clip' }>, x: number, surface: Surface): Clip {
  const { clip, track } = hit;
  const x1 = (clip.start + clip.length - surface.from) / surface.zoom;
  const next = track.clips.find((c) => c.start === clip.start + clip.length);
  return x1 - x < EDGE && next ? next : clip;
}

export const CURSORS: Record<Part, string> = {
  body: 'grab',
  start: 'ew-resize',
  end: 'ew-resize',
  joint: 'col-resize',
  fadeIn: 'nesw-resize',
  fadeOut: 'nwse-resize',
};
