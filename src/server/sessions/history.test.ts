import fc from 'fast-check';
import { expect, it } from 'vitest';
import { History, stacks } from './history';

type Row = Parameters<typeof stacks>[0][number];

it('behaves like two stacks, for any order of doing, undoing and redoing', () => {
  fc.assert(
    fc.property(fc.array(fc.constantFrom('edit', 'undo', 'redo', 'aside'), { maxLength: 60 }), (wishes) => {
      const rows: Row[] = [];
      const done: number[] = [];
      const undone: number[] = [];
      for (const kind of wishes) {
        const revision = rows.length + 1;
        const now = stacks(rows, null);
        if (kind === 'undo' && now.undo.length === 0) continue;
        if (kind === 'redo' && now.redo.length === 0) continue;
        const undoes = kind === 'undo' ? now.undo.at(-1)! : kind === 'redo' ? now.redo.at(-1)! : null;
        rows.push({ revision, kind, undoes, seat: null });
        if (kind === 'edit') {
          done.push(revision);
          undone.length = 0;
        } else if (kind === 'undo') undone.push(done.pop()!);
        else if (kind === 'redo') done.push(undone.pop()!);
      }
      expect(stacks(rows, null)).toEqual({ undo: done, redo: undone });
    }),
  );
});

it('holds everybody’s own steps, and those of nobody for all', () => {
  const row = (
    revision: number,
    seat: string | null,
    kind: Row['kind'] = 'edit',
    undoes: number | null = null,
  ): Row => ({
    revision,
    kind,
    undoes,
    seat,
  });
  const rows = [row(1, 'ada'), row(2, 'ben'), row(3, null), row(4, 'ada'), row(5, 'ben', 'undo', 2)];
  expect(stacks(rows, 'ada')).toEqual({ undo: [1, 3, 4], redo: [] });
  expect(stacks(rows, 'ben')).toEqual({ undo: [3], redo: [2] });
  expect(stacks([...rows, row(6, 'ada', 'undo', 3)], 'ben')).toEqual({ undo: [], redo: [2, 3] });
  expect(stacks([...rows, row(6, 'ada', 'undo', 3), row(7, 'ben')], 'ben')).toEqual({ undo: [7], redo: [] });
  expect(stacks(rows, null)).toEqual({ undo: [1, 3, 4], redo: [2] });
});

it('kept in memory and only added to, it tells what looking back through all steps would', () => {
  const seats = ['ada', 'ben', null];
  fc.assert(
    fc.property(
      fc.array(
        fc.record({ kind: fc.constantFrom('edit', 'edit', 'undo', 'redo', 'aside'), seat: fc.constantFrom(...seats) }),
        {
          maxLength: 80,
        },
      ),
      (wishes) => {
        const rows: (Row & { label: string })[] = [];
        const history = new History<Row & { label: string }>([]);
        for (const { kind, seat } of wishes as { kind: Row['kind']; seat: string | null }[]) {
          const now = history.of(seat);
          const undoes = kind === 'undo' ? now.undo.at(-1) : kind === 'redo' ? now.redo.at(-1) : null;
          if (undoes === undefined) continue;
          const row = { revision: rows.length + 1, kind, undoes, seat, label: `step ${rows.length + 1}` };
          rows.push(row);
          history.add(row);
        }
        for (const seat of seats) {
          const { undo, redo } = stacks(rows, seat);
          expect(history.of(seat)).toMatchObject({ undo, redo });
          expect(history.labelsOf(seat).undo).toBe(undo.length ? `step ${undo.at(-1)}` : null);
        }
      },
    ),
  );
});

it('knows where the document stands at a step: only while all that followed was taken back in turn', () => {
  const of = (...wishes: [Row['kind'], number?][]) =>
    new History(
      wishes.map(([kind, undoes], i) => ({ revision: i + 1, kind, undoes: undoes ?? null, seat: null, label: '' })),
    );
  expect(of(['edit'], ['edit'], ['undo', 2]).standsAt(1, 'undo')).toBe(true);
  expect(of(['edit'], ['edit'], ['undo', 2]).standsAt(2, 'redo')).toBe(true);
  expect(of(['edit'], ['edit']).standsAt(1, 'undo')).toBe(false);
  // Somebody took back the first while the second stayed.
  expect(of(['edit'], ['edit'], ['undo', 1]).standsAt(1, 'redo')).toBe(false);
  expect(of(['edit'], ['undo', 1], ['edit'], ['undo', 3]).standsAt(1, 'redo')).toBe(false);
  expect(of(['edit'], ['edit'], ['undo', 2], ['redo', 2], ['undo', 2]).standsAt(1, 'undo')).toBe(true);
  expect(of(['edit'], ['aside']).standsAt(1, 'undo')).toBe(false);
});
