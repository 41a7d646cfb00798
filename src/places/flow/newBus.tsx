'use client';
import { nanoid } from 'nanoid';
import { useEffect, useState } from 'react';
import { edit, select, useDoc, useLayouts } from '@/client';
import type { BusKind } from '@/core/paths';
import { proposedLayout } from '@/core/session';
import type { LayoutId } from '@/core/speakers';
import { Choice, Dialog, Segments } from '@/parts';
import { setFlow, useFlow, type BusWanted } from './flowState';

const KINDS: readonly { value: BusKind; label: string; means: string }[] = [
  { value: 'stem', label: 'Stem', means: 'It feeds the reference and gets a file of its own.' },
  { value: 'bus', label: 'Group', means: 'It gathers sources and leads on to a stem.' },
  { value: 'return', label: 'Return', means: 'It carries an effect; sounds are sent to it beside their way.' },
  { value: 'reference', label: 'Reference', means: 'The sum of the stems, printed beside the one there is.' },
];

/** Makes and names any bus; what it is made for goes there in the same step. */
export function NewBus() {
  const wanted = useFlow((s) => s.wanted);
  return wanted && <NewBusDialog wanted={wanted} />;
}

function NewBusDialog({ wanted }: { wanted: BusWanted }) {
  const doc = useDoc();
  const layouts = useLayouts();
  const [name, setName] = useState('');
  const [kind, setKind] = useState(wanted.kind);
  const sources = [...wanted.tracks, ...wanted.buses];
  const proposed = proposedLayout(doc, kind, sources);
  const [layout, setLayout] = useState<LayoutId>(proposed);
  useEffect(() => setLayout(proposed), [proposed]);
  const done = () => setFlow({ wanted: null });
  const names = [...doc.tracks, ...doc.buses].filter((n) => sources.includes(n.id)).map((n) => n.name);
  const make = () => {
    const id = `${kind}-${nanoid(6)}`;
    if (!edit({ type: 'addBus', id, name: name.trim(), kind, layout, ...(kind === 'reference' ? {} : { sources }) }))
      return;
    select({ kind: 'bus', id });
    done();
  };
  const means = KINDS.find((k) => k.value === kind)!.means;
  return (
    <Dialog
      open
      onClose={done}
      title="New bus"
      note={
        names.length === 0 || kind === 'reference'
          ? means
          : `${means} ${names.join(', ')} ${kind === 'return' ? (names.length === 1 ? 'is sent to it at -12 dB.' : 'are sent to it at -12 dB.') : names.length === 1 ? 'goes there.' : 'go there.'}`
      }
    >
      <form
        className="flex flex-col gap-3"
        onSubmit={(e) => {
          e.preventDefault();
          make();
        }}
      >
        <Segments
          label="Kind of the bus"
          value={kind}
          options={KINDS.filter((k) => k.value !== 'reference' || wanted.tracks.length === 0)}
          onChange={setKind}
        />
        <div className="flex gap-2">
          <input
            autoFocus
            aria-label="Name of the new bus"
            className="field min-w-0 flex-1"
            placeholder={kind === 'return' ? 'Name, such as Harbour air' : 'Name, such as Bells'}
            maxLength={40}
            value={name}
            onChange={(e) => setName(e.target.value)}
          />
          <Choice
            label="Layout of the bus"
            className="w-26 shrink-0"
            value={layout}
            options={layouts.map((l) => ({ value: l.id, label: l.name }))}
            onChange={setLayout}
          />
          <button className="btn btn-main" disabled={!name.trim()}>
            Make
          </button>
        </div>
      </form>
    </Dialog>
  );
}
