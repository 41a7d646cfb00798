'use client';
import { useRef, type PointerEvent } from 'react';
import { edit, preview } from '@/client';
import type { Track } from '@/core/session';
import { moved, type Layout } from '@/core/speakers';
import { elevationOf, SIDE, sideOf } from '../geometry';
import { placeable } from './places';

/** The room seen from the left, the front at its left: the chosen source is raised and lowered here. */
export function SideView({ layout, track, hue }: { layout: Layout; track: Track | undefined; hue: string }) {
  const last = useRef<number | null>(null);
  const { cx, cy, radius } = SIDE;
  const chosen = track && placeable(track) ? track : null;
  const at = chosen && sideOf(chosen.placement.azimuth, chosen.placement.distance, chosen.placement.elevation ?? 0);
  const move = (e: PointerEvent<SVGCircleElement>) => {
    if (!chosen || !e.currentTarget.hasPointerCapture(e.pointerId)) return;
    const svg = e.currentTarget.ownerSVGElement!;
    const p = new DOMPoint(e.clientX, e.clientY).matrixTransform(svg.getScreenCTM()!.inverse());
    last.current = elevationOf(p.y, chosen.placement);
    preview({ type: 'placeTrack', track: chosen.id, placement: moved(chosen.placement, { elevation: last.current }) });
  };
  return (
    <g aria-label="Seen from the left" data-testid="side-view">
      <text x={cx - radius - 8} y={cy - radius - 8} fontSize="11" fill="var(--quiet)">
        from the left
      </text>
      <circle cx={cx} cy={cy} r={radius} fill="none" stroke="var(--line)" />
      <line x1={cx - radius} x2={cx + radius} y1={cy} y2={cy} stroke="var(--line)" strokeDasharray="2 5" />
      {layout.speakers.map((s) => {
        if (s.lfe) return null;
        const p = sideOf(s.azimuth, 1, s.elevation);
        return (
          <rect
            key={s.label}
            x={p.x - 3.5}
            y={p.y - 3.5}
            width={7}
            height={7}
            fill="var(--raised)"
            stroke="var(--quiet)"
          />
        );
      })}
      <circle cx={cx} cy={cy} r={4} fill="none" stroke="var(--text)" strokeWidth="1.4" />
      {chosen && at && (
        <circle
          data-side-dot={chosen.id}
          cx={at.x}
          cy={at.y}
          r={6.5}
          fill={hue}
          stroke="var(--text)"
          strokeWidth="2"
          className="cursor-ns-resize"
          onPointerDown={(e) => e.currentTarget.setPointerCapture(e.pointerId)}
          onPointerMove={move}
          onPointerUp={() => {
            if (last.current !== null)
              edit({
                type: 'placeTrack',
                track: chosen.id,
                placement: moved(chosen.placement, { elevation: last.current }),
              });
            last.current = null;
          }}
        >
          <title>{`Height of ${chosen.name}: drag up or down`}</title>
        </circle>
      )}
    </g>
  );
}
