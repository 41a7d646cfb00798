import { nanoid } from 'nanoid';
import { useMemo } from 'react';
import { create } from 'zustand';
import { useSession } from '@/client';
import type { BuilderRow } from '@/core/session';

export const newRow = (part: Partial<BuilderRow> = {}): BuilderRow => ({
  id: nanoid(6),
  count: 1,
  layout: 'mono',
  kind: 'recording',
  anchor: 'time',
  names: '',
  destination: 'width',
  ...part,
});

const useKept = create<{ rows: Record<string, BuilderRow[]> }>(() => ({ rows: {} }));

type Change = BuilderRow[] | ((before: BuilderRow[]) => BuilderRow[]);

/** The rows of the builder as they were left: whoever looks elsewhere meanwhile finds them again. */
export function useBuilderRows(): [BuilderRow[], (next: Change) => void] {
  const session = useSession((s) => s.id)!;
  const first = useMemo(() => [newRow()], []);
  const rows = useKept((s) => s.rows[session]) ?? first;
  const set = (next: Change) =>
    useKept.setState((s) => ({
      rows: { ...s.rows, [session]: typeof next === 'function' ? next(s.rows[session] ?? first) : next },
    }));
  return [rows, set];
}
