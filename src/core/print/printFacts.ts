import type { Proof } from './proof';
import type { PrintRange } from './ranges';

export type PrintState = 'waiting' | 'running' | 'done' | 'failed' | 'cancelled' | 'removed';

/** A print as the server tells of it. */
export interface PrintFacts {
  id: string;
  session: string;
  version: number;
  state: PrintState;
  /** From the first to the last sample of its ranges. */
  start: number;
  end: number;
  ranges: PrintRange[];
  proof: Proof | null;
  message: string | null;
  /** How long the print and its measuring took. */
  milliseconds: number | null;
  /** Range that it is at, from 0; null while it does not run. */
  range: number | null;
  share: number;
  /** Milliseconds that are likely left; null while unknown. */
  left: number | null;
}

/** One in the line of all sessions, with the name of its own. */
export type PrintInLine = PrintFacts & { name: string };
