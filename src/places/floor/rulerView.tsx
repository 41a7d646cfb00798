'use client';
import { locate, useDoc, useTransport } from '@/client';
import { ticks } from './ruler';
import { useView } from './view';

/** Least pixels between two labels. */
const LABEL_GAP = 96;

/** The ruler above the rows: timecode, the range as a brass bar; a click locates. */
export function Ruler({ width }: { width: number }) {
  const doc = useDoc();
  const { zoom, from } = useView();
  const recording = useTransport((s) => s.state === 'recording');
  const list = ticks(doc, from, from + width * zoom, LABEL_GAP * zoom);
  const x = (sample: number) => (sample - from) / zoom;
  const left = Math.max(0, x(doc.range.start));
  return (
    <div
      role="slider"
      aria-label="Ruler"
      aria-valuenow={0}
      tabIndex={-1}
      className="relative cursor-text overflow-hidden"
      data-testid="ruler"
      onPointerDown={(e) => locate(from + (e.clientX - e.currentTarget.getBoundingClientRect().left) * zoom)}
    >
      <div
        className="absolute top-0 h-[3px]"
        style={{
          left,
          width: Math.max(0, Math.min(width, x(doc.range.end)) - left),
          background: recording ? 'var(--rec)' : 'var(--brass)',
        }}
      />
      {list.map((t) => (
        <div key={t.sample} className="absolute bottom-0" style={{ left: x(t.sample) }}>
          <div className="w-px bg-line" style={{ height: t.label ? 10 : 5 }} />
          {t.label && <span className="figure absolute bottom-[9px] left-1 text-[11px]! text-quiet">{t.label}</span>}
        </div>
      ))}
    </div>
  );
}
