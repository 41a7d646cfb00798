'use client';
import { useRef } from 'react';
import { locate, position, setStretch, useDoc, useTransport } from '@/client';
import { ticks } from './ruler';
import { scrubEnd, scrubTo } from './scrub';
import { snapTo } from './snapping';
import { StretchBox } from './stretchBox';
import { useView } from './view';

/** Least pixels between two labels. */
const LABEL_GAP = 96;
/** Moved farther than this, a press is a drag. */
const DRAG = 4;

/** The ruler above the rows: timecode, the printed range as a brass bar; a click locates, a drag chooses a stretch. */
export function Ruler({ width }: { width: number }) {
  const doc = useDoc();
  const { zoom, from } = useView();
  const recording = useTransport((s) => s.state === 'recording');
  const pressed = useRef<number | null>(null);
  const scrubs = useRef(false);
  const list = ticks(doc, from, from + width * zoom, LABEL_GAP * zoom);
  const x = (sample: number) => (sample - from) / zoom;
  const left = Math.max(0, x(doc.range.start));
  const at = (e: { clientX: number; currentTarget: Element }) =>
    e.clientX - e.currentTarget.getBoundingClientRect().left;
  const sample = (px: number, free: boolean) =>
    free ? Math.round(from + px * zoom) : snapTo(doc, from + px * zoom, 6 * zoom, position());
  return (
    <div className="relative overflow-hidden">
      <div
        role="slider"
        aria-label="Ruler"
        aria-valuenow={0}
        tabIndex={-1}
        className="absolute inset-0 cursor-text overflow-hidden"
        data-testid="ruler"
        title="Click to locate; drag to choose a stretch; with Shift to listen along"
        onPointerDown={(e) => {
          pressed.current = at(e);
          scrubs.current = e.shiftKey && !recording;
          if (scrubs.current) scrubTo(from + at(e) * zoom);
          e.currentTarget.setPointerCapture(e.pointerId);
        }}
        onPointerMove={(e) => {
          const first = pressed.current;
          if (first !== null && scrubs.current) return scrubTo(from + at(e) * zoom);
          if (first === null || Math.abs(at(e) - first) < DRAG) return;
          const ends = [sample(first, e.altKey), sample(at(e), e.altKey)];
          setStretch({ start: Math.min(...ends), end: Math.max(...ends) });
        }}
        onPointerUp={(e) => {
          const first = pressed.current;
          pressed.current = null;
          if (first !== null && scrubs.current) scrubEnd(from + at(e) * zoom);
          else if (first !== null && Math.abs(at(e) - first) < DRAG) locate(from + first * zoom);
        }}
        onPointerCancel={(e) => {
          if (scrubs.current) scrubEnd(from + at(e) * zoom);
          pressed.current = null;
          scrubs.current = false;
        }}
        onDoubleClick={() => setStretch(null)}
      >
        <div
          className="absolute top-0 h-0.75"
          style={{
            left,
            width: Math.max(0, Math.min(width, x(doc.range.end)) - left),
            background: recording ? 'var(--rec)' : 'var(--brass)',
          }}
        />
        {list.map((t) => (
          <div key={t.sample} className="absolute bottom-0" style={{ left: x(t.sample) }}>
            <div className="w-px bg-line" style={{ height: t.label ? 10 : 5 }} />
            {t.label && <span className="figure absolute bottom-2.25 left-1 text-small text-quiet">{t.label}</span>}
          </div>
        ))}
      </div>
      <StretchBox x={x} width={width} />
    </div>
  );
}
