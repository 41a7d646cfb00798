'use client';
import { clsx } from 'clsx';
import {
  flexRender,
  getCoreRowModel,
  getSortedRowModel,
  useReactTable,
  type Row,
  type SortingState,
  type VisibilityState,
} from '@tanstack/react-table';
import { useVirtualizer } from '@tanstack/react-virtual';
import { DropdownMenu } from 'radix-ui';
import { Check, ChevronDown, ChevronUp } from 'lucide-react';
import { memo, useEffect, useMemo, useRef, useState } from 'react';
import { useChecks, useDoc } from '@/client';
import { isFound, useFlow } from '../flowState';
import { COLUMNS } from './columns';
import { Foot } from './foot';
import { PickBar } from './pickBar';
import { pickRow, pickRows, usePicked } from './picked';
import { rowFacts, type RowFacts } from './rowFacts';

const ROW = 31;

/** The same paths as rows: many are changed at once. */
export function FlowTable() {
  const doc = useDoc();
  const find = useFlow((s) => s.find);
  const [sorting, setSorting] = useState<SortingState>([]);
  const [visible, setVisible] = useState<VisibilityState>({});
  const data = useMemo(() => rowFacts(doc).filter((r) => isFound(find, r.name)), [doc, find]);
  const table = useReactTable({
    data,
    columns: COLUMNS,
    state: { sorting, columnVisibility: visible },
    onSortingChange: setSorting,
    onColumnVisibilityChange: setVisible,
    getRowId: (r) => r.id,
    getCoreRowModel: getCoreRowModel(),
    getSortedRowModel: getSortedRowModel(),
  });
  const rows = table.getRowModel().rows;
  const shown = rows.map((r) => r.id);
  // Rows are kept as they are where nothing of them changed: a range goes by the order of now.
  const order = useRef(shown);
  useEffect(() => {
    order.current = shown;
  });
  const scroller = useRef<HTMLDivElement>(null);
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW,
    overscan: 12,
  });
  const columns = table.getVisibleLeafColumns();
  const template = `28px ${columns.map((c) => `minmax(${c.getSize() * 0.72}px, ${c.getSize()}fr)`).join(' ')}`;
  return (
    <div
      className="flex min-h-0 flex-1 flex-col gap-2 pb-3"
      onKeyDown={(e) => {
        if (e.key === 'Escape') pickRows([]);
        if (e.key.toLowerCase() === 'a' && (e.ctrlKey || e.metaKey) && !(e.target instanceof HTMLInputElement)) {
          e.preventDefault();
          pickRows(shown);
        }
      }}
    >
      <div className="flex items-center [&>*:first-child]:flex-1">
        <PickBar />
        <ColumnMenu table={table} />
      </div>
      <div
        ref={scroller}
        className="min-h-0 flex-1 overflow-auto px-4"
        role="grid"
        aria-label="Tracks and buses"
        aria-multiselectable
        aria-rowcount={rows.length + 1}
      >
        <div
          className="small sticky top-0 z-10 grid items-center gap-x-3 border-b bg-ground py-1 text-quiet"
          style={{ gridTemplateColumns: template }}
          role="row"
        >
          <span role="columnheader" aria-label="picked" />
          {table.getHeaderGroups()[0]!.headers.map((h) => {
            const sorted = h.column.getIsSorted();
            return (
              <span
                key={h.id}
                role="columnheader"
                aria-sort={sorted === 'asc' ? 'ascending' : sorted === 'desc' ? 'descending' : 'none'}
                className={h.id === 'level' || h.id === 'trim' ? 'text-right' : ''}
              >
                {h.column.getCanSort() ? (
                  <button className="inline-flex items-center gap-1" onClick={h.column.getToggleSortingHandler()}>
                    {flexRender(h.column.columnDef.header, h.getContext())}
                    {sorted === 'asc' && <ChevronUp size={12} />}
                    {sorted === 'desc' && <ChevronDown size={12} />}
                  </button>
                ) : (
                  flexRender(h.column.columnDef.header, h.getContext())
                )}
              </span>
            );
          })}
        </div>
        <div style={{ height: virtual.getTotalSize(), position: 'relative' }}>
          {virtual.getVirtualItems().map((item) => {
            const row = rows[item.index]!;
            return (
              <TableRow
                key={row.id}
                row={row}
                facts={row.original}
                columns={columns.length}
                top={item.start}
                index={item.index}
                template={template}
                onPick={(how) => pickRow(row.id, how, order.current)}
              />
            );
          })}
        </div>
      </div>
      <Foot doc={doc} />
    </div>
  );
}

interface TableRowProps {
  row: Row<RowFacts>;
  facts: RowFacts;
  columns: number;
  top: number;
  index: number;
  template: string;
  onPick: (how: { add: boolean; range: boolean }) => void;
}

const TableRow = memo(
  function TableRow({ row, facts, top, index, template, onPick }: TableRowProps) {
    const picked = usePicked((s) => s.ids.has(facts.id));
    const grade = useChecks(
      (s) => s.checks.find((c) => c.place === 'flow' && c.grade !== 'note' && c.about.includes(facts.id))?.grade,
    );
    return (
      <div
        role="row"
        aria-selected={picked}
        aria-rowindex={index + 2}
        aria-label={facts.name}
        data-flow-row={facts.id}
        tabIndex={0}
        className={clsx(
          'absolute inset-x-0 grid cursor-default select-none items-center gap-x-3 border-b',
          picked ? 'bg-brass/10 shadow-[inset_3px_0_0_var(--brass)]' : 'hover:bg-panel',
        )}
        style={{ gridTemplateColumns: template, height: ROW, transform: `translateY(${top}px)` }}
        onClick={(e) => {
          // Fields and buttons of a row act on it alone.
          if ((e.target as Element).closest('button,input,[role="spinbutton"]')) return;
          onPick({ add: e.ctrlKey || e.metaKey, range: e.shiftKey });
        }}
        onKeyDown={(e) => {
          if (e.target !== e.currentTarget) return;
          if (e.key === 'Enter') onPick({ add: true, range: e.shiftKey });
          else if (e.key === 'ArrowDown') (e.currentTarget.nextElementSibling as HTMLElement | null)?.focus();
          else if (e.key === 'ArrowUp') (e.currentTarget.previousElementSibling as HTMLElement | null)?.focus();
          else return;
          e.preventDefault();
          e.stopPropagation();
        }}
      >
        <span role="gridcell" className="flex items-center pl-2">
          <input
            type="checkbox"
            tabIndex={-1}
            className="accent-(--brass)"
            aria-label={`Pick ${facts.name}`}
            checked={picked}
            onChange={() => onPick({ add: true, range: false })}
          />
        </span>
        {row.getVisibleCells().map((cell) => (
          <span
            key={cell.id}
            role="gridcell"
            className={clsx(
              'flex min-w-0 items-center',
              cell.column.id === 'name' && grade && (grade === 'stop' ? 'text-stop' : 'text-warn'),
            )}
            title={typeof cell.getValue() === 'string' ? (cell.getValue() as string) : undefined}
          >
            {flexRender(cell.column.columnDef.cell, cell.getContext())}
          </span>
        ))}
      </div>
    );
  },
  (a, b) =>
    a.facts.node === b.facts.node &&
    a.top === b.top &&
    a.template === b.template &&
    a.facts.to === b.facts.to &&
    a.facts.sends === b.facts.sends &&
    a.facts.lanes === b.facts.lanes &&
    a.facts.chain === b.facts.chain &&
    a.facts.printed === b.facts.printed,
);

function ColumnMenu({ table }: { table: ReturnType<typeof useReactTable<RowFacts>> }) {
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger className="btn mr-4">Columns</DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content align="end" sideOffset={4} className="pop p-1">
          {table
            .getAllLeafColumns()
            .filter((c) => c.getCanHide())
            .map((c) => (
              <DropdownMenu.CheckboxItem
                key={c.id}
                className="menu-item"
                checked={c.getIsVisible()}
                onCheckedChange={(on) => c.toggleVisibility(on)}
                onSelect={(e) => e.preventDefault()}
              >
                {String(c.columnDef.header)}
                <DropdownMenu.ItemIndicator className="ml-auto pl-3 text-brass">
                  <Check size={13} />
                </DropdownMenu.ItemIndicator>
              </DropdownMenu.CheckboxItem>
            ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
