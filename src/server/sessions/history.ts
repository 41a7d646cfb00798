export interface Step {
  revision: number;
  kind: 'edit' | 'undo' | 'redo' | 'aside';
  undoes: number | null;
  /** Who made it; null: the server itself, or an earlier release. */
  seat: string | null;
}

export interface Stacks {
  undo: number[];
  redo: number[];
}

function take(list: number[], revision: number): void {
  // Nearly always it is the last one.
  const at = list.lastIndexOf(revision);
  if (at >= 0) list.splice(at, 1);
}

/**
 * Revisions that somebody can undo and redo, the next one last: their own, and those that belong to nobody. An edit
 * empties the redo stack; an undo moves one revision over, a redo moves it back. Each step costs the same, however long
 * the history is.
 */
class SeatStacks implements Stacks {
  readonly undo: number[] = [];
  readonly redo: number[] = [];
  private readonly ours = new Set<number>();

  constructor(private readonly seat: string | null) {}

  add({ revision, kind, undoes, seat }: Step): void {
    if (kind === 'edit') {
      if (this.seat !== null && seat !== null && seat !== this.seat) return;
      this.ours.add(revision);
      this.undo.push(revision);
      this.redo.length = 0;
    } else if (kind !== 'aside' && undoes !== null && this.ours.has(undoes)) {
      take(this.undo, undoes);
      take(this.redo, undoes);
      (kind === 'undo' ? this.redo : this.undo).push(undoes);
    }
  }
}

/** The same of a list of steps, oldest first. */
export function stacks(steps: readonly Step[], seat: string | null): Stacks {
  const made = new SeatStacks(seat);
  for (const step of steps) made.add(step);
  return { undo: made.undo, redo: made.redo };
}

/** The steps of a session as they are kept in memory: what each seat would undo and redo is known without looking back. */
export class History<S extends Step & { label: string }> {
  private readonly bySeat = new Map<string | null, SeatStacks>();
  private readonly labels = new Map<number, string>();

  constructor(private readonly steps: S[]) {
    for (const { revision, label } of steps) this.labels.set(revision, label);
  }

  /** Adds what came after; a step that is there already is not added again. */
  add(step: S): void {
    if (step.revision <= this.last) return;
    this.steps.push(step);
    this.labels.set(step.revision, step.label);
    for (const of of this.bySeat.values()) of.add(step);
  }

  /** Revision of the newest step; -1: there is none. */
  get last(): number {
    return this.steps.at(-1)?.revision ?? -1;
  }

  /** Changes that are kept. */
  get size(): number {
    return this.steps.length;
  }

  /** Revision of the oldest of the last `count` changes. */
  revisionFromEnd(count: number): number {
    return this.steps.at(-count)?.revision ?? -1;
  }

  of(seat: string | null): Stacks {
    let known = this.bySeat.get(seat);
    if (!known) {
      known = new SeatStacks(seat);
      for (const step of this.steps) known.add(step);
      this.bySeat.set(seat, known);
    }
    return known;
  }

  /** What a seat would undo and redo next, in words. */
  labelsOf(seat: string | null): { undo: string | null; redo: string | null } {
    const { undo, redo } = this.of(seat);
    const label = (revision: number | undefined) => (revision === undefined ? null : this.labels.get(revision)) ?? null;
    return { undo: label(undo.at(-1)), redo: label(redo.at(-1)) };
  }

  /**
   * Whether the document stands just behind a step (`undo`) or just before it (`redo`): whatever came after was taken back in
   * turn. Then the step's own patches lead on, and nothing else needs to be looked at.
   */
  standsAt(revision: number, direction: 'undo' | 'redo'): boolean {
    const done: number[] = [];
    let undone: number[] = [];
    for (const { revision: r, kind, undoes } of this.steps) {
      if (r < revision) continue;
      if (kind === 'edit') {
        done.push(r);
        undone = [];
      } else {
        const from = kind === 'undo' ? done : undone;
        if (kind === 'aside' || undoes === null || from.at(-1) !== undoes) return false;
        (kind === 'undo' ? undone : done).push(from.pop()!);
      }
    }
    return direction === 'undo'
      ? done.length === 1 && done[0] === revision
      : done.length === 0 && undone.at(-1) === revision;
  }
}
