import type { SessionFormat } from './document';

/** A session as the list of all sessions tells of it. */
export interface SessionFacts extends Pick<SessionFormat, 'sampleRate' | 'wordLength' | 'frameRate' | 'layout'> {
  id: string;
  name: string;
  code: string;
  tracks: number;
  /** To the end of its last clip. */
  seconds: number;
  /** Of its folder. */
  bytes: number;
  folder: string;
  /** ISO time. */
  changedAt: string;
  /** ISO times: when it was put into the bin, and when it goes for good; null: it is not there. */
  removedAt: string | null;
  goesAt: string | null;
}
