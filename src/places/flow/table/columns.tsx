'use client';
import { createColumnHelper } from '@tanstack/react-table';
import { useMemo } from 'react';
import { clearOvers, edit, previewSound, useOvers } from '@/client';
import { BUS_PARAMS, isBus } from '@/core/session';
import { fieldOf, LevelField, Meter, MuteSolo, NumberField, StemTag } from '@/parts';
import { levelKeys } from '../levelKeys';
import type { RowFacts } from './rowFacts';

const column = createColumnHelper<RowFacts>();

const quiet = (text: string) => <span className="truncate text-quiet">{text || '–'}</span>;

/** What a row shows, in the order of the signal. */
export const COLUMNS = [
  column.accessor('name', {
    header: 'name',
    size: 136,
    enableHiding: false,
    cell: (c) => <b className="truncate font-[580]">{c.getValue()}</b>,
  }),
  column.accessor('kind', { header: 'kind', size: 76, cell: (c) => quiet(c.getValue()) }),
  column.accessor('layout', {
    header: 'layout',
    size: 64,
    cell: (c) => <span className="figure text-quiet">{c.getValue()}</span>,
  }),
  column.accessor('to', {
    header: 'goes to',
    size: 110,
    cell: ({ row: { original: r } }) => (
      <span className="flex items-center gap-1.5 truncate text-quiet">
        → {r.toBus?.kind === 'stem' || r.toBus?.kind === 'reference' ? <StemTag bus={r.toBus} /> : r.to}
      </span>
    ),
  }),
  column.accessor('level', {
    header: 'level dB',
    size: 74,
    cell: ({ row }) => <LevelField node={row.original.node} unit="" className="ml-auto" />,
  }),
  column.accessor('trim', {
    header: 'trim',
    size: 62,
    cell: ({ row: { original: r } }) => <Trim row={r} />,
  }),
  column.display({ id: 'arriving', header: 'arriving', size: 156, cell: ({ row }) => <Arriving row={row.original} /> }),
  column.accessor('chain', { header: 'chain', size: 160, cell: (c) => quiet(c.getValue()) }),
  column.accessor('sends', { header: 'sends', size: 140, cell: (c) => quiet(c.getValue()) }),
  column.accessor('lanes', {
    header: 'lanes',
    size: 74,
    cell: (c) => <span className="truncate text-brass">{c.getValue()}</span>,
  }),
  column.accessor('place', {
    header: 'place',
    size: 88,
    cell: (c) => <span className="figure truncate text-quiet">{c.getValue()}</span>,
  }),
  column.display({
    id: 'heard',
    header: 'heard',
    size: 60,
    cell: ({ row }) => <MuteSolo node={row.original.node} short />,
  }),
  column.accessor('printed', {
    header: 'printed',
    size: 96,
    cell: (c) => <span className="truncate text-quiet">{c.getValue() && `⇥ ${c.getValue()}`}</span>,
  }),
];

function Trim({ row: { node } }: { row: RowFacts }) {
  if (!isBus(node)) return null;
  const set = (trim: number) => ({ type: 'setBus', bus: node.id, trim }) as const;
  return (
    <NumberField
      label={`Trim of ${node.name}`}
      value={node.trim}
      {...fieldOf(BUS_PARAMS.trim)}
      unit=""
      className="ml-auto"
      onPreview={(trim) => previewSound(set(trim))}
      onChange={(trim) => edit(set(trim))}
    />
  );
}

function Arriving({ row: { node } }: { row: RowFacts }) {
  const keys = useMemo(() => levelKeys(node, 'in'), [node]);
  return (
    <span className="flex w-full items-center gap-1.5">
      <Meter keys={keys} label={`Arriving at ${node.name}`} className="w-21.5 shrink-0" height={6} />
      {isBus(node) && <OversButton bus={node.id} name={node.name} />}
    </span>
  );
}

/** Overs of a bus, held until somebody clears them. */
function OversButton({ bus, name }: { bus: string; name: string }) {
  const count = useOvers((s) => s.overs[bus]?.count ?? 0);
  if (count === 0) return null;
  return (
    <button
      className="rounded-sm border border-stop px-1.5 text-small leading-4 text-stop"
      aria-label={`Clear ${count} overs of ${name}`}
      title="Passed full scale before its chain; click clears the count"
      onClick={(e) => {
        e.stopPropagation();
        clearOvers(bus);
      }}
    >
      {count} over
    </button>
  );
}
