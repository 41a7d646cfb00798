'use client';
import { Maximize2, Upload, ZoomIn, ZoomOut } from 'lucide-react';
import { useEffect, useLayoutEffect, useRef, useState } from 'react';
import {
  edit,
  offer,
  position,
  usePeaks,
  useDoc,
  useScheme,
  useSelection,
  useTakes,
  useTransport,
  wantPeaks,
} from '@/client';
import { endOf, stemOfTrack } from '@/core/session';
import { hueOf, useFrame } from '@/parts';
import { clipPointer, type Drag } from './clipPointer';
import { drawRows, ROW } from './drawRows';
import { ImportButton } from './importButton';
import { Ruler } from './rulerView';
import { RowFrom, RowTo } from './rowEnds';
import { fit, scrollBy, useView, zoomBy } from './view';

const FROM_WIDTH = 184;
const TO_WIDTH = 170;

/** Tracks as rows: line and chain on the left, material in the middle, level and stem on the right. */
export function Timeline() {
  const doc = useDoc();
  const box = useRef<HTMLDivElement>(null);
  const [width, setWidth] = useState(0);
  const { zoom } = useView();
  useLayoutEffect(() => {
    const measure = () => setWidth(Math.max(100, (box.current?.clientWidth ?? 800) - FROM_WIDTH - TO_WIDTH));
    measure();
    const observer = new ResizeObserver(measure);
    observer.observe(box.current!);
    return () => observer.disconnect();
  }, []);
  useEffect(() => {
    useView.setState({ width: width || 800 });
    if (width && useView.getState().zoom === 0) fit(0, Math.max(endOf(doc), doc.range.end) * 1.02);
  }, [width, doc]);
  useFloorCommands();
  return (
    <section ref={box} className="flex min-w-0 flex-1 flex-col" aria-label="Timeline">
      <div
        className="grid h-[30px] shrink-0 border-b"
        style={{ gridTemplateColumns: `${FROM_WIDTH}px 1fr ${TO_WIDTH}px` }}
      >
        <span className="small flex items-center gap-1 border-r px-3 text-quiet">
          from
          <span className="ml-auto flex">
            <button aria-label="Closer" title="Closer (+)" className="chip border-0!" onClick={() => zoomBy(0.6)}>
              <ZoomIn size={14} />
            </button>
            <button aria-label="Farther" title="Farther (-)" className="chip border-0!" onClick={() => zoomBy(1 / 0.6)}>
              <ZoomOut size={14} />
            </button>
            <button
              aria-label="Show everything"
              title="Show everything (F)"
              className="chip border-0!"
              onClick={() => fit(0, Math.max(endOf(doc), doc.range.end) * 1.02)}
            >
              <Maximize2 size={13} />
            </button>
          </span>
        </span>
        {zoom > 0 && <Ruler width={width} />}
        <span className="small flex items-center border-l px-3 text-quiet">to</span>
      </div>
      <div className="min-h-0 flex-1 overflow-y-auto">
        <div className="relative grid" style={{ gridTemplateColumns: `${FROM_WIDTH}px ${width}px ${TO_WIDTH}px` }}>
          <div className="border-r">
            {doc.tracks.map((t) => (
              <RowFrom key={t.id} track={t} />
            ))}
          </div>
          {zoom > 0 && width > 0 && <Rows width={width} />}
          <div className="border-l">
            {doc.tracks.map((t) => (
              <RowTo key={t.id} track={t} />
            ))}
          </div>
        </div>
        <div className="flex items-center gap-1 p-2">
          <ImportButton>
            <Upload size={14} /> Bring in files
          </ImportButton>
        </div>
      </div>
    </section>
  );
}

function useFloorCommands(): void {
  const doc = useDoc();
  useEffect(
    () =>
      offer('floor', [
        { id: 'closer', label: 'Closer', keys: 'equal', group: 'Timeline', run: () => zoomBy(0.6, position()) },
        { id: 'farther', label: 'Farther', keys: 'minus', group: 'Timeline', run: () => zoomBy(1 / 0.6, position()) },
        {
          id: 'fit',
          label: 'Show everything',
          keys: 'f',
          group: 'Timeline',
          run: () => fit(0, Math.max(endOf(doc), doc.range.end) * 1.02),
        },
        { id: 'earlier', label: 'Scroll earlier', keys: 'comma', group: 'Timeline', run: () => scrollBy(-200) },
        { id: 'later', label: 'Scroll later', keys: 'period', group: 'Timeline', run: () => scrollBy(200) },
        {
          id: 'remove-clip',
          label: 'Remove the selected clip',
          keys: 'delete',
          group: 'Timeline',
          run: () => {
            const { selected } = useSelection.getState();
            if (selected?.kind === 'clip') edit({ type: 'removeClip', clip: selected.id });
          },
        },
      ]),
    [doc],
  );
}

function Rows({ width }: { width: number }) {
  const doc = useDoc();
  const { zoom, from } = useView();
  const peaks = usePeaks((s) => s.files);
  const running = useTakes((s) => s.running);
  const scheme = useScheme((s) => s.scheme);
  const selected = useSelection((s) => (s.selected?.kind === 'clip' ? s.selected.id : null));
  const canvas = useRef<HTMLCanvasElement>(null);
  const wrap = useRef<HTMLDivElement>(null);
  const head = useRef<HTMLDivElement>(null);
  const drag = useRef<Drag | null>(null);
  const height = Math.max(1, doc.tracks.length * ROW);

  useEffect(() => {
    for (const track of doc.tracks)
      for (const clip of track.clips) wantPeaks(clip.media, doc.media[clip.media]?.frames ?? 0);
  }, [doc]);
  useLayoutEffect(() => {
    const c = canvas.current!;
    const ratio = window.devicePixelRatio || 1;
    c.width = Math.round(width * ratio);
    c.height = Math.round(height * ratio);
  }, [width, height]);
  useLayoutEffect(() => {
    const style = getComputedStyle(document.documentElement);
    const read = (name: string) => style.getPropertyValue(name).trim();
    const colours = new Map(
      doc.tracks.map((t) => {
        const hue = hueOf(stemOfTrack(doc, t.destination));
        return [t.id, read(hue.slice(4, -1))];
      }),
    );
    drawRows(canvas.current!.getContext('2d')!, {
      doc,
      zoom,
      from,
      width,
      peaks,
      running,
      selected,
      colourOf: (t) => colours.get(t.id) ?? read('--quiet'),
      line: read('--line'),
      brass: read('--brass'),
      rec: read('--rec'),
      text: read('--text'),
    });
  }, [doc, zoom, from, width, height, peaks, running, selected, scheme]);
  useFrame(() => {
    if (!head.current) return;
    const x = (position() - useView.getState().from) / useView.getState().zoom;
    head.current.style.transform = `translateX(${x.toFixed(1)}px)`;
    head.current.style.visibility = x >= 0 && x <= width ? 'visible' : 'hidden';
    const { state } = useTransport.getState();
    // The page turns when the playhead reaches the edge.
    if ((state === 'playing' || state === 'recording') && x > width - 8)
      useView.setState((v) => ({ from: v.from + (width - 40) * v.zoom }));
  });
  useEffect(() => {
    const el = wrap.current!;
    const wheel = (e: WheelEvent) => {
      if (e.ctrlKey || e.metaKey) {
        e.preventDefault();
        const v = useView.getState();
        zoomBy(Math.exp(e.deltaY * 0.004), v.from + (e.clientX - el.getBoundingClientRect().left) * v.zoom);
      } else if (e.shiftKey || Math.abs(e.deltaX) > Math.abs(e.deltaY)) {
        e.preventDefault();
        scrollBy(e.deltaX || e.deltaY);
      }
    };
    el.addEventListener('wheel', wheel, { passive: false });
    return () => el.removeEventListener('wheel', wheel);
  }, []);
  return (
    <div ref={wrap} className="relative overflow-hidden" style={{ height }}>
      <canvas
        ref={canvas}
        style={{ width, height }}
        className="block touch-none"
        aria-label="Clips"
        data-testid="clips"
        {...clipPointer(() => ({ doc, ...useView.getState() }), drag)}
      />
      <RangeShade width={width} height={height} />
      <div
        ref={head}
        className="pointer-events-none absolute left-0 top-0 w-[2px] bg-text"
        style={{ height }}
        data-testid="playhead"
      />
    </div>
  );
}

function RangeShade({ width, height }: { width: number; height: number }) {
  const { range } = useDoc();
  const { zoom, from } = useView();
  const x0 = Math.max(0, (range.start - from) / zoom);
  const x1 = Math.min(width, (range.end - from) / zoom);
  return (
    <>
      {x0 > 0 && (
        <div className="pointer-events-none absolute left-0 top-0 bg-ground opacity-45" style={{ width: x0, height }} />
      )}
      {x1 < width && (
        <div
          className="pointer-events-none absolute top-0 bg-ground opacity-45"
          style={{ left: Math.max(0, x1), width: width - Math.max(0, x1), height }}
        />
      )}
    </>
  );
}
