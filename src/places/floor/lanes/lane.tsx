import type { ReactNode } from 'react';
import { useView } from '../view';

export interface LaneProps {
  /** Widths of the time, and of what stands left and right of it (px). */
  width: number;
  from: number;
  to: number;
}

/** A strip above the rows with something at its times. */
export function Lane({
  label,
  name,
  height,
  from,
  to,
  children,
}: LaneProps & { label: string; name: string; height: number; children: ReactNode }) {
  return (
    <div
      className="grid shrink-0 border-b"
      style={{ height, gridTemplateColumns: `${from}px 1fr ${to}px` }}
      aria-label={name}
      role="group"
    >
      <span className="small flex items-center border-r px-3 text-quiet">{label}</span>
      <div className="relative overflow-hidden">{children}</div>
      <span className="border-l" />
    </div>
  );
}

/** Places on a lane: pixels of samples, and whether a stretch is in view. */
export function usePlaces(width: number) {
  const { zoom, from } = useView();
  const x = (sample: number) => (sample - from) / zoom;
  return {
    zoom,
    first: from,
    last: from + width * zoom,
    x,
    seen: (start: number, end: number) => x(end) > 0 && x(start) < width,
  };
}
