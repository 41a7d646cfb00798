interface Row {
  revision: number;
  kind: 'edit' | 'undo' | 'redo' | 'aside';
  undoes: number | null;
}

/**
 * Revisions that can be undone and redone, the next one last. An edit empties the redo stack; an undo
 * moves one revision over, a redo moves it back.
 */
export function stacks(rows: readonly Row[]): { undo: number[]; redo: number[] } {
  const undo: number[] = [];
  const redo: number[] = [];
  for (const row of rows) {
    if (row.kind === 'edit') {
      undo.push(row.revision);
      redo.length = 0;
    } else if (row.kind === 'undo') {
      undo.pop();
      redo.push(row.undoes!);
    } else if (row.kind === 'redo') {
      redo.pop();
      undo.push(row.undoes!);
    }
  }
  return { undo, redo };
}
