'use client';
import { clsx } from 'clsx';
import { ClipboardCopy, ClipboardPaste, Printer, Tags } from 'lucide-react';
import { useState } from 'react';
import { toast } from 'sonner';
import { edit, select, useDevices, useDoc } from '@/client';
import { lineSheetTable, readLineSheet } from '@/core/exchange';
import { lineId, MICROPHONE_KINDS, type EditJson, type Line, SHEET_PARAMS } from '@/core/session';
import { Choice, Dialog, fieldOf, NumberField, TextField } from '@/parts';

const COLUMNS =
  'grid min-w-270 grid-cols-[3ch_minmax(100px,1fr)_minmax(90px,0.9fr)_100px_minmax(90px,1fr)_44px_62px_30px_50px_76px_124px_minmax(90px,1fr)_minmax(70px,0.7fr)] items-center gap-x-2';

/** Which microphone stands on which line, and how it is set; to and from a spreadsheet. */
export function LineSheetTable() {
  const doc = useDoc('lines', 'tracks');
  const { list, shown } = useDevices();
  const device = list.find((d) => d.id === shown) ?? list[0]!;
  const [pasting, setPasting] = useState(false);
  const lines = doc.lines.filter((l) => l.device === device.id).sort((a, b) => a.channel - b.channel);
  const missing = device.lines.flatMap((name, channel): EditJson[] =>
    lines.some((l) => l.channel === channel)
      ? []
      : [
          {
            type: 'addLine',
            device: device.id,
            channel,
            name,
            ...(device.sheets[channel] ? { sheet: device.sheets[channel] } : {}),
          },
        ],
  );
  const copy = () =>
    void navigator.clipboard.writeText(lineSheetTable(lines)).then(
      () => toast.success(`${lines.length} lines copied as a table.`),
      () =>
        toast.error('The browser does not give the clipboard here; use Paste from a spreadsheet the other way round.'),
    );
  return (
    <section aria-label="Line sheet" className="flex min-h-0 flex-1 flex-col px-4 pt-2" data-print>
      <div className="mb-2 flex gap-2">
        {missing.length > 0 && (
          <button className="btn" data-action="lineup.all-lines" onClick={() => edit(...missing)}>
            Write down all {device.lines.length} lines
          </button>
        )}
        <button className="btn btn-bare" data-action="lineup.copy" disabled={lines.length === 0} onClick={copy}>
          <ClipboardCopy size={14} /> Copy as a table
        </button>
        <button
          className="btn btn-bare"
          data-action="lineup.paste"
          disabled={lines.length === 0}
          onClick={() => setPasting(true)}
        >
          <ClipboardPaste size={14} /> From a spreadsheet
        </button>
        <button
          className="btn btn-bare"
          data-action="lineup.print"
          disabled={lines.length === 0}
          onClick={() => window.print()}
        >
          <Printer size={14} /> Print
        </button>
        <button
          className="btn btn-bare"
          disabled={!doc.tracks.some((t) => t.inputs.every((l) => l !== null))}
          data-action="lineup.names"
          title="Patched tracks take the names of their lines"
          onClick={() => edit({ type: 'nameTracksByLines' })}
        >
          <Tags size={14} /> Name tracks by their lines
        </button>
      </div>
      <div className="min-h-0 flex-1 overflow-auto">
        <div className={clsx(COLUMNS, 'small border-b pb-1 text-quiet')}>
          <span>#</span>
          <span>name</span>
          <span>position</span>
          <span>microphone</span>
          <span>model</span>
          <span>48 V</span>
          <span className="text-right">pad</span>
          <span>ø</span>
          <span>low cut</span>
          <span className="text-right">gain</span>
          <span>recorded</span>
          <span>note</span>
          <span>track</span>
        </div>
        <ol>
          {lines.map((l) => (
            <Row key={l.id} line={l} />
          ))}
        </ol>
      </div>
      {lines.length === 0 && (
        <p className="small mt-2 text-quiet">
          No line of {device.name} is written down yet. Lines are written down when they are patched, too.
        </p>
      )}
      <PasteDialog open={pasting} onClose={() => setPasting(false)} device={device.id} lines={lines} />
    </section>
  );
}

function Row({ line }: { line: Line }) {
  const doc = useDoc('tracks');
  const { sheet } = line;
  const set = (part: Omit<Extract<EditJson, { type: 'setLine' }>, 'type' | 'line'>) =>
    edit({ type: 'setLine', line: line.id, ...part });
  const tick = (label: string, on: boolean, change: (on: boolean) => void, alarm = false) => (
    <input
      type="checkbox"
      aria-label={`${label} of ${line.name}`}
      checked={on}
      className={
        alarm
          ? 'justify-self-start outline-2 outline-offset-1 outline-stop accent-(--brass)'
          : 'justify-self-start accent-(--brass)'
      }
      onChange={(e) => change(e.target.checked)}
    />
  );
  const tracks = doc.tracks.filter((t) => t.inputs.includes(lineId(line.device, line.channel)));
  return (
    <li
      className={clsx(COLUMNS, 'h-7.75 border-b')}
      data-line-row={line.id}
      onFocus={() => select({ kind: 'line', id: line.id })}
    >
      <span className="figure text-quiet">{line.channel + 1}</span>
      <TextField
        label={`Name of line ${line.channel + 1}`}
        value={line.name}
        maxLength={60}
        className="font-[560]"
        onChange={(name) => set({ name })}
      />
      <TextField
        label={`Position of ${line.name}`}
        value={sheet.position}
        placeholder="–"
        mayBeEmpty
        onChange={(position) => set({ position })}
      />
      <Choice
        label={`Microphone of ${line.name}`}
        look="bare"
        value={sheet.kind}
        options={MICROPHONE_KINDS.map((k) => ({ value: k, label: k }))}
        onChange={(kind) => set({ kind })}
      />
      <TextField
        label={`Model of ${line.name}`}
        value={sheet.model ?? ''}
        placeholder="–"
        mayBeEmpty
        className="text-quiet"
        onChange={(model) => set({ model })}
      />
      {tick('48 V', sheet.phantom, (phantom) => set({ phantom }), sheet.kind === 'condenser' && !sheet.phantom)}
      <NumberField
        label={`Pad of ${line.name}`}
        value={sheet.pad}
        {...fieldOf(SHEET_PARAMS.pad)}
        className="justify-self-end"
        onChange={(pad) => set({ pad })}
      />
      {tick('Reversed polarity', sheet.inverted, (inverted) => set({ inverted }))}
      {tick('Low cut', sheet.lowCut, (lowCut) => set({ lowCut }))}
      <NumberField
        label={`Gain of ${line.name}`}
        value={sheet.gain}
        {...fieldOf(SHEET_PARAMS.gain)}
        className="justify-self-end"
        onChange={(gain) => set({ gain })}
      />
      <Choice
        label={`What is recorded of ${line.name}`}
        look="bare"
        className="small"
        value={line.record}
        options={[
          { value: 'both', label: 'processed + dry' },
          { value: 'processed', label: 'processed' },
          { value: 'dry', label: 'dry' },
        ]}
        onChange={(record) => set({ record })}
      />
      <TextField
        label={`Note on ${line.name}`}
        value={sheet.note ?? ''}
        placeholder="–"
        mayBeEmpty
        maxLength={500}
        className="small text-quiet"
        onChange={(note) => set({ note })}
      />
      <span className="small truncate text-quiet">{tracks.map((t) => t.name).join(', ') || '–'}</span>
    </li>
  );
}

/** The line that an edit is about, by the name that it has or gets. */
function nameOf(edit: EditJson, lines: readonly Line[]): string {
  if (edit.type !== 'setLine') return '';
  const line = lines.find((l) => l.id === edit.line);
  return `${line ? line.channel + 1 : ''} ${edit.name ?? line?.name ?? ''}`.trim();
}

function PasteDialog({
  open,
  onClose,
  device,
  lines,
}: {
  open: boolean;
  onClose: () => void;
  device: string;
  lines: readonly Line[];
}) {
  const [text, setText] = useState('');
  const { edits, faults } = text.trim() ? readLineSheet(text, device, lines) : { edits: [], faults: [] };
  return (
    <Dialog
      open={open}
      onClose={onClose}
      title="Line sheet from a spreadsheet"
      note="Paste rows with their headings; Copy as a table shows the form."
      wide
    >
      <textarea
        autoFocus
        aria-label="Table"
        className="field figure h-50 w-full resize-none"
        value={text}
        onChange={(e) => setText(e.target.value)}
        onKeyDown={(e) => e.stopPropagation()}
      />
      {faults.length > 0 && (
        <>
          <p className="mt-2 text-warn">
            Not to be placed: {faults.length}. Nothing of it is written{edits.length > 0 ? '; the rest can be' : ''}.
          </p>
          <ul role="alert" className="small max-h-30 list-disc overflow-auto pl-5 text-warn">
            {faults.map((f) => (
              <li key={f}>{f}</li>
            ))}
          </ul>
        </>
      )}
      {edits.length > 0 && (
        <p className="small mt-2 text-quiet">
          To be written: {edits.map((e) => nameOf(e, lines)).join(', ')}. One undo takes all of it back.
        </p>
      )}
      <div className="mt-3 flex justify-end">
        <button
          className="btn btn-main"
          disabled={edits.length === 0}
          onClick={() => {
            if (!edit(...edits)) return;
            setText('');
            onClose();
          }}
        >
          Take {edits.length} {edits.length === 1 ? 'line' : 'lines'}
        </button>
      </div>
    </Dialog>
  );
}
