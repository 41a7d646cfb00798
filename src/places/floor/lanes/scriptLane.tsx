'use client';
import { chooseCue, locate, setStretch, useCue, useDoc, useDocPart } from '@/client';
import { cueState, type CueState } from '@/core/session';
import { Lane, usePlaces, type LaneProps } from './lane';

export const CUE_COLOUR: Record<CueState, string> = {
  open: 'var(--quiet)',
  recorded: 'var(--warn)',
  circled: 'var(--brass)',
  done: 'var(--fine)',
};

/** Words of the script and markers at their times. */
export function ScriptLane(props: LaneProps) {
  const doc = useDoc('cues', 'markers');
  const states = useDocPart((d) => Object.fromEntries(d.cues.map((c) => [c.id, cueState(d, c)])));
  const chosen = useCue((s) => s.chosen);
  const { zoom, x, seen } = usePlaces(props.width);
  return (
    <Lane {...props} label="script" name="Script and markers" height={25}>
      {doc.cues
        .filter((c) => seen(c.start, c.end))
        .map((c) => (
          <button
            key={c.id}
            className="small absolute top-0.75 h-4.5 overflow-hidden whitespace-nowrap rounded-sm border-l-[3px] bg-raised px-1 text-left"
            style={{
              left: x(c.start),
              width: Math.max(4, x(c.end) - x(c.start)),
              borderColor: CUE_COLOUR[states[c.id]!],
              ...(chosen === c.id ? { outline: '1px solid var(--brass)' } : {}),
            }}
            title={`${c.number} ${c.character}: ${c.text}`}
            onClick={() => {
              chooseCue(c.id);
              locate(c.start);
            }}
            onDoubleClick={() => setStretch({ start: c.start, end: c.end })}
          >
            <b className="font-[620]">{c.number}</b> {c.text}
          </button>
        ))}
      {doc.markers
        .filter((m) => seen(m.at, m.at + 200 * zoom))
        .map((m) => (
          <button
            key={m.id}
            className="small absolute top-0 h-6 border-l border-brass pl-1 text-brass"
            style={{ left: x(m.at) }}
            title={`Marker ${m.name}`}
            onClick={() => locate(m.at)}
          >
            {m.name}
          </button>
        ))}
    </Lane>
  );
}
