import type { PointerEvent } from 'react';
import { edit, locate, preview, select } from '@/client';
import type { Clip, EditJson, SessionDoc } from '@/core/session';
import { frameRate } from '@/core/units';
import { ROW } from './drawRows';

/** Pixels near an edge that count as the edge. */
const EDGE = 7;

type Part = 'start' | 'end' | 'body';

interface Hit {
  clip: Clip;
  part: Part;
}

export interface Surface {
  doc: SessionDoc;
  zoom: number;
  from: number;
}

/** The clip under a point of the canvas; later clips lie on top. */
export function hitAt({ doc, zoom, from }: Surface, x: number, y: number): Hit | null {
  const track = doc.tracks[Math.floor(y / ROW)];
  for (const clip of [...(track?.clips ?? [])].reverse()) {
    const x0 = (clip.start - from) / zoom;
    const x1 = (clip.start + clip.length - from) / zoom;
    if (x < x0 - 2 || x > x1 + 2) continue;
    return {
      clip,
      part: x - x0 < EDGE && x1 - x0 > 3 * EDGE ? 'start' : x1 - x < EDGE && x1 - x0 > 3 * EDGE ? 'end' : 'body',
    };
  }
  return null;
}

/** What moving `hit` by `by` samples means; snapped to frames unless `free`. */
export function dragEdit(doc: SessionDoc, hit: Hit, by: number, free: boolean): EditJson {
  const rate = frameRate(doc.format.frameRate);
  const frame = (doc.format.sampleRate * rate.den) / rate.num;
  const snap = (sample: number) => (free ? Math.round(sample) : Math.round(Math.round(sample / frame) * frame));
  const { clip, part } = hit;
  const frames = doc.media[clip.media]?.frames ?? clip.length;
  if (part === 'body') return { type: 'moveClip', clip: clip.id, start: Math.max(0, snap(clip.start + by)) };
  if (part === 'start') {
    const start = Math.min(clip.start + clip.length - 1, Math.max(0, clip.start - clip.offset, snap(clip.start + by)));
    return { type: 'trimClip', clip: clip.id, start, length: clip.length - (start - clip.start) };
  }
  const length = Math.min(frames - clip.offset, Math.max(1, snap(clip.start + clip.length + by) - clip.start));
  return { type: 'trimClip', clip: clip.id, start: clip.start, length };
}

interface Drag {
  hit: Hit;
  x: number;
  last: EditJson | null;
}

/** Pointer handlers of the rows: choose, move, trim, locate. `surface` gives the state at the time. */
export function clipPointer(surface: () => Surface, hold: { current: Drag | null }) {
  const at = (e: PointerEvent<HTMLCanvasElement>) => {
    const box = e.currentTarget.getBoundingClientRect();
    return { x: e.clientX - box.left, y: e.clientY - box.top };
  };
  return {
    onPointerDown(e: PointerEvent<HTMLCanvasElement>) {
      if (e.button !== 0) return;
      const { x, y } = at(e);
      const s = surface();
      const hit = hitAt(s, x, y);
      if (!hit) {
        const track = s.doc.tracks[Math.floor(y / ROW)];
        select(track ? { kind: 'track', id: track.id } : null);
        locate(s.from + x * s.zoom);
        return;
      }
      select({ kind: 'clip', id: hit.clip.id });
      e.currentTarget.setPointerCapture(e.pointerId);
      hold.current = { hit, x, last: null };
    },
    onPointerMove(e: PointerEvent<HTMLCanvasElement>) {
      const { x, y } = at(e);
      const s = surface();
      const drag = hold.current;
      if (!drag) {
        const part = hitAt(s, x, y)?.part;
        e.currentTarget.style.cursor = part === 'body' ? 'grab' : part ? 'ew-resize' : 'text';
        return;
      }
      if (!drag.last && Math.abs(x - drag.x) < 3) return;
      drag.last = dragEdit(s.doc, drag.hit, (x - drag.x) * s.zoom, e.altKey);
      preview(drag.last);
    },
    onPointerUp() {
      const drag = hold.current;
      hold.current = null;
      if (drag?.last) edit(drag.last);
    },
    onPointerCancel() {
      hold.current = null;
      preview();
    },
  };
}

export type { Drag };
