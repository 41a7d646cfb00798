'use client';
import { clsx } from 'clsx';
import { Fragment, useMemo, useRef, useState, type KeyboardEvent } from 'react';
import { select, useDevices, useDoc, type DeviceState, deviceKey } from '@/client';
import { lineId, patchEdits, type SessionDoc, type Track } from '@/core/session';
import { layoutOf } from '@/core/speakers';
import { Meter } from '@/parts';
import { patchTold, unpatch } from './patching';

interface Column {
  track: Track;
  channel: number;
  label: string;
  first: boolean;
}

interface LineRow {
  id: string;
  device: DeviceState;
  channel: number;
  name: string;
}

const columnsOf = (doc: SessionDoc): Column[] =>
  doc.tracks.flatMap((track) =>
    layoutOf(track.layout).speakers.map(({ label }, channel, all) => ({
      track,
      channel,
      label: all.length > 1 ? label : '',
      first: channel === 0,
    })),
  );

const rowsOf = (doc: SessionDoc, list: readonly DeviceState[]): LineRow[] =>
  list.flatMap((device) =>
    device.lines.map((given, channel): LineRow => {
      const id = lineId(device.id, channel);
      return { id, device, channel, name: doc.lines.find((l) => l.id === id)?.name ?? given };
    }),
  );

/** What a press of a cell means: the line goes to the channel, or comes out of it. */
function press(doc: SessionDoc, { id, device, channel: line }: LineRow, { track, channel }: Column): void {
  if (track.inputs[channel] === id) unpatch(track.id, channel);
  else patchTold(doc, patchEdits(doc, device, line, track.id, channel));
}

/** All lines of all devices against all channels of all tracks: a dot where one feeds the other. */
export function PatchTable() {
  const doc = useDoc();
  const list = useDevices((s) => s.list);
  const columns = useMemo(() => columnsOf(doc), [doc]);
  const rows = useMemo(() => rowsOf(doc, list), [doc, list]);
  const [at, setAt] = useState({ row: 0, column: 0 });
  const table = useRef<HTMLTableElement>(null);
  const here = { row: Math.min(at.row, rows.length - 1), column: Math.min(at.column, columns.length - 1) };
  const go = (row: number, column: number) => {
    const next = {
      row: Math.max(0, Math.min(rows.length - 1, row)),
      column: Math.max(0, Math.min(columns.length - 1, column)),
    };
    setAt(next);
    const cell = table.current?.querySelector<HTMLElement>(`[data-cell="${next.row} ${next.column}"]`);
    cell?.focus();
    cell?.scrollIntoView({ block: 'nearest', inline: 'nearest' });
  };
  const keys = (e: KeyboardEvent) => {
    const by = { ArrowLeft: [0, -1], ArrowRight: [0, 1], ArrowUp: [-1, 0], ArrowDown: [1, 0] }[e.key];
    if (by) go(here.row + by[0]!, here.column + by[1]!);
    else if (e.key === 'Enter' || e.key === ' ') press(doc, rows[here.row]!, columns[here.column]!);
    else return;
    e.preventDefault();
    e.stopPropagation();
  };
  if (columns.length === 0) return <p className="small p-4 text-quiet">Tracks are made in the Brief.</p>;
  return (
    <div className="min-h-0 flex-1 overflow-auto px-4 pb-2" data-testid="patch-table">
      <table ref={table} role="grid" aria-label="Patch of all devices" className="border-separate border-spacing-0">
        <thead className="sticky top-0 z-2 bg-ground">
          <tr>
            <th className="sticky left-0 z-3 min-w-57.5 bg-ground" />
            {doc.tracks.map((t) => (
              <th
                key={t.id}
                scope="colgroup"
                colSpan={t.inputs.length}
                className="small border-l px-1 pb-0.5 text-left font-[560]"
                title={t.name}
              >
                <span
                  className={clsx('block truncate', t.armed && 'text-rec')}
                  style={{ maxWidth: Math.max(58, t.inputs.length * 26) }}
                >
                  {t.name}
                </span>
              </th>
            ))}
          </tr>
          <tr>
            <th className="sticky left-0 z-3 border-b bg-ground" />
            {columns.map((c) => (
              <th
                key={`${c.track.id} ${c.channel}`}
                className={clsx('figure border-b pb-1 text-center text-tiny text-quiet', c.first && 'border-l')}
              >
                {c.label}
              </th>
            ))}
          </tr>
        </thead>
        <tbody onKeyDown={keys}>
          {rows.map((row, r) => (
            <Fragment key={row.id}>
              {row.channel === 0 && (
                <tr>
                  <th scope="rowgroup" className="small sticky left-0 z-1 bg-ground pb-0.5 pt-2.5 text-left font-[580]">
                    {row.device.name}
                    <span className="font-[430] text-quiet">
                      {row.device.state === 'on' ? '' : ` · ${row.device.unavailable ?? 'off'}`}
                    </span>
                  </th>
                </tr>
              )}
              <tr className="group">
                <th scope="row" className="sticky left-0 z-1 border-b bg-ground p-0 text-left font-[430]">
                  <button
                    className="flex h-6.5 w-57.5 items-center gap-2 pr-2 text-left group-hover:bg-panel"
                    onClick={() => select({ kind: 'line', id: row.id })}
                  >
                    <span className="figure w-[3ch] text-right text-quiet">{row.channel + 1}</span>
                    <span className="min-w-0 flex-1 truncate">{row.name}</span>
                    <Meter
                      keys={[deviceKey(row.device.slot, row.channel)]}
                      label={`Level of ${row.name}`}
                      zone
                      className="w-14 shrink-0"
                    />
                  </button>
                </th>
                {columns.map((c, k) => {
                  const on = c.track.inputs[c.channel] === row.id;
                  const taken = !on && c.track.inputs[c.channel] !== null;
                  return (
                    <td
                      key={`${c.track.id} ${c.channel}`}
                      role="gridcell"
                      aria-selected={on}
                      aria-label={`${row.name} to ${c.track.name}${c.label ? ` ${c.label}` : ''}`}
                      data-cell={`${r} ${k}`}
                      tabIndex={r === here.row && k === here.column ? 0 : -1}
                      className={clsx(
                        'h-6.5 w-6.5 min-w-6.5 cursor-pointer border-b text-center hover:bg-raised group-hover:bg-panel focus-visible:outline-2 focus-visible:-outline-offset-2',
                        c.first && 'border-l',
                      )}
                      onFocus={() => setAt({ row: r, column: k })}
                      onClick={() => press(doc, row, c)}
                    >
                      <span
                        className="inline-block size-2.5 rounded-full align-middle"
                        style={
                          on
                            ? { background: c.track.armed ? 'var(--rec)' : 'var(--brass)' }
                            : { boxShadow: taken ? 'none' : 'inset 0 0 0 1px var(--line)', opacity: 0.8 }
                        }
                      />
                    </td>
                  );
                })}
              </tr>
            </Fragment>
          ))}
        </tbody>
      </table>
    </div>
  );
}
