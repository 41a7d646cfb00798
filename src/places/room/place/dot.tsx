'use client';
import { useEffect, useRef, type KeyboardEvent, type PointerEvent, type WheelEvent } from 'react';
import { edit, preview, select, docNow } from '@/client';
import type { SessionDoc, Track } from '@/core/session';
import { wrapDegrees, type Placement } from '@/core/speakers';
import { placeOf, pointOf } from '../geometry';
import { moveEdits, nextStacked, stepped } from './places';

/** A wheel is at rest after so long (ms): then what it turned is one step of undo. */
const WHEEL_RESTS = 250;

interface DotProps {
  track: Track;
  hue: string;
  chosen: boolean;
  /** How many sources at the same spot are named above it. */
  row: number;
}

/** A source on the plan: dragged, with Shift together with all that go where it goes; keys and the wheel move it too. */
export function Dot({ track, hue, chosen, row }: DotProps) {
  const last = useRef<{ placement: Placement; together: boolean } | null>(null);
  const wheel = useRef<{ placement: Placement; timer: ReturnType<typeof setTimeout> } | null>(null);
  const wasChosen = useRef(false);
  /** The session where dragging began: all that move with it start from there. */
  const from = useRef<SessionDoc | null>(null);
  const { placement } = track;
  const { elevation = 0 } = placement;
  const at = pointOf(placement.azimuth, placement.distance, elevation);
  const sides =
    track.layout === 'stereo'
      ? [1, -1].map((s) =>
          pointOf(wrapDegrees(placement.azimuth + (s * placement.width) / 2), placement.distance, elevation),
        )
      : [];
  const movesTo = (next: Placement, together: boolean) => {
    const doc = from.current ?? docNow();
    return moveEdits(doc, doc.tracks.find((t) => t.id === track.id) ?? track, next, together);
  };
  const move = (e: PointerEvent<SVGGElement>) => {
    if (!e.currentTarget.hasPointerCapture(e.pointerId)) return;
    const svg = e.currentTarget.ownerSVGElement!;
    const p = new DOMPoint(e.clientX, e.clientY).matrixTransform(svg.getScreenCTM()!.inverse());
    if (!last.current && Math.hypot(p.x - at.x, p.y - at.y) < 3) return;
    last.current = { placement: placeOf(p.x, p.y, placement), together: e.shiftKey };
    preview(...movesTo(last.current.placement, e.shiftKey));
  };
  const keys = (e: KeyboardEvent) => {
    const by = e.shiftKey ? 10 : 1;
    const moves: Record<string, Placement> = {
      ArrowLeft: stepped(placement, 'azimuth', by),
      ArrowRight: stepped(placement, 'azimuth', -by),
      ArrowUp: stepped(placement, 'distance', by),
      ArrowDown: stepped(placement, 'distance', -by),
      PageUp: stepped(placement, 'elevation', by),
      PageDown: stepped(placement, 'elevation', -by),
    };
    const next = moves[e.key];
    if (next) edit({ type: 'placeTrack', track: track.id, placement: next });
    else if (e.key === 'n') pickNext();
    else return;
    e.preventDefault();
    e.stopPropagation();
  };
  const pickNext = () => {
    const next = nextStacked(docNow().tracks, track);
    if (!next) return;
    select({ kind: 'track', id: next.id });
    requestAnimationFrame(() => document.querySelector<SVGGElement>(`[data-dot="${next.id}"]`)?.focus());
  };
  const turn = (e: WheelEvent) => {
    const steps = -Math.sign(e.deltaY || e.deltaX) * 5;
    const what = e.altKey ? 'elevation' : e.shiftKey ? 'width' : 'distance';
    if (wheel.current) clearTimeout(wheel.current.timer);
    const next = stepped(wheel.current?.placement ?? placement, what, steps);
    preview({ type: 'placeTrack', track: track.id, placement: next });
    const timer = setTimeout(() => {
      wheel.current = null;
      edit({ type: 'placeTrack', track: track.id, placement: next });
    }, WHEEL_RESTS);
    wheel.current = { placement: next, timer };
  };
  // What the wheel turned is kept also when the view goes.
  useEffect(
    () => () => {
      if (!wheel.current) return;
      clearTimeout(wheel.current.timer);
      edit({ type: 'placeTrack', track: track.id, placement: wheel.current.placement });
    },
    [track.id],
  );
  const words = `${placement.azimuth} degrees, ${Math.round(placement.distance * 100)} percent${elevation ? `, ${elevation} degrees up` : ''}`;
  return (
    <g
      role="slider"
      tabIndex={0}
      aria-label={`Place of ${track.name}`}
      aria-valuenow={placement.azimuth}
      aria-valuetext={words}
      data-dot={track.id}
      className="cursor-grab"
      onKeyDown={keys}
      onWheel={turn}
      onFocus={() => select({ kind: 'track', id: track.id })}
      onPointerDown={(e) => {
        wasChosen.current = chosen;
        from.current = docNow();
        select({ kind: 'track', id: track.id });
        e.currentTarget.setPointerCapture(e.pointerId);
      }}
      onPointerMove={move}
      onPointerUp={() => {
        if (last.current) edit(...movesTo(last.current.placement, last.current.together));
        // Clicked once more, the next one of those that lie there is chosen.
        else if (wasChosen.current) pickNext();
        last.current = null;
      }}
    >
      <title>{`${track.name}: ${words}. Wheel: distance, Shift: width, Alt: height. Shift while dragging: all that go where it goes. N: the next one here.`}</title>
      {sides.map((s, i) => (
        <g key={i}>
          <line x1={at.x} y1={at.y} x2={s.x} y2={s.y} stroke={hue} strokeDasharray="3 3" />
          <circle cx={s.x} cy={s.y} r="5" fill={hue} />
        </g>
      ))}
      <circle
        cx={at.x}
        cy={at.y}
        r={chosen ? 11 : 8}
        fill={hue}
        stroke={chosen ? 'var(--text)' : 'var(--ground)'}
        strokeWidth={chosen ? 2.5 : 1.5}
      />
      {elevation !== 0 && (
        <text x={at.x} y={at.y + 4} fontSize="10" fill="var(--ground)" textAnchor="middle" pointerEvents="none">
          {elevation > 0 ? '▲' : '▼'}
        </text>
      )}
      <text
        x={at.x}
        y={at.y + 24 + row * 14}
        fontSize="12"
        fill={chosen ? 'var(--text)' : 'var(--quiet)'}
        textAnchor="middle"
        stroke="var(--ground)"
        strokeWidth="3"
        paintOrder="stroke"
      >
        {track.name}
      </text>
    </g>
  );
}
