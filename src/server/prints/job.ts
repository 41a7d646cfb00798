import type { PrintRange } from '@/core/print';
import type { SessionDoc } from '@/core/session';

export interface PrintJob {
  doc: SessionDoc;
  /** Path of each media file the session uses. */
  media: Record<string, string>;
  /** Each gets its own set of files. */
  ranges: readonly PrintRange[];
  version: number;
  /** Folder the files go to. */
  out: string;
  /** ISO time. */
  made: string;
  /** Threads that print beside each other; one unless given. */
  threads?: number;
  /** Files that are known to lack sound, each with what that means, where it is printed knowingly all the same. */
  lacking?: Readonly<Record<string, string>>;
  /** What stood in the way and was passed by knowingly, in sentences. */
  passedBy?: readonly string[];
}
