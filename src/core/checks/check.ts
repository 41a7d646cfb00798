import type { EditJson } from '@/core/session';

export type Grade = 'stop' | 'warn' | 'note';
export type Place = 'brief' | 'lineup' | 'floor' | 'flow' | 'room' | 'print';

/** One finding of the tool: what is wrong, what will happen because of it, and the mend. */
export interface Check {
  id: string;
  grade: Grade;
  place: Place;
  title: string;
  why: string;
  /** Ids of the tracks, buses or lines it is about. */
  about: string[];
  mends: { label: string; edits: EditJson[] }[];
}

const ORDER: Record<Grade, number> = { stop: 0, warn: 1, note: 2 };

/** The gravest first. */
export const byGrade = (checks: readonly Check[]): Check[] =>
  [...checks].sort((a, b) => ORDER[a.grade] - ORDER[b.grade]);
