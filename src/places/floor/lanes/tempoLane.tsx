'use client';
import { locate, useDoc } from '@/client';
import { barMarks, tempoMarks } from './bars';
import { Lane, usePlaces, type LaneProps } from './lane';

/** Least distance of two bar numbers (px). */
const BAR_GAP = 72;

/** Bars and tempo; for sessions in which something goes by them. */
export function TempoLane(props: LaneProps) {
  const doc = useDoc();
  const { zoom, first, last, x } = usePlaces(props.width);
  return (
    <Lane {...props} label="bars" name="Bars and tempo" height={18}>
      {barMarks(doc, first, last, BAR_GAP * zoom).map(({ sample, bar }) => (
        <button
          key={bar}
          className="figure absolute top-0 h-full border-l pl-1 text-tiny leading-4.25 text-quiet"
          style={{ left: x(sample) }}
          title={`To bar ${bar}`}
          onClick={() => locate(sample)}
        >
          {bar}
        </button>
      ))}
      {tempoMarks(doc, first, last).map(({ sample, tempo }) => (
        <span
          key={sample}
          className="figure pointer-events-none absolute top-0.5 rounded-xs bg-raised px-1 text-tiny leading-3.25"
          style={{ left: x(sample) + 20 }}
        >
          {Math.round(tempo * 100) / 100} bpm
        </span>
      ))}
    </Lane>
  );
}
