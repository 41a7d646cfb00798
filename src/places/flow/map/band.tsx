'use client';
import { EdgeLabelRenderer, type EdgeProps } from '@xyflow/react';
import { useRef } from 'react';
import { readLevel } from '@/client';
import { formatDb } from '@/core/units';
import { share, useFrame } from '@/parts';

export interface BandData extends Record<string, unknown> {
  d: string;
  /** Where it is clicked: not at its end, where it is pulled. */
  hit: string;
  hue: string;
  width: number;
  levels: string[];
  dashed: boolean;
  /** dB of a send; null: a way out. */
  send: number | null;
  silent: boolean;
  /** Something else is followed, or solo silences it. */
  dim: boolean;
  label: { x: number; y: number };
}

/** Large areas are painted anew for every change: so many steps are drawn, so often (ms), all bands at once. */
const STEPS = 16;
const EVERY = 100;

/** A link as a band; it lights up with the level that runs through it. A send is thin and dashed, with its level. */
export function Band(props: EdgeProps) {
  const { d, hit, hue, width, levels, dashed, send, silent, dim, label } = props.data as BandData;
  const path = useRef<SVGPathElement>(null);
  const last = useRef(-1);
  const looked = useRef(-1);
  useFrame(() => {
    const slot = Math.floor(performance.now() / EVERY);
    if (slot === looked.current) return;
    looked.current = slot;
    let db = -Infinity;
    for (const key of levels) db = Math.max(db, readLevel(key).db);
    const step = dim ? -2 : silent ? -1 : Math.round(STEPS * share(db));
    if (step === last.current || !path.current) return;
    last.current = step;
    path.current.style.opacity = dim ? '0.09' : silent ? '0.18' : (0.42 + (0.55 * step) / STEPS).toFixed(2);
  });
  const thin = send !== null;
  return (
    <>
      <path
        ref={path}
        d={d}
        fill="none"
        pointerEvents="none"
        stroke={hue}
        strokeWidth={dashed ? 3 : width}
        strokeDasharray={thin ? '5 4' : dashed ? '7 5' : undefined}
        data-band={props.source}
        data-dim={dim}
      />
      <path
        d={hit}
        fill="none"
        stroke="transparent"
        strokeWidth={Math.max(14, width)}
        className="react-flow__edge-interaction"
      />
      {thin && !dim && (
        <EdgeLabelRenderer>
          <span
            className="figure pointer-events-none absolute bg-ground px-0.75 text-tiny leading-3 text-quiet"
            style={{ transform: `translate(-50%, -50%) translate(${label.x}px, ${label.y}px)` }}
            data-send={props.id}
          >
            {formatDb(send)}
          </span>
        </EdgeLabelRenderer>
      )}
    </>
  );
}
