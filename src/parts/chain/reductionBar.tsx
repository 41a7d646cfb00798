'use client';
import { useRef } from 'react';
import { readReduction } from '@/client';
import { formatDb } from '@/core/units';
import { drawAttribute, drawText } from '../drawn';
import { useFrame } from '../useFrame';

/** dB at the full width. */
const DEEPEST = 24;
const LOWEST = -DEEPEST;

/** Live gain reduction of a stage. */
export function ReductionBar({ stage }: { stage: string }) {
  const meter = useRef<HTMLDivElement>(null);
  const bar = useRef<HTMLDivElement>(null);
  const text = useRef<HTMLSpanElement>(null);
  useFrame(() => {
    const db = readReduction(stage);
    if (bar.current) bar.current.style.transform = `scaleX(${Math.min(1, -db / DEEPEST).toFixed(3)})`;
    drawText(text.current, formatDb(db));
    drawAttribute(meter.current, 'aria-valuenow', db.toFixed(1));
  });
  return (
    <>
      <div
        ref={meter}
        className="h-1.5 flex-1 overflow-hidden rounded-xs bg-track"
        role="meter"
        aria-label="Gain reduction"
        aria-valuemin={LOWEST}
        aria-valuemax={0}
        aria-valuenow={0}
      >
        <div ref={bar} className="h-full origin-left bg-signal" style={{ transform: 'scaleX(0)' }} />
      </div>
      <span ref={text} className="figure w-[5ch] text-right">
        0.0
      </span>
    </>
  );
}
