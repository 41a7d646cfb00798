interface Row {
  revision: number;
  kind: 'edit' | 'undo' | 'redo' | 'aside';
  undoes: number | null;
  /** Who made it; null: the server itself, or an earlier release. */
  seat: string | null;
}

/**
 * Revisions that somebody can undo and redo, the next one last: their own, and those that belong to nobody. An edit
 * empties the redo stack; an undo moves one revision over, a redo moves it back.
 */
export function stacks(rows: readonly Row[], seat: string | null): { undo: number[]; redo: number[] } {
  let undo: number[] = [];
  let redo: number[] = [];
  const ours = new Set<number>();
  for (const row of rows) {
    if (row.kind === 'edit') {
      if (seat !== null && row.seat !== null && row.seat !== seat) continue;
      ours.add(row.revision);
      undo.push(row.revision);
      redo = [];
    } else if (row.undoes !== null && ours.has(row.undoes)) {
      const { undoes } = row;
      undo = undo.filter((r) => r !== undoes);
      redo = redo.filter((r) => r !== undoes);
      (row.kind === 'undo' ? redo : undo).push(undoes);
    }
  }
  return { undo, redo };
}
