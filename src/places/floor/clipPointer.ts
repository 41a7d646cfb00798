import type { PointerEvent } from 'react';
import { edit, locate, position, preview, select, selectClips, useSelection } from '@/client';
import type { Clip, EditJson } from '@/core/session';
import { chooseRange } from './comping';
import { dragEdit } from './drags';
import { useFloor } from './floorState';
import { useLanes } from '@/parts';
import { clipsWithin, CURSORS, hitAt, jointClip, type Hit, type Part, type Surface } from './hits';
import { rowAt } from './rows';
import { snapTo } from './snapping';

/** Pixels within which things are drawn to cues, markers and the playhead. */
const REACH = 8;
/** Pixels from where a press is a lasso and no click. */
const LASSO_FROM = 5;

type Drag =
  | { kind: 'clip'; clip: Clip; part: Part; x: number; row: number; clips: readonly string[]; last: EditJson | null }
  | { kind: 'take'; hit: Extract<Hit, { kind: 'take' }>; x: number; from: number }
  | {
      kind: 'lasso';
      x: number;
      y: number;
      at: number;
      track: string | null;
      before: readonly string[];
      drawn: boolean;
    };

/** Clips that go with a clip: what is selected together with it, and its group. */
function together({ doc }: Surface, clip: Clip): string[] {
  const { clips } = useSelection.getState();
  const chosen = clips.includes(clip.id) ? clips : [clip.id];
  const groups = new Set(
    doc.tracks.flatMap((t) => t.clips.filter((c) => chosen.includes(c.id) && c.group).map((c) => c.group)),
  );
  const grouped = doc.tracks.flatMap((t) => t.clips.filter((c) => c.group && groups.has(c.group)).map((c) => c.id));
  return [...new Set([...chosen, ...grouped])];
}

/** Pointer handlers of the rows: choose, move, trim, fade, locate, and draw takes into the comp. */
export function clipPointer(surface: () => Surface & { scroll: number }, hold: { current: Drag | null }) {
  const at = (e: PointerEvent<HTMLCanvasElement>) => {
    const box = e.currentTarget.getBoundingClientRect();
    return { x: e.clientX - box.left, y: e.clientY - box.top + surface().scroll };
  };
  const time = (s: Surface, x: number) => s.from + x * s.zoom;
  const snapped = (s: Surface, x: number, free: boolean) =>
    free ? Math.round(time(s, x)) : snapTo(s.doc, time(s, x), REACH * s.zoom, position());
  return {
    onPointerDown(e: PointerEvent<HTMLCanvasElement>) {
      if (e.button !== 0) return;
      const { x, y } = at(e);
      const s = surface();
      const hit = hitAt(s, x, y);
      if (!hit) {
        // A press locates; drawn on, it is a lasso.
        e.currentTarget.setPointerCapture(e.pointerId);
        const before = e.shiftKey || e.ctrlKey || e.metaKey ? useSelection.getState().clips : [];
        const track = rowAt(s.rows, y)?.track?.id ?? null;
        hold.current = { kind: 'lasso', x, y, at: time(s, x), track, before, drawn: false };
        return;
      }
      e.currentTarget.setPointerCapture(e.pointerId);
      if (hit.kind === 'take') {
        select({ kind: 'take', id: hit.take.id });
        hold.current = { kind: 'take', hit, x, from: snapped(s, x, e.altKey) };
        return;
      }
      const { clips } = useSelection.getState();
      if (e.shiftKey || e.ctrlKey || e.metaKey) {
        const rest = clips.filter((id) => id !== hit.clip.id);
        selectClips(clips.includes(hit.clip.id) ? rest : [...rest, hit.clip.id]);
        return;
      }
      const all = together(s, hit.clip);
      selectClips([...all.filter((id) => id !== hit.clip.id), hit.clip.id]);
      const clip = hit.part === 'joint' ? jointClip(hit, x, s) : hit.clip;
      const row = s.doc.tracks.indexOf(hit.track);
      hold.current = { kind: 'clip', clip, part: hit.part, x, row, clips: all, last: null };
    },
    onPointerMove(e: PointerEvent<HTMLCanvasElement>) {
      const { x, y } = at(e);
      const s = surface();
      const drag = hold.current;
      if (!drag) {
        const hit = hitAt(s, x, y);
        e.currentTarget.style.cursor = hit ? (hit.kind === 'take' ? 'crosshair' : CURSORS[hit.part]) : 'text';
        return;
      }
      if (drag.kind === 'lasso') {
        if (!drag.drawn && Math.hypot(x - drag.x, y - drag.y) < LASSO_FROM) return;
        drag.drawn = true;
        const lasso = { x: drag.x, y: drag.y, toX: x, toY: y };
        useFloor.setState({ lasso });
        selectClips([...new Set([...drag.before, ...clipsWithin(s, lasso)])]);
        return;
      }
      if (Math.abs(x - drag.x) < 3 && drag.kind === 'take') return;
      if (drag.kind === 'take') {
        const to = snapped(s, x, e.altKey);
        useFloor.setState({
          drawn: { take: drag.hit.take.id, start: Math.min(drag.from, to), end: Math.max(drag.from, to) },
        });
        return;
      }
      const row = rowAt(s.rows, y);
      const rows = drag.part === 'body' && row?.track ? s.doc.tracks.indexOf(row.track) - drag.row : 0;
      if (!drag.last && Math.abs(x - drag.x) < 3 && rows === 0) return;
      const context = {
        doc: s.doc,
        clips: drag.clips,
        reach: e.altKey ? 0 : REACH * s.zoom,
        playhead: position(),
        lanes: useLanes.getState().withClips,
      };
      drag.last = dragEdit(context, drag.clip, drag.part, (x - drag.x) * s.zoom, rows);
      preview(drag.last);
    },
    onPointerUp() {
      const drag = hold.current;
      hold.current = null;
      const { drawn } = useFloor.getState();
      useFloor.setState({ drawn: null, lasso: null });
      if (drag?.kind === 'lasso' && !drag.drawn) {
        select(drag.track === null ? null : { kind: 'track', id: drag.track });
        locate(drag.at);
      } else if (drag?.kind === 'clip' && drag.last) edit(drag.last);
      else if (drag?.kind === 'take' && drawn) void chooseRange(drag.hit.track.id, drawn);
    },
    onPointerCancel() {
      hold.current = null;
      useFloor.setState({ drawn: null, lasso: null });
      preview();
    },
    onDoubleClick(e: { clientX: number; clientY: number; currentTarget: HTMLCanvasElement }) {
      const box = e.currentTarget.getBoundingClientRect();
      const s = surface();
      const hit = hitAt(s, e.clientX - box.left, e.clientY - box.top + s.scroll);
      // The whole take into the comp.
      if (hit?.kind === 'take')
        void chooseRange(hit.track.id, {
          take: hit.take.id,
          start: hit.take.start,
          end: hit.take.start + hit.take.length,
        });
    },
  };
}

export type { Drag };
