'use client';
import { ListPlus, Trash2 } from 'lucide-react';
import { nanoid } from 'nanoid';
import { useState } from 'react';
import { edit, useDoc } from '@/client';
import { printRanges } from '@/core/print';
import type { NamedRange, RangesBy } from '@/core/session';
import { formatDuration } from '@/core/units';
import { Choice, Dialog, TextField, TimecodeField } from '@/parts';

const count = (n: number, one: string): string => `${n} ${n === 1 ? one : `${one}s`}`;

/** What is printed: the range alone, or a set of files for each cue, from marker to marker, or for each of a list. */
export function RangeChoice() {
  const doc = useDoc();
  const [listing, setListing] = useState(false);
  const by = doc.printing?.by ?? 'range';
  const set = (to: 'range' | RangesBy) => {
    edit({ type: 'setPrinting', by: to });
    if (to === 'list') setListing(true);
  };
  const ranges = printRanges(doc);
  const seconds = ranges.reduce((sum, r) => sum + r.end - r.start, 0) / doc.format.sampleRate;
  return (
    <span className="small flex items-center text-quiet">
      <Choice
        label="What is printed"
        look="bare"
        value={by}
        onChange={set}
        options={[
          { value: 'range', label: 'the range' },
          { value: 'cues', label: 'each cue', note: count(doc.cues.length, 'cue') },
          { value: 'markers', label: 'from marker to marker', note: count(doc.markers.length, 'marker') },
          { value: 'list', label: 'a list of ranges', note: count(doc.printing?.list?.length ?? 0, 'range') },
        ]}
      />
      {by === 'range' ? (
        <>
          <TimecodeField
            label="Print from"
            sample={doc.range.start}
            onChange={(s) => edit({ type: 'setRange', start: s, end: doc.range.end })}
          />
          →
          <TimecodeField
            label="Print to"
            sample={doc.range.end}
            onChange={(e) => edit({ type: 'setRange', start: doc.range.start, end: e })}
          />
        </>
      ) : (
        <span className="figure px-1 text-text">{count(ranges.length, 'range')},</span>
      )}
      <span className="figure">{formatDuration(seconds)}</span>
      {by === 'list' && (
        <button className="chip ml-2" onClick={() => setListing(true)}>
          Change the list
        </button>
      )}
      {listing && <RangesDialog onClose={() => setListing(false)} />}
    </span>
  );
}

/** The ranges of the list, each with a name that may stand in file names. */
function RangesDialog({ onClose }: { onClose: () => void }) {
  const doc = useDoc();
  const list = doc.printing?.list ?? [];
  const set = (next: NamedRange[]) => edit({ type: 'setPrinting', list: next });
  const change = (id: string, part: Partial<NamedRange>) => set(list.map((r) => (r.id === id ? { ...r, ...part } : r)));
  const add = (from: { name: string; start: number; end: number }[]) =>
    set([...list, ...from.map((r) => ({ id: `range-${nanoid(8)}`, ...r }))]);
  const next = `Reel ${list.length + 1}`;
  return (
    <Dialog
      open
      onClose={onClose}
      wide
      title="Ranges to print"
      note="Each gets its own set of files; {range} in the name pattern tells them apart."
    >
      <table className="w-full" data-testid="ranges">
        <tbody>
          {list.map((r) => (
            <tr key={r.id} className="h-7.25 border-b">
              <td>
                <TextField
                  label={`Name of ${r.name}`}
                  value={r.name}
                  maxLength={40}
                  onChange={(name) => change(r.id, { name })}
                />
              </td>
              <td>
                <TimecodeField
                  label={`${r.name} from`}
                  sample={r.start}
                  onChange={(start) => change(r.id, { start })}
                />
              </td>
              <td>
                <TimecodeField label={`${r.name} to`} sample={r.end} onChange={(end) => change(r.id, { end })} />
              </td>
              <td className="figure text-right text-quiet">
                {formatDuration((r.end - r.start) / doc.format.sampleRate)}
              </td>
              <td className="w-8 text-right">
                <button
                  aria-label={`Take ${r.name} out of the list`}
                  className="text-quiet hover:text-stop"
                  onClick={() => set(list.filter((x) => x.id !== r.id))}
                >
                  <Trash2 size={13} />
                </button>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {list.length === 0 && <p className="text-quiet">No range is listed yet.</p>}
      <div className="mt-3 flex flex-wrap gap-2">
        <button className="btn" onClick={() => add([{ name: next, ...doc.range }])}>
          <ListPlus size={14} /> The session’s range
        </button>
        <button
          className="btn"
          disabled={doc.cues.length === 0}
          onClick={() => add(doc.cues.map(({ number, start, end }) => ({ name: number.slice(0, 40), start, end })))}
        >
          Each cue
        </button>
        <button
          className="btn"
          disabled={doc.markers.length === 0}
          onClick={() => add(printRanges({ ...doc, printing: { by: 'markers' } }))}
        >
          Marker to marker
        </button>
      </div>
    </Dialog>
  );
}
