'use client';
import { Plus, Trash2 } from 'lucide-react';
import { nanoid } from 'nanoid';
import { useState } from 'react';
import { edit, useDoc } from '@/client';
import { stemsOf, stemOfTrack } from '@/core/session';
import { layoutOf, type LayoutId } from '@/core/speakers';
import { Choice, StemTag } from '@/parts';

const WIDTHS: LayoutId[] = ['mono', 'stereo', 'lcr', 'quad', '5.0', '5.1', '7.1'];

/** The session's tracks, and a row that makes a new one: named before anything is recorded. */
export function TrackRows() {
  const doc = useDoc();
  return (
    <section aria-label="Tracks" className="flex min-h-0 flex-col">
      <div className="mb-1 flex items-baseline gap-3">
        <h2 className="title">Tracks</h2>
        <span className="small text-quiet">
          {doc.tracks.length === 0 ? 'none yet: name the first below' : 'files inherit their names'}
        </span>
      </div>
      <NewTrackRow />
      <ol className="mt-2 grid min-h-0 grid-cols-3 gap-x-8 overflow-y-auto">
        {doc.tracks.map((t, i) => {
          const stem = stemOfTrack(doc, t.destination);
          return (
            <li key={t.id} className="group flex h-[27px] items-center gap-2 border-b">
              <span className="figure w-[2.5ch] text-right text-quiet">{i + 1}</span>
              <span className="truncate font-[540]">{t.name}</span>
              <span className="small text-quiet">{layoutOf(t.layout).name}</span>
              <button
                aria-label={`Remove ${t.name}`}
                title="Remove the track; its files stay"
                className="ml-auto text-quiet opacity-0 hover:text-stop focus:opacity-100 group-hover:opacity-100"
                onClick={() => edit({ type: 'removeTrack', track: t.id })}
              >
                <Trash2 size={13} />
              </button>
              {stem ? <StemTag bus={stem} /> : <span className="small text-warn">no stem</span>}
            </li>
          );
        })}
      </ol>
    </section>
  );
}

function NewTrackRow() {
  const doc = useDoc();
  const [name, setName] = useState('');
  const [layout, setLayout] = useState<LayoutId>('mono');
  const stems = stemsOf(doc);
  const [to, setTo] = useState(stems[0]?.id ?? 'none');
  const add = () => {
    const id = `track-${nanoid(8)}`;
    if (edit({ type: 'addTrack', id, name: name.trim() || 'unnamed', layout, destination: to === 'none' ? null : to }))
      setName('');
  };
  return (
    <form
      className="flex items-center gap-2"
      onSubmit={(e) => {
        e.preventDefault();
        add();
      }}
    >
      <input
        aria-label="Name of the new track"
        className="field w-[220px]!"
        placeholder="Name, such as Narrator"
        value={name}
        maxLength={60}
        onChange={(e) => setName(e.target.value)}
      />
      <Choice
        label="Width of the new track"
        value={layout}
        options={WIDTHS.map((w) => ({ value: w, label: layoutOf(w).name }))}
        onChange={setLayout}
        className="w-[110px]!"
      />
      <span className="text-quiet">→</span>
      <Choice
        label="Destination of the new track"
        value={to}
        options={[...stems.map((s) => ({ value: s.id, label: s.name })), { value: 'none', label: 'nowhere yet' }]}
        onChange={setTo}
        className="w-[150px]!"
      />
      <button className="btn" disabled={!name.trim()}>
        <Plus size={14} /> Add track
      </button>
    </form>
  );
}
