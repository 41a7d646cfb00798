'use client';
import { Popover } from 'radix-ui';
import { useState, type ReactNode } from 'react';
import { toast } from 'sonner';
import { edit, freeze, thaw, useDoc } from '@/client';
import {
  addStageEdits,
  copyChainEdits,
  destinationEdits,
  EditRefused,
  freezeFault,
  isBus,
  KIND_NAMES,
  levelEdits,
  MONITOR,
  muteEdits,
  placeEdits,
  removeStageEdits,
  renameEdits,
  rowsOfIds,
  sendEdits,
  soloEdits,
  trimEdits,
  type Bus,
  type EditJson,
  type LevelChange,
  type SessionDoc,
  type Track,
} from '@/core/session';
import { STAGE_KINDS, stageKind } from '@/core/stages';
import { parseNumber } from '@/core/units';
import { Choice, Segments } from '@/parts';
import { wantBus } from '../flowState';
import { PICKS } from './rowFacts';
import { pickRows, usePicked } from './picked';

type Rows = readonly (Track | Bus)[];

/** Makes edits of rows as one step of undo; tells what is wrong where they cannot be. */
function make(edits: () => EditJson[], none: string): boolean {
  try {
    const list = edits();
    if (list.length > 0) return edit(...list);
    toast.message(none, { id: 'none' });
  } catch (error) {
    if (!(error instanceof EditRefused)) throw error;
    toast.error(error.message);
  }
  return false;
}

/** What is done with the rows that are picked: every action says to how many it goes, and is one step of undo. */
export function PickBar() {
  const doc = useDoc();
  const { ids } = usePicked();
  const rows = rowsOfIds(doc, ids);
  if (rows.length === 0)
    return (
      <div className="mx-4 flex h-[42px] items-center gap-2 rounded-md border border-dashed px-3">
        <span className="small mr-1 text-quiet">Pick rows by click, Shift or Ctrl; or</span>
        {PICKS.map((p) => (
          <button key={p.label} className="chip" onClick={() => pickRows(p.of(doc))}>
            {p.label}
          </button>
        ))}
      </div>
    );
  const n = rows.length;
  const tracks = rows.filter((r): r is Track => !isBus(r));
  const muted = rows.every((r) => r.muted);
  const soloed = rows.every((r) => r.soloed);
  return (
    <div
      className="mx-4 flex min-h-[42px] flex-wrap items-center gap-1.5 rounded-md border border-brass px-3 py-1"
      role="toolbar"
      aria-label="Actions on the picked rows"
    >
      <b className="mr-1 font-[620] text-brass">{n === 1 ? '1 row picked' : `${n} rows picked`}</b>
      <Level rows={rows} />
      <SendTo doc={doc} rows={rows} />
      <button
        className="btn"
        onClick={() =>
          wantBus({ kind: 'bus', tracks: tracks.map((t) => t.id), buses: rows.filter(isBus).map((b) => b.id) })
        }
      >
        Group {n}…
      </button>
      <Chain doc={doc} rows={rows} />
      <Place rows={rows} />
      <Rename doc={doc} rows={rows} />
      <button className="btn" onClick={() => edit(...muteEdits(rows, !muted))}>
        {muted ? 'Unmute' : 'Mute'} {n}
      </button>
      <button className="btn" onClick={() => edit(...soloEdits(rows, !soloed))}>
        {soloed ? 'Unsolo' : 'Solo'} {n}
      </button>
      <Freeze doc={doc} tracks={tracks} />
      <Remove rows={rows} />
      <button className="btn btn-bare ml-auto" onClick={() => pickRows([])}>
        Let go
      </button>
    </div>
  );
}

function Pop({ label, children }: { label: string; children: (close: () => void) => ReactNode }) {
  const [open, setOpen] = useState(false);
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Trigger className="btn">{label}</Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="start"
          sideOffset={6}
          className="pop flex w-[300px] flex-col gap-2 p-3"
          aria-label={label}
        >
          {children(() => setOpen(false))}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

function Figure({ label, value, onChange }: { label: string; value: string; onChange: (text: string) => void }) {
  return (
    <input
      aria-label={label}
      className="field figure text-right"
      inputMode="decimal"
      value={value}
      onChange={(e) => onChange(e.target.value)}
    />
  );
}

/** A figure as it was typed; null, and the user is told, where it is none. */
function read(text: string): number | null {
  const value = parseNumber(text);
  if (Number.isNaN(value)) toast.error(`"${text}" is no figure. Nothing was changed.`);
  return Number.isNaN(value) ? null : value;
}

function Level({ rows }: { rows: Rows }) {
  const [way, setWay] = useState<LevelChange['way']>('by');
  const [what, setWhat] = useState<'level' | 'trim'>('level');
  const [text, setText] = useState('0');
  const buses = rows.filter(isBus).length;
  return (
    <Pop label="Level…">
      {(close) => (
        <form
          className="flex flex-col gap-2"
          onSubmit={(e) => {
            e.preventDefault();
            const db = read(text);
            if (db === null) return;
            const edits = () => (what === 'level' ? levelEdits : trimEdits)(rows, { way, db });
            if (make(edits, 'None of the rows has a trim.')) close();
          }}
        >
          <Segments
            label="What is set"
            value={what}
            options={[
              { value: 'level', label: 'level' },
              { value: 'trim', label: 'trim before the chain' },
            ]}
            onChange={setWhat}
          />
          <div className="flex items-center gap-2">
            <Segments
              label="How it is set"
              value={way}
              options={[
                { value: 'by', label: 'change by' },
                { value: 'to', label: 'set to' },
              ]}
              onChange={setWay}
            />
            <Figure label="dB" value={text} onChange={setText} />
            <span className="text-quiet">dB</span>
          </div>
          <button className="btn btn-main self-end" disabled={what === 'trim' && buses === 0}>
            For {what === 'trim' ? buses : rows.length}
          </button>
        </form>
      )}
    </Pop>
  );
}

function SendTo({ doc, rows }: { doc: SessionDoc; rows: Rows }) {
  const [way, setWay] = useState<'out' | 'send'>('out');
  const [text, setText] = useState('-12');
  const targets = doc.buses.filter((b) => !rows.includes(b) && (way === 'out' || b.kind !== 'reference'));
  const go = (to: string | null, close: () => void) => {
    const level = way === 'send' ? read(text) : 0;
    if (level === null) return;
    const edits = () => (way === 'out' ? destinationEdits(rows, to) : sendEdits(rows, to!, level));
    if (make(edits, 'All of them are sent there already.')) close();
  };
  return (
    <Pop label="Send to…">
      {(close) => (
        <>
          <div className="flex items-center gap-2">
            <Segments
              label="How it is led"
              value={way}
              options={[
                { value: 'out', label: 'lead there' },
                { value: 'send', label: 'add a send' },
              ]}
              onChange={setWay}
            />
            {way === 'send' && <Figure label="Level of the sends, dB" value={text} onChange={setText} />}
          </div>
          <div className="max-h-[240px] overflow-auto">
            {targets.map((b) => (
              <button key={b.id} className="menu-item w-full text-left" onClick={() => go(b.id, close)}>
                {b.name} <span className="small ml-auto text-quiet">{KIND_NAMES[b.kind]}</span>
              </button>
            ))}
            {way === 'out' && (
              <>
                <button className="menu-item w-full text-left" onClick={() => go(MONITOR, close)}>
                  Monitor only
                </button>
                <button className="menu-item w-full text-left" onClick={() => go(null, close)}>
                  Nowhere
                </button>
              </>
            )}
          </div>
          <span className="small text-quiet">
            {rows.length === 1 ? 'For 1 row' : `For ${rows.length} rows`}, one step of undo
          </span>
        </>
      )}
    </Pop>
  );
}

function Chain({ doc, rows }: { doc: SessionDoc; rows: Rows }) {
  const [type, setType] = useState('limiter');
  const kind = stageKind(type);
  const first = kind.params.find((p) => !p.choices);
  const [text, setText] = useState<string | null>(null);
  const [from, setFrom] = useState('');
  const withChain = [...doc.tracks, ...doc.buses].filter((n) => n.chain.length > 0);
  const source = withChain.find((n) => n.id === from) ?? withChain[0];
  const n = rows.length;
  const add = (close: () => void) => {
    const value = text === null || !first ? null : read(text);
    if (text !== null && first && value === null) return;
    const values = first && value !== null ? { [first.id]: value } : {};
    if (make(() => addStageEdits(rows, type, values), '')) close();
  };
  return (
    <Pop label="Chain…">
      {(close) => (
        <>
          <div className="flex items-center gap-2">
            <Choice
              label="Stage"
              value={type}
              options={STAGE_KINDS.map((k) => ({ value: k.type, label: k.name }))}
              onChange={(t) => {
                setType(t);
                setText(null);
              }}
            />
            {first && (
              <Figure
                label={`${first.label} ${first.unit}`.trim()}
                value={text ?? first.default.toFixed(first.digits ?? 1)}
                onChange={setText}
              />
            )}
            <span className="text-quiet">{first?.unit}</span>
          </div>
          <div className="flex gap-2">
            <button className="btn btn-main" onClick={() => add(close)}>
              Add to {n}
            </button>
            <button
              className="btn"
              onClick={() =>
                make(() => removeStageEdits(rows, type), `None of them has a ${kind.name.toLowerCase()}.`) && close()
              }
            >
              Take out of {n}
            </button>
          </div>
          {source && (
            <div className="flex flex-col gap-2 border-t pt-2">
              <Choice
                label="Chain of"
                value={source.id}
                options={withChain.map((b) => ({ value: b.id, label: `Chain of ${b.name}` }))}
                onChange={setFrom}
              />
              <div className="flex gap-2">
                {(['replace', 'append'] as const).map((way) => (
                  <button
                    key={way}
                    className="btn"
                    onClick={() =>
                      make(() => copyChainEdits(source, rows, way), 'That is the only row picked.') && close()
                    }
                  >
                    {way === 'replace' ? 'In the place of theirs' : 'Behind theirs'}
                  </button>
                ))}
              </div>
            </div>
          )}
        </>
      )}
    </Pop>
  );
}

function Place({ rows }: { rows: Rows }) {
  const [azimuth, setAzimuth] = useState('0');
  const [distance, setDistance] = useState('1');
  return (
    <Pop label="Place…">
      {(close) => (
        <form
          className="flex flex-col gap-2"
          onSubmit={(e) => {
            e.preventDefault();
            const [a, d] = [read(azimuth), read(distance)];
            if (a === null || d === null) return;
            if (
              make(() => placeEdits(rows, { azimuth: a, distance: d }), 'None of them is mono or stereo with a place.')
            )
              close();
          }}
        >
          <label className="flex items-center gap-2">
            <span className="w-[90px] text-quiet">azimuth °</span>
            <Figure label="Azimuth, degrees, positive to the left" value={azimuth} onChange={setAzimuth} />
          </label>
          <label className="flex items-center gap-2">
            <span className="w-[90px] text-quiet">distance</span>
            <Figure label="Distance, 0 to 1" value={distance} onChange={setDistance} />
          </label>
          <button className="btn btn-main self-end">Place {placeEdits(rows, {}).length}</button>
        </form>
      )}
    </Pop>
  );
}

function Rename({ doc, rows }: { doc: SessionDoc; rows: Rows }) {
  const [pattern, setPattern] = useState('{name}');
  return (
    <Pop label="Rename…">
      {(close) => (
        <form
          className="flex flex-col gap-2"
          onSubmit={(e) => {
            e.preventDefault();
            if (make(() => renameEdits(doc, rows, pattern), '')) close();
          }}
        >
          <input
            aria-label="Pattern of the names"
            className="field"
            value={pattern}
            onChange={(e) => setPattern(e.target.value)}
          />
          <span className="small text-quiet">{'{name}: the old name; {n}, {nn}: a number'}</span>
          <button className="btn btn-main self-end">Rename {rows.length}</button>
        </form>
      )}
    </Pop>
  );
}

function Freeze({ doc, tracks }: { doc: SessionDoc; tracks: readonly Track[] }) {
  const [left, setLeft] = useState<number | null>(null);
  if (tracks.length === 0) return null;
  const frozen = tracks.every((t) => t.frozen);
  const run = async () => {
    if (frozen) {
      tracks.forEach((t) => thaw(t.id));
      return;
    }
    const able = tracks.filter((t) => !t.frozen && freezeFault(doc, t) === null);
    const not = tracks.filter((t) => !t.frozen && freezeFault(doc, t) !== null);
    if (not.length > 0) toast.warning(`Not frozen: ${not.map((t) => `${t.name} (${freezeFault(doc, t)})`).join('; ')}`);
    try {
      for (const [i, t] of able.entries()) {
        setLeft(able.length - i);
        await freeze(t.id);
      }
    } catch (error) {
      toast.error((error as Error).message);
    } finally {
      setLeft(null);
    }
  };
  return (
    <button className="btn" disabled={left !== null} onClick={() => void run()}>
      {left !== null ? `Freezing, ${left} to go` : `${frozen ? 'Thaw' : 'Freeze'} ${tracks.length}`}
    </button>
  );
}

function Remove({ rows }: { rows: Rows }) {
  const edits = rows.map((r): EditJson =>
    isBus(r) ? { type: 'removeBus', bus: r.id } : { type: 'removeTrack', track: r.id },
  );
  return (
    <Pop label="Remove…">
      {(close) => (
        <>
          <p>
            {rows.length === 1 ? rows[0]!.name : `${rows.length} rows`} will be taken out of the session. Files stay in
            its folder; what went through a bus goes on to where it went. One undo brings all of it back.
          </p>
          <button
            className="btn btn-main self-end"
            onClick={() => {
              if (!edit(...edits)) return;
              pickRows([]);
              close();
            }}
          >
            Remove {rows.length}
          </button>
        </>
      )}
    </Pop>
  );
}
