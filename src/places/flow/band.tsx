'use client';
import { getBezierPath, type EdgeProps } from '@xyflow/react';
import { useRef } from 'react';
import { readLevel } from '@/client';
import { share, useFrame } from '@/parts';

interface BandData extends Record<string, unknown> {
  hue: string;
  width: number;
  channels: number;
  dashed: boolean;
  silent: boolean;
}

/** A link as a band; it lights up with the level that runs through it. */
export function Band(props: EdgeProps) {
  const { hue, width, channels, dashed, silent } = props.data as BandData;
  const path = useRef<SVGPathElement>(null);
  const [d] = getBezierPath({ ...props, curvature: 0.45 });
  useFrame(() => {
    let db = -Infinity;
    for (let c = 0; c < channels; c++) db = Math.max(db, readLevel(`out/${props.source}/${c}`).db);
    if (path.current) path.current.style.opacity = silent ? '0.18' : (0.42 + 0.55 * share(db)).toFixed(2);
  });
  return (
    <>
      <path
        ref={path}
        d={d}
        fill="none"
        stroke={hue}
        strokeWidth={dashed ? 3 : width}
        strokeDasharray={dashed ? '7 5' : undefined}
        data-band={props.source}
      />
      <path
        d={d}
        fill="none"
        stroke="transparent"
        strokeWidth={Math.max(18, width)}
        className="react-flow__edge-interaction"
      />
    </>
  );
}
