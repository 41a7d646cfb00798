'use client';
import { scaleLinear } from 'd3-scale';
import { useRef } from 'react';
import { readReductions } from '@/client';
import { drawAttribute } from '../drawn';
import { useFrame } from '../useFrame';

const WIDTH = 258;
const HEIGHT = 38;
/** Values told in a second. */
const RATE = 30;
const DEEPEST = -24;

/** Gain reduction over the last seconds, hanging from the top; now is on the right. */
export function ReductionHistory({ stage, seconds = 6 }: { stage: string; seconds?: number }) {
  const shown = seconds * RATE;
  const path = useRef<SVGPathElement>(null);
  const x = scaleLinear([-shown + 1, 0], [0, WIDTH]);
  const y = scaleLinear([0, DEEPEST], [0, HEIGHT]).clamp(true);
  useFrame(() => {
    const past = readReductions(stage).slice(-shown);
    const points = past.map((db, i) => `L${x(i - past.length + 1).toFixed(1)} ${y(db).toFixed(1)}`);
    const first = x(1 - past.length).toFixed(1);
    drawAttribute(path.current, 'd', points.length ? `M${first} 0${points.join('')}L${WIDTH} 0Z` : '');
  });
  return (
    <svg
      role="img"
      aria-label={`Gain reduction over the last ${seconds} seconds`}
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      className="mt-1 w-full overflow-hidden rounded-sm bg-ground"
    >
      {[-12].map((db) => (
        <g key={db}>
          <line x1={0} x2={WIDTH} y1={y(db)} y2={y(db)} stroke="var(--line)" />
          <text x={3} y={y(db) - 2} fontSize="10.5" fill="var(--quiet)">
            {db}
          </text>
        </g>
      ))}
      <path ref={path} fill="var(--signal)" fillOpacity="0.6" />
    </svg>
  );
}
