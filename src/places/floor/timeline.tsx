'use client';
import { clsx } from 'clsx';
import { Maximize2, Upload, ZoomIn, ZoomOut } from 'lucide-react';
import { useEffect, useLayoutEffect, useMemo, useRef, useState, type DragEvent } from 'react';
import { position, useDoc, useTakes } from '@/client';
import { endOf } from '@/core/session';
import { openTracks, useFloor } from './floorState';
import { FloorKeys } from './floorKeys';
import { ImportButton } from './importButton';
import { useLevelMatch } from './loudness';
import { Lanes } from './lanes';
import { AskRate } from './media/askRate';
import { layMedia, mediaCarried } from './media/dropping';
import type { DropPlace } from './media/entering';
import { importFiles } from './media/importFiles';
import { RowFrom, RowTo } from './rowEnds';
import { LaneFrom, LaneTo } from './laneRows/laneEnds';
import { LaneMenu } from './laneRows/laneMenu';
import { lanesShown, useLanes } from '@/parts';
import { heightOf, rowAt, rowKey, rowsIn, rowsOf, type Row } from './rows';
import { Rows } from './rowsCanvas';
import { Ruler } from './rulerView';
import { snapTo } from './snapping';
import { MoreTakes, RunningFrom, RunningTo, TakesFrom, TakesTo } from './takeRowEnds';

import { fit, useView, zoomBy } from './view';

const FROM_WIDTH = 190;
const TO_WIDTH = 166;
/** Pixels within which what is let go is drawn to cues, markers and the playhead. */
const DRAWN_TO = 8;

/** Tracks as rows: line and chain on the left, material in the middle, level and stem on the right. */
export function Timeline() {
  const doc = useDoc();
  const box = useRef<HTMLDivElement>(null);
  const scroller = useRef<HTMLDivElement>(null);
  const [width, setWidth] = useState(0);
  const [view, setView] = useState({ scroll: 0, height: 600 });
  // Only whether: the rows' ends need not be drawn again while one scrolls.
  const placed = useView((s) => s.zoom > 0);
  const open = useFloor((s) => s.open);
  const all = useFloor((s) => s.all);
  const running = useTakes((s) => s.running);
  const lanes = useLanes();
  const rows = useMemo(
    () => rowsOf(doc, { open, all }, running, (owner) => lanesShown(doc, lanes, owner)),
    [doc, open, all, running, lanes],
  );
  // What is recorded is seen without asking, and stays in view afterwards.
  const recorded = running.map((r) => r.track).join(' ');
  useEffect(() => {
    if (recorded) openTracks(recorded.split(' '));
  }, [recorded]);
  useLayoutEffect(() => {
    const measure = () => {
      setWidth(Math.max(100, (box.current?.clientWidth ?? 800) - FROM_WIDTH - TO_WIDTH));
      const s = scroller.current!;
      setView({ scroll: s.scrollTop, height: s.clientHeight });
    };
    measure();
    const observer = new ResizeObserver(measure);
    observer.observe(box.current!);
    return () => observer.disconnect();
  }, []);
  useEffect(() => {
    useView.setState({ width: width || 800 });
    if (width && useView.getState().zoom === 0) fit(0, Math.max(endOf(doc), doc.range.end) * 1.02);
  }, [width, doc]);
  const height = heightOf(rows);
  /** The row and the time that something is let go at; below the rows there is no row. */
  const dropPlace = (e: DragEvent): DropPlace => {
    const surface = scroller.current!.getBoundingClientRect();
    const { from, zoom } = useView.getState();
    const x = Math.max(0, e.clientX - surface.left - FROM_WIDTH);
    const at = Math.max(0, snapTo(doc, from + x * zoom, DRAWN_TO * zoom, position()));
    const y = e.clientY - surface.top;
    return { at, track: (y >= 0 ? rowAt(rows, y + scroller.current!.scrollTop)?.track?.id : null) ?? null };
  };
  const seen = rowsIn(rows, view.scroll, view.scroll + view.height);
  return (
    <section
      ref={box}
      className="flex min-w-0 flex-1 select-none flex-col"
      aria-label="Timeline"
      onDragOver={(e) => e.preventDefault()}
      onDrop={(e) => {
        e.preventDefault();
        const place = dropPlace(e);
        const media = mediaCarried(e.dataTransfer);
        if (media !== null) layMedia(media, place);
        else void importFiles([...e.dataTransfer.files], place);
      }}
    >
      <FloorKeys />
      <AskRate />
      <div
        className="grid h-7.5 shrink-0 border-b"
        style={{ gridTemplateColumns: `${FROM_WIDTH}px 1fr ${TO_WIDTH}px` }}
      >
        <ZoomKeys />
        {placed && <Ruler width={width} />}
        <span className="small flex items-center border-l px-3 text-quiet">to</span>
      </div>
      <Lanes width={width} from={FROM_WIDTH} to={TO_WIDTH} />
      <div
        ref={scroller}
        className="min-h-0 flex-1 overflow-y-auto"
        data-testid="rows"
        onScroll={(e) => setView({ scroll: e.currentTarget.scrollTop, height: e.currentTarget.clientHeight })}
      >
        <div
          className="relative grid"
          style={{ gridTemplateColumns: `${FROM_WIDTH}px ${width}px ${TO_WIDTH}px`, height }}
        >
          <Side rows={seen} side="from" />
          {placed && width > 0 ? (
            <Rows
              width={width}
              rows={rows}
              scroll={view.scroll}
              height={Math.min(view.height, Math.max(1, height - view.scroll))}
              total={height}
            />
          ) : (
            <div />
          )}
          <Side rows={seen} side="to" />
        </div>
        <div className="flex items-center gap-1 p-2">
          <ImportButton>
            <Upload size={14} /> Bring in files
          </ImportButton>
          <LaneMenu />
        </div>
      </div>
    </section>
  );
}

/** The ends of the rows that are in view. */
function Side({ rows, side }: { rows: readonly Row[]; side: 'from' | 'to' }) {
  const doc = useDoc('format');
  const rate = doc.format.sampleRate;
  // Takes of one track at a time are brought level with each other.
  const track = rows.find((r) => r.kind === 'takes')?.track;
  const match = useLevelMatch(side === 'to' ? track : undefined);
  return (
    <div className={clsx('relative', side === 'from' ? 'border-r' : 'border-l')}>
      {rows.map((row) => (
        <div key={rowKey(row)} className="absolute inset-x-0" style={{ top: row.top }}>
          {row.kind === 'lane' && (side === 'from' ? <LaneFrom target={row.target} /> : <LaneTo target={row.target} />)}
          {row.kind === 'track' && (side === 'from' ? <RowFrom id={row.track.id} /> : <RowTo id={row.track.id} />)}
          {row.kind === 'takes' && (side === 'from' ? <TakesFrom row={row} /> : <TakesTo row={row} match={match} />)}
          {row.kind === 'more' && side === 'from' && <MoreTakes row={row} />}
          {row.kind === 'running' &&
            (side === 'from' ? (
              <RunningFrom take={row.running} rate={rate} />
            ) : (
              <RunningTo take={row.running} rate={rate} />
            ))}
        </div>
      ))}
    </div>
  );
}

function ZoomKeys() {
  const doc = useDoc();
  return (
    <span className="small flex items-center gap-1 border-r px-3 text-quiet">
      from
      <span className="ml-auto flex">
        <button aria-label="Closer" title="Closer (=)" className="chip border-0" onClick={() => zoomBy(0.6)}>
          <ZoomIn size={14} />
        </button>
        <button aria-label="Farther" title="Farther (-)" className="chip border-0" onClick={() => zoomBy(1 / 0.6)}>
          <ZoomOut size={14} />
        </button>
        <button
          aria-label="Show everything"
          title="Show everything (F)"
          className="chip border-0"
          onClick={() => fit(0, Math.max(endOf(doc), doc.range.end) * 1.02)}
        >
          <Maximize2 size={13} />
        </button>
      </span>
    </span>
  );
}
