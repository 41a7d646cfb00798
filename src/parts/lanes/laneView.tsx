'use client';
import { useRef, useState, type KeyboardEvent, type PointerEvent } from 'react';
import { edit, preview, useDoc, useDocPart, useRide } from '@/client';
import { laneValue, thinned, type LanePoint } from '@/core/lanes';
import {
  isSwitched,
  laneKey,
  laneName,
  laneParam,
  laneStep,
  pointEdit,
  setValue,
  shapeFor,
  type EditJson,
  type LaneTarget,
  type Param,
} from '@/core/session';
import { frameRate, sampleToTimecode, timecodeToFrames } from '@/core/units';
import { laneAxis, type LaneAxis } from './laneAxis';
import { useLanes } from './laneState';

/** Pixels within which a point is taken, or a place draws it. */
const REACH = 8;
/** Points that can be reached by the keyboard, at most: more are drawn as a curve. */
const HANDLES = 160;
/** Below and above the curve (px). */
const PAD = 5;

interface LaneViewProps {
  target: LaneTarget;
  width: number;
  height: number;
  /** Samples per pixel, and the first that is seen. */
  zoom: number;
  from: number;
  /** Where a point within so many samples of a place is drawn to; absent: nowhere. */
  snap?: (sample: number, reach: number) => number;
}

/** A lane: its curve and points. Click sets a point, dragging the ground draws, Delete takes a point away. */
export function LaneView({ target, width, height, zoom, from, snap }: LaneViewProps) {
  const doc = useDoc('format');
  const lane = useDocPart((d) => d.lanes[laneKey(target)]);
  const shape = useLanes((s) => s.shape);
  const riding = useRide((s) => s.riding === laneKey(target));
  const param = useDocPart((d) => laneParam(d, target));
  const set = useDocPart((d) => setValue(d, target));
  const name = useDocPart((d) => laneName(d, target));
  const svg = useRef<SVGSVGElement>(null);
  const [drag, setDrag] = useState<Drag | null>(null);
  if (!param) return null;
  const axis = laneAxis(param);
  const points = lane?.points ?? [];
  const x = (at: number) => (at - from) / zoom;
  const y = (value: number) => PAD + (1 - axis.toShare(value)) * (height - 2 * PAD);
  const inverse = (px: number, py: number) => ({
    at: from + px * zoom,
    value: laneStep(param, axis.fromShare(1 - (py - PAD) / (height - 2 * PAD))),
  });
  const picture = frameRate(doc.format.frameRate);
  const seen = points.filter((p) => x(p.at) >= -REACH && x(p.at) <= width + REACH);

  const at = (e: PointerEvent) => {
    const box = svg.current!.getBoundingClientRect();
    return { px: e.clientX - box.left, py: e.clientY - box.top };
  };
  const snapped = (sample: number, free: boolean) =>
    Math.max(0, free || !snap ? Math.round(sample) : snap(sample, REACH * zoom));

  /** Where the point that stands at a sample may go: it passes none of its neighbours. */
  const between = (stands: number, wanted: number): number => {
    const i = points.findIndex((p) => p.at === stands);
    const low = (points[i - 1]?.at ?? -1) + 1;
    const high = (points[i + 1]?.at ?? Number.MAX_SAFE_INTEGER) - 1;
    return Math.min(high, Math.max(low, wanted));
  };

  const down = (e: PointerEvent<SVGSVGElement>) => {
    if (e.button !== 0) return;
    const { px, py } = at(e);
    const hit = seen.find((p) => Math.hypot(x(p.at) - px, y(p.value) - py) <= REACH);
    svg.current!.setPointerCapture(e.pointerId);
    setDrag(hit ? { kind: 'point', px, py, from: hit, last: null } : { kind: 'ground', px, py, drawn: [], last: null });
  };
  const move = (e: PointerEvent<SVGSVGElement>) => {
    if (!drag) return;
    const { px, py } = at(e);
    const now = inverse(px, py);
    if (!drag.last && Math.hypot(px - drag.px, py - drag.py) < 4) return;
    if (drag.kind === 'point') {
      // A point stays between its neighbours.
      const to: LanePoint = {
        ...drag.from,
        at: between(drag.last?.at ?? drag.from.at, e.shiftKey ? drag.from.at : snapped(now.at, e.altKey)),
        value: now.value,
      };
      setDrag({ ...drag, last: to });
      preview(...movedEdits(target, drag.from, to));
      return;
    }
    const first = drag.drawn.length === 0 ? [inverse(drag.px, drag.py)] : drag.drawn;
    const drawn = [...first, now];
    const made = drawnEdit(target, param, drawn, shapeFor(param, 'line'));
    setDrag({ ...drag, drawn, last: made });
    if (made) preview(made);
  };
  const up = (e: PointerEvent<SVGSVGElement>) => {
    if (!drag) return;
    setDrag(null);
    if (drag.kind === 'point') {
      if (drag.last) edit(...movedEdits(target, drag.from, drag.last));
    } else if (drag.last) edit(drag.last);
    else {
      const { at: sample, value } = inverse(drag.px, drag.py);
      edit(pointEdit(target, { at: snapped(sample, e.altKey), value, shape: shapeFor(param, shape) }));
    }
  };
  const cancel = () => {
    setDrag(null);
    preview();
  };
  // Where points stand close together they must not hide the curve.
  const crowded = (i: number) => [seen[i - 1], seen[i + 1]].some((p) => p && Math.abs(x(p.at) - x(seen[i]!.at)) < 10);
  const remove = (p: LanePoint) => edit({ type: 'writeLane', target, from: p.at, to: p.at, points: [] });
  return (
    <svg
      ref={svg}
      width={width}
      height={height}
      className="block touch-none"
      style={{ cursor: 'crosshair' }}
      role="group"
      aria-label={`Lane of ${name}`}
      data-lane={laneKey(target)}
      onPointerDown={down}
      onPointerMove={move}
      onPointerUp={up}
      onPointerCancel={cancel}
      onDoubleClick={(e) => {
        const box = svg.current!.getBoundingClientRect();
        const [px, py] = [e.clientX - box.left, e.clientY - box.top];
        const hit = seen.find((p) => Math.hypot(x(p.at) - px, y(p.value) - py) <= REACH);
        if (hit) remove(hit);
      }}
    >
      {axis.marks.map((m) => (
        <line
          key={m}
          x1={0}
          x2={width}
          y1={y(m)}
          y2={y(m)}
          stroke="var(--line)"
          strokeDasharray={m === 0 ? undefined : '2 5'}
        />
      ))}
      <path
        d={
          points.length > 0
            ? curve(points, { x, y, width, inverse: (px) => from + px * zoom })
            : `M0,${y(set)}H${width}`
        }
        fill="none"
        stroke={riding ? 'var(--rec)' : 'var(--brass)'}
        strokeWidth={1.5}
        strokeDasharray={points.length > 0 ? undefined : '4 4'}
        opacity={lane && !lane.on ? 0.35 : 1}
      />
      {seen.length <= HANDLES &&
        seen.map((p, i) => (
          <PointHandle
            key={p.at}
            point={p}
            cx={x(p.at)}
            cy={y(p.value)}
            small={crowded(i)}
            label={`${name} at ${timecode(doc, p.at)}`}
            param={param}
            axis={axis}
            frame={(doc.format.sampleRate * picture.den) / picture.num}
            onMove={(to) => edit(...movedEdits(target, p, { ...to, at: between(p.at, to.at) }))}
            onRemove={() => remove(p)}
          />
        ))}
    </svg>
  );
}

type Drag =
  | { kind: 'point'; px: number; py: number; from: LanePoint; last: LanePoint | null }
  | { kind: 'ground'; px: number; py: number; drawn: { at: number; value: number }[]; last: EditJson | null };

// A point that goes elsewhere: it is taken away and set, within what lies between.
function movedEdits(target: LaneTarget, from: LanePoint, to: LanePoint): EditJson[] {
  const [a, b] = [Math.min(from.at, to.at), Math.max(from.at, to.at)];
  return [{ type: 'writeLane', target, from: a, to: b, points: [to] }];
}

/** What was drawn by hand, in the place of what was there; null while it is no stretch yet. */
function drawnEdit(
  target: LaneTarget,
  param: Param,
  drawn: readonly { at: number; value: number }[],
  shape: LanePoint['shape'],
): EditJson | null {
  const sorted = [...drawn].sort((a, b) => a.at - b.at);
  const points: LanePoint[] = [];
  for (const { at, value } of sorted) {
    const sample = Math.max(0, Math.round(at));
    if (points.at(-1)?.at === sample) points.pop();
    points.push({ at: sample, value, shape });
  }
  if (points.length < 2) return null;
  const kept = isSwitched(param) ? points : thinned(points, param.step / 2);
  return { type: 'writeLane', target, from: kept[0]!.at, to: kept.at(-1)!.at, points: kept };
}

interface Places {
  x(at: number): number;
  y(value: number): number;
  width: number;
  inverse(px: number): number;
}

/** The curve in view: at each point, and every few pixels between those that are no straight lines. */
function curve(points: readonly LanePoint[], { x, y, width, inverse }: Places): string {
  const places: number[] = [0];
  for (const p of points) {
    const px = x(p.at);
    if (px > 0 && px < width) places.push(px - 0.01, px);
  }
  for (let px = 0; px < width; px += 6) places.push(px);
  places.push(width);
  places.sort((a, b) => a - b);
  return places
    .map((px, i) => `${i === 0 ? 'M' : 'L'}${px.toFixed(1)},${y(laneValue(points, inverse(px))).toFixed(1)}`)
    .join('');
}

function timecode(
  { format }: { format: { frameRate: Parameters<typeof frameRate>[0]; startTimecode: string; sampleRate: number } },
  sample: number,
): string {
  const rate = frameRate(format.frameRate);
  return sampleToTimecode(sample, timecodeToFrames(format.startTimecode, rate), rate, format.sampleRate);
}

interface HandleProps {
  point: LanePoint;
  cx: number;
  cy: number;
  small: boolean;
  label: string;
  param: Param;
  axis: LaneAxis;
  /** Samples of a picture. */
  frame: number;
  onMove: (to: LanePoint) => void;
  onRemove: () => void;
}

/** A point: arrows change its value by a step and move it by a picture, Delete takes it away. */
function PointHandle({ point, cx, cy, small, label, param, frame, onMove, onRemove }: HandleProps) {
  const key = (e: KeyboardEvent) => {
    const by = e.shiftKey ? 10 : 1;
    const step = isSwitched(param) ? 1 : param.step;
    if (e.key === 'ArrowUp' || e.key === 'ArrowDown')
      onMove({ ...point, value: laneStep(param, point.value + (e.key === 'ArrowUp' ? by : -by) * step) });
    else if (e.key === 'ArrowLeft' || e.key === 'ArrowRight')
      onMove({ ...point, at: Math.max(0, Math.round(point.at + (e.key === 'ArrowRight' ? by : -by) * frame)) });
    else if (e.key === 'Delete' || e.key === 'Backspace') onRemove();
    else return;
    e.preventDefault();
    e.stopPropagation();
  };
  return (
    <circle
      cx={cx}
      cy={cy}
      r={small ? 1.8 : 4}
      tabIndex={0}
      role="slider"
      aria-label={label}
      aria-valuemin={param.min}
      aria-valuemax={param.max}
      aria-valuenow={point.value}
      aria-valuetext={`${point.value} ${param.unit}`.trim()}
      fill="var(--ground)"
      stroke="var(--brass)"
      strokeWidth={1.5}
      className="focus-visible:fill-(--brass) focus-visible:outline-none"
      style={{ cursor: 'grab' }}
      onKeyDown={key}
    >
      <title>{`${label}: ${point.value} ${param.unit}`}</title>
    </circle>
  );
}
