'use client';
import { clsx } from 'clsx';
import { ClipboardPaste, GripVertical, Plus, Trash2 } from 'lucide-react';
import { nanoid } from 'nanoid';
import { useMemo, useState } from 'react';
import { edit, useDoc, useLayouts } from '@/client';
import { charactersOf, listOfNames, MOST_TRACKS, namesText, planRows, stemsOf, type BuilderRow } from '@/core/session';
import { Choice, Dialog, NumberField, SortableList, TextField } from '@/parts';
import { newRow, useBuilderRows } from './builderRows';
import { PlannedList } from './plannedList';

const KINDS: { value: BuilderRow['kind']; label: string; note: string }[] = [
  { value: 'recording', label: 'recording', note: 'a track that takes lines, takes and clips' },
  { value: 'stem', label: 'stem', note: 'a bus that is handed over' },
  { value: 'bus', label: 'bus', note: 'a bus in between' },
  { value: 'return', label: 'effect return', note: 'what comes back from an effect' },
];

const COLUMNS =
  'grid min-w-167.5 grid-cols-[20px_58px_86px_108px_62px_minmax(120px,1fr)_140px_24px] items-center gap-x-1.5';

/** Rows that make many tracks and buses at once, with the list they would give beside them. */
export function TrackBuilder() {
  const doc = useDoc();
  const layouts = useLayouts();
  const [rows, setRows] = useBuilderRows();
  const [pasting, setPasting] = useState(false);
  const planned = useMemo(() => planRows(doc, rows), [doc, rows]);
  const characters = charactersOf(doc);
  const nameless = rows.filter((r) => !r.names.trim()).length;
  const taken = planned.filter((p) => p.taken).length;
  const set = (id: string, part: Partial<BuilderRow>) =>
    setRows((all) => all.map((r) => (r.id === id ? { ...r, ...part } : r)));
  const make = () => {
    const tracks = planned.map(({ name, layout, kind, anchor, destination }) => ({
      id: `${kind === 'recording' ? 'track' : 'bus'}-${nanoid(8)}`,
      name,
      layout,
      kind,
      anchor,
      destination,
    }));
    if (edit({ type: 'addTracks', tracks })) setRows([newRow()]);
  };
  return (
    <div className="grid min-h-0 flex-1 grid-cols-[minmax(0,1.65fr)_minmax(0,1fr)] gap-6">
      <section aria-label="Tracks in one go" className="flex min-h-0 flex-col">
        <SortableList
          label="Rows"
          className="flex min-h-0 flex-col gap-1.5 overflow-auto"
          ids={rows.map((r) => r.id)}
          onOrder={(ids) => setRows(ids.map((id) => rows.find((r) => r.id === id)!))}
        >
          {(id, handle) => {
            const row = rows.find((r) => r.id === id)!;
            const at = rows.indexOf(row) + 1;
            return (
              <div className={clsx(COLUMNS, 'rounded-md border bg-panel px-2 py-1')} data-builder-row>
                <button
                  {...handle}
                  aria-label={`Move row ${at}`}
                  title="Drag, or Space and arrow keys"
                  className="text-quiet/60"
                >
                  <GripVertical size={13} />
                </button>
                <NumberField
                  label={`How many, row ${at}`}
                  value={row.count}
                  unit="×"
                  min={1}
                  max={MOST_TRACKS}
                  step={1}
                  digits={0}
                  onChange={(count) => set(id, { count: Math.round(count) })}
                />
                <Choice
                  label={`Width, row ${at}`}
                  look="bare"
                  value={row.layout}
                  options={layouts.map((l) => ({ value: l.id, label: l.name }))}
                  onChange={(layout) => set(id, { layout })}
                />
                <Choice
                  label={`Kind, row ${at}`}
                  look="bare"
                  value={row.kind}
                  options={KINDS}
                  onChange={(kind) => set(id, { kind, destination: kind === 'recording' ? 'width' : 'ref' })}
                />
                <Choice
                  label={`Anchor, row ${at}`}
                  look="bare"
                  value={row.anchor}
                  options={[
                    { value: 'time', label: 'time', note: 'clips keep their time' },
                    { value: 'music', label: 'music', note: 'clips follow the tempo map' },
                  ]}
                  onChange={(anchor) => set(id, { anchor })}
                />
                <TextField
                  label={`Names, row ${at}`}
                  title="Names by commas, or a pattern: Voice {n}, Scene {nn}"
                  placeholder="Narrator, Pilot or Voice {nn}"
                  value={row.names}
                  maxLength={4000}
                  mayBeEmpty
                  className="w-full border-line! font-[540]"
                  onChange={(names) =>
                    set(id, { names, count: Math.max(row.count, Math.min(MOST_TRACKS, listOfNames(names).length)) })
                  }
                />
                <Destination row={row} at={at} onChange={(destination) => set(id, { destination })} />
                <button
                  aria-label={`Remove row ${at}`}
                  title="Remove the row"
                  className="text-quiet hover:text-stop disabled:opacity-30"
                  disabled={rows.length === 1}
                  onClick={() => setRows(rows.filter((r) => r.id !== id))}
                >
                  <Trash2 size={13} />
                </button>
              </div>
            );
          }}
        </SortableList>
        <div className="mt-2 flex flex-wrap items-center gap-2">
          <button className="btn btn-bare -ml-2" data-action="brief.row" onClick={() => setRows([...rows, newRow()])}>
            <Plus size={14} /> Row
          </button>
          <button className="btn btn-bare" data-action="brief.list" onClick={() => setPasting(true)}>
            <ClipboardPaste size={14} /> From a list
          </button>
          <button
            className="btn btn-bare"
            disabled={doc.lines.length === 0}
            data-action="brief.from-lines"
            title="One mono track for each line of the line sheet"
            onClick={() =>
              setRows([...rows, newRow({ names: namesText(doc.lines.map((l) => l.name)), count: doc.lines.length })])
            }
          >
            From the line sheet
          </button>
          <button
            className="btn btn-bare"
            disabled={characters.length === 0}
            data-action="brief.from-script"
            title="One mono track for each who speaks in the script"
            onClick={() => setRows([...rows, newRow({ names: namesText(characters), count: characters.length })])}
          >
            From the script
          </button>
          <span className="small ml-auto text-quiet" role="status">
            {taken > 0
              ? `${taken} ${taken === 1 ? 'name is' : 'names are'} taken already`
              : nameless > 0
                ? 'a row without a name gives “unnamed”'
                : ''}
          </span>
          <button className="btn btn-main" data-action="brief.make" disabled={planned.length === 0} onClick={make}>
            Make {planned.length} {planned.length === 1 ? 'track' : 'tracks'}
          </button>
        </div>
      </section>
      <PlannedList planned={planned} />
      <PasteList
        open={pasting}
        onClose={() => setPasting(false)}
        onNames={(names) =>
          setRows([...rows.filter((r) => r.names.trim()), newRow({ names: namesText(names), count: names.length })])
        }
      />
    </div>
  );
}

function Destination({ row, at, onChange }: { row: BuilderRow; at: number; onChange: (to: string | null) => void }) {
  const doc = useDoc();
  const usual = doc.destinations[row.layout];
  const name = (id: string) => doc.buses.find((b) => b.id === id)?.name ?? id;
  const buses = row.kind === 'recording' ? stemsOf(doc) : doc.buses.filter((b) => b.kind !== 'stem');
  return (
    <Choice
      label={`Destination, row ${at}`}
      look="bare"
      value={row.destination ?? 'none'}
      options={[
        { value: 'width', label: usual ? `→ ${name(usual)}` : '→ nowhere yet', note: 'default of the width' },
        ...buses.map((b) => ({ value: b.id, label: `→ ${b.name}` })),
        { value: 'none', label: '→ nowhere yet' },
      ]}
      onChange={(v) => onChange(v === 'none' ? null : v)}
    />
  );
}

function PasteList({
  open,
  onClose,
  onNames,
}: {
  open: boolean;
  onClose: () => void;
  onNames: (names: string[]) => void;
}) {
  const [text, setText] = useState('');
  const names = listOfNames(text);
  return (
    <Dialog
      open={open}
      onClose={onClose}
      title="Names from a list"
      note="One name a line, or separated by commas, semicolons or tabs."
    >
      <textarea
        autoFocus
        aria-label="Names"
        className="field h-45 w-full resize-none"
        value={text}
        onChange={(e) => setText(e.target.value)}
        onKeyDown={(e) => e.stopPropagation()}
      />
      <div className="mt-3 flex items-center justify-between">
        <span className="small text-quiet">{names.length} names</span>
        <button
          className="btn btn-main"
          disabled={names.length === 0}
          onClick={() => {
            onNames(names);
            setText('');
            onClose();
          }}
        >
          Make a row of them
        </button>
      </div>
    </Dialog>
  );
}
