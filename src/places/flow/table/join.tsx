import { nanoid } from 'nanoid';
import { useState } from 'react';
import { useLayouts } from '@/client';
import { commonName, isBus, speakersFor, type Bus, type SessionDoc } from '@/core/session';
import { layoutOf, type LayoutId } from '@/core/speakers';
import { Choice } from '@/parts';
import { make, Pop, type Rows } from './actionParts';

/** Mono buses become one bus of a layout, each in a speaker of its own. */
export function Join({ doc, rows }: { doc: SessionDoc; rows: Rows }) {
  const buses = rows.filter((r): r is Bus => isBus(r) && r.kind === 'bus' && r.layout === 'mono');
  if (buses.length < 2 || buses.length !== rows.length) return null;
  return <Pop label={`Join ${buses.length}…`}>{(close) => <JoinForm doc={doc} buses={buses} close={close} />}</Pop>;
}

function JoinForm({ doc, buses, close }: { doc: SessionDoc; buses: Bus[]; close: () => void }) {
  const layouts = useLayouts().filter((l) => l.speakers.length >= buses.length);
  const fitting = layouts.find((l) => l.speakers.length === buses.length) ?? layouts[0];
  const [layout, setLayout] = useState<LayoutId>(
    layoutOf(doc.format.layout).speakers.length === buses.length ? doc.format.layout : fitting!.id,
  );
  const [name, setName] = useState(() => commonName(buses.map((b) => b.name)));
  const names = buses.map((b) => b.name);
  const speakers = speakersFor(layoutOf(layout), names);
  return (
    <>
      <div className="flex items-center gap-2">
        <input
          aria-label="Name of the joined bus"
          placeholder="Name"
          className="field min-w-0 flex-1"
          maxLength={40}
          value={name}
          onChange={(e) => setName(e.target.value)}
        />
        <Choice
          label="Layout of the joined bus"
          value={layout}
          options={layouts.map((l) => ({ value: l.id, label: l.name }))}
          onChange={setLayout}
        />
      </div>
      <ul className="small max-h-50 overflow-auto text-quiet" aria-label="Speakers of the joined buses">
        {buses.map((b, i) => (
          <li key={b.id} className="flex justify-between gap-3">
            <span className="truncate">{b.name}</span>
            <span className="figure">{speakers[i] ?? 'none left'}</span>
          </li>
        ))}
      </ul>
      <button
        className="btn btn-main self-end"
        onClick={() =>
          make(
            () => [{ type: 'joinBuses', buses: buses.map((b) => b.id), id: `bus-${nanoid(8)}`, name, layout }],
            '',
          ) && close()
        }
      >
        Join {buses.length}
      </button>
    </>
  );
}
