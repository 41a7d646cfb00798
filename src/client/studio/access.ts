import type { EditJson, SessionDoc } from '@/core/session';
import type { Guard } from '../session';

/** What the studio sees of the open session. */
export interface OpenSession {
  id: string | null;
  doc: SessionDoc | null;
  online: boolean;
}

/** The way from the studio to the session: what it is, what changes, and edits. */
export interface SessionAccess {
  getState(): OpenSession;
  /** Returns what ends it. */
  subscribe(listener: (now: OpenSession, before: OpenSession) => void): () => void;
  edit(...edits: EditJson[]): boolean;
  /** Shows and sounds edits without storing them; none: back to what is stored. */
  preview(...edits: EditJson[]): void;
  /** Whether all edits are stored, within so many ms. */
  settled(within?: number): Promise<boolean>;
  /** Looks at changes before they are made; returns what ends it. */
  guard(guard: Guard): () => void;
}
