import fc from 'fast-check';
import { expect, it } from 'vitest';
import { stacks } from './history';

type Row = Parameters<typeof stacks>[0][number];

it('behaves like two stacks, for any order of doing, undoing and redoing', () => {
  fc.assert(
    fc.property(fc.array(fc.constantFrom('edit', 'undo', 'redo', 'aside'), { maxLength: 60 }), (wishes) => {
      const rows: Row[] = [];
      const done: number[] = [];
      const undone: number[] = [];
      for (const kind of wishes as Row['kind'][]) {
        const revision = rows.length + 1;
        const now = stacks(rows);
        if (kind === 'undo' && now.undo.length === 0) continue;
        if (kind === 'redo' && now.redo.length === 0) continue;
        const undoes = kind === 'undo' ? now.undo.at(-1)! : kind === 'redo' ? now.redo.at(-1)! : null;
        rows.push({ revision, kind, undoes });
        if (kind === 'edit') {
          done.push(revision);
          undone.length = 0;
        } else if (kind === 'undo') undone.push(done.pop()!);
        else if (kind === 'redo') done.push(undone.pop()!);
      }
      expect(stacks(rows)).toEqual({ undo: done, redo: undone });
    }),
  );
});
