'use client';
import { clsx } from 'clsx';
import { soloedTracks, stemOfTrack } from '@/core/paths';
import { shortTakeText, takeNames } from '@/core/session';
import { useEffect, useLayoutEffect, useMemo, useRef } from 'react';
import {
  position,
  usePeaks,
  useDoc,
  useScheme,
  useSelection,
  useStretch,
  useTakes,
  useTransport,
  wantPeaks,
} from '@/client';

import { hueOf, LaneView, useFrame } from '@/parts';
import { clipPointer, type Drag } from './clipPointer';
import { sameMap, sameRows, sameSet, useSame } from './drawn';
import { drawRows } from './drawRows';
import { useFloor } from './floorState';
import { PixelPainter } from './painter';
import { rowKey, rowsIn, type Row } from './rows';
import { snapTo } from './snapping';
import { scrollBy, show, useView, zoomBy } from './view';

interface Props {
  width: number;
  rows: readonly Row[];
  /** First pixel of the rows that is seen, how many are, and how many there are. */
  scroll: number;
  height: number;
  total: number;
}

/** The material of the rows: a canvas of what is in view, which goes along while one scrolls. */
export function Rows({ width, rows, scroll, height, total }: Props) {
  const doc = useDoc();
  const { zoom, from } = useView();
  const peaks = usePeaks((s) => s.files);
  const scheme = useScheme((s) => s.scheme);
  const selected = useSelection((s) => s.clips);
  const running = useTakes((s) => s.running);
  const drawn = useFloor((s) => s.drawn);
  const canvas = useRef<HTMLCanvasElement>(null);
  const wrap = useRef<HTMLDivElement>(null);
  const head = useRef<HTMLDivElement>(null);
  const drag = useRef<Drag | null>(null);
  const pixels = useRef<ImageData | null>(null);

  // What the rows look like: a level that is dragged changes none of it.
  const seen = useSame(rows, sameRows);
  const sounding = useSame(soloedTracks(doc), sameSet);
  const { media } = doc;
  useEffect(() => {
    for (const row of seen) {
      if (row.kind === 'lane') continue;
      const wanted = row.kind === 'takes' ? row.takes.map((t) => t.media) : row.track.clips.map((c) => c.media);
      for (const id of wanted) if (media[id]) wantPeaks(id, media[id].frames);
    }
  }, [media, seen]);
  // Asked of the page once for a scheme, not for every frame.
  const read = useMemo(() => {
    void scheme;
    const known = new Map<string, string>();
    return (name: string): string => {
      const found = known.get(name) ?? getComputedStyle(document.documentElement).getPropertyValue(name).trim();
      known.set(name, found);
      return found;
    };
  }, [scheme]);
  const colours = useSame(
    new Map(doc.tracks.map((t) => [t.id, read(hueOf(stemOfTrack(doc, t.destination)).slice(4, -1))])),
    sameMap,
  );
  useLayoutEffect(() => {
    const c = canvas.current!;
    const ratio = window.devicePixelRatio || 1;
    c.width = Math.round(width * ratio);
    c.height = Math.max(1, Math.round(height * ratio));
    pixels.current = null;
  }, [width, height]);
  useLayoutEffect(() => {
    const c = canvas.current!;
    const ctx = c.getContext('2d')!;
    const image = (pixels.current ??= ctx.createImageData(c.width, c.height));
    const painter = new PixelPainter(image.data, c.width, c.height, c.width / width, (colour) => {
      ctx.fillStyle = colour;
      return ctx.fillStyle;
    });
    painter.clear(read('--ground'));
    drawRows(painter, {
      sounding,
      rows: seen,
      scroll,
      height,
      zoom,
      from,
      width,
      peaks,
      running,
      selected: new Set(selected),
      drawn,
      colourOf: (t) => colours.get(t.id) ?? read('--quiet'),
      line: read('--line'),
      brass: read('--brass'),
      rec: read('--rec'),
      text: read('--text'),
      quiet: read('--quiet'),
      ground: read('--ground'),
    });
    ctx.putImageData(image, 0, 0);
  }, [sounding, seen, scroll, zoom, from, width, height, peaks, running, selected, drawn, read, colours]);
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
  // Where one goes is seen.
  const stands = useTransport((s) => s.position);
  const stood = useRef(stands);
  useEffect(() => {
    if (stands !== stood.current) show(stands);
    stood.current = stands;
  }, [stands]);
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
    <div ref={wrap} className="relative overflow-hidden" style={{ height: total }}>
      <canvas
        ref={canvas}
        style={{ width, height, top: scroll }}
        className="absolute left-0 block touch-none"
        aria-label="Clips"
        data-testid="clips"
        {...clipPointer(() => ({ doc, rows, scroll, ...useView.getState() }), drag)}
      />
      {rowsIn(rows, scroll, scroll + height).map(
        (row) =>
          row.kind === 'lane' && (
            <div key={rowKey(row)} className="absolute left-0" style={{ top: row.top }}>
              <LaneView
                target={row.target}
                width={width}
                height={row.height - 1}
                zoom={zoom}
                from={from}
                snap={(sample, reach) => snapTo(doc, sample, reach, position())}
              />
            </div>
          ),
      )}
      <TakeLabels rows={rowsIn(rows, scroll, scroll + height)} width={width} />
      <Shades width={width} height={total} />
      <LassoBox />
      <div
        ref={head}
        className="pointer-events-none absolute left-0 top-0 w-0.5 bg-text"
        style={{ height: total }}
        data-testid="playhead"
      />
    </div>
  );
}

/** Which takes stand in the rows that several share. */
function TakeLabels({ rows, width }: { rows: readonly Row[]; width: number }) {
  const doc = useDoc();
  const { zoom, from } = useView();
  return rows.flatMap((row) => {
    if (row.kind !== 'takes') return [];
    const names = takeNames(doc, row.track);
    return row.takes.map((t) => {
      const [left, right] = [(t.start - from) / zoom, (t.start + t.length - from) / zoom];
      if (right < 18 || left > width) return null;
      return (
        <span
          key={t.id}
          className={clsx(
            'figure pointer-events-none absolute overflow-hidden rounded-br-[3px] bg-ground/70 px-0.5 text-tiny leading-3',
            t.circled ? 'text-brass' : 'text-quiet',
          )}
          style={{ left: Math.max(0, left), top: row.top + 3, maxWidth: right - Math.max(0, left) }}
        >
          {shortTakeText(names.get(t.id))}
        </span>
      );
    });
  });
}

/** What is drawn around clips to choose them. */
function LassoBox() {
  const lasso = useFloor((s) => s.lasso);
  if (!lasso) return null;
  const { x, y, toX, toY } = lasso;
  return (
    <div
      className="pointer-events-none absolute border border-dashed border-text bg-text/10"
      style={{ left: Math.min(x, toX), top: Math.min(y, toY), width: Math.abs(toX - x), height: Math.abs(toY - y) }}
      data-testid="lasso"
    />
  );
}

/** What lies outside the printed range is dimmed; the chosen stretch is tinted. */
function Shades({ width, height }: { width: number; height: number }) {
  const { range } = useDoc('range');
  const { zoom, from } = useView();
  const stretch = useStretch((s) => s.stretch);
  const x = (sample: number) => Math.max(0, Math.min(width, (sample - from) / zoom));
  const dim = 'pointer-events-none absolute top-0 bg-ground opacity-45';
  return (
    <>
      <div className={dim} style={{ left: 0, width: x(range.start), height }} />
      <div className={dim} style={{ left: x(range.end), width: width - x(range.end), height }} />
      {stretch && (
        <div
          className="pointer-events-none absolute top-0 border-x border-brass bg-brass/10"
          style={{ left: x(stretch.start), width: Math.max(1, x(stretch.end) - x(stretch.start)), height }}
          data-testid="stretch"
        />
      )}
    </>
  );
}
