import type { EditJson } from '@/core/session';

export type Grade = 'stop' | 'warn' | 'note';
export type Place = 'brief' | 'lineup' | 'floor' | 'flow' | 'room' | 'print';

/** What mends a finding at a device, not in the session. */
export interface DeviceAct {
  device: string;
  what: 'switch-on' | 'plug-in' | 'mend-links' | 'follow-clock' | 'feed-on';
}

export interface Mend {
  label: string;
  edits: EditJson[];
  act?: DeviceAct;
}

/** One finding of the tool: what is wrong, what will happen because of it, and the mend. */
export interface Check {
  id: string;
  grade: Grade;
  place: Place;
  title: string;
  why: string;
  /** Ids of the tracks, buses or lines it is about. */
  about: string[];
  mends: Mend[];
}

const ORDER: Record<Grade, number> = { stop: 0, warn: 1, note: 2 };

/** The gravest first. */
export const byGrade = (checks: readonly Check[]): Check[] =>
  [...checks].sort((a, b) => ORDER[a.grade] - ORDER[b.grade]);
