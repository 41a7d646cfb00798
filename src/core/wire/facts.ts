// What the server tells windows: told once, for both.
import type { Patch, SessionDoc, Stage } from '@/core/session';

/** What one would undo and redo next, by their labels. */
export interface Labels {
  undo: string | null;
  redo: string | null;
}

/** A change of a session, as everybody who has it open hears of it. */
export interface ChangeEvent extends Labels {
  revision: number;
  editId: string;
  label: string;
  patches: Patch[];
  /** Seat of who made it; what that one would undo and redo next stands beside. */
  by: string | null;
  /** The same for everybody who is here, by seat. */
  histories: Record<string, Labels>;
}

/** A step of a session's history. */
export interface HistoryStep {
  revision: number;
  label: string;
  /** What it was about, by the names of today; empty where that has none. */
  subject: string;
  at: string;
  /** Name of who made it; null: the server itself, or an earlier release. */
  by: string | null;
  /** Whether it counts now, or was undone and could be done again. */
  done: boolean;
  /** Whether the asking seat undoes and redoes it. */
  mine: boolean;
}

/** The session as it was at a time. */
export interface VersionFacts {
  id: string;
  name: string;
  /** Kept by itself, before a step that is hard to see through. */
  automatic: boolean;
  revision: number;
  at: string;
}

/** A set-up to begin with. */
export interface TemplateFacts {
  id: string;
  name: string;
  category: string;
  note: string;
  /** Shipped with the application; cannot be removed. */
  shipped: boolean;
  files: number;
  doc: SessionDoc;
}

/** A chain, or the setting of one stage, that was kept. */
export interface PresetFacts {
  id: string;
  name: string;
  category: string;
  /** Type of the stage; null: a whole chain. */
  stage: string | null;
  chain: Stage[];
}

/** A recording that could not be entered, and why. */
export interface SetAside {
  id: string;
  file: string;
  track: string;
  reason: string;
}

/** The link to the performer's window that is open to the network. */
export interface SharedLink {
  /** Addresses that the window has in the network; empty: this machine is in none. */
  urls: string[];
  /** Windows that are open. */
  windows: number;
}

/** What lies in a session's folder and is used by nothing of it. */
export interface Unused {
  /** Names of files. */
  files: string[];
  bytes: number;
  /** Steps that could not be taken back or made again without them. */
  steps: number;
  /** Versions that were kept by themselves and hold them; named ones keep their files. */
  versions: number;
}
