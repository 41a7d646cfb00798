import {
  bigint,
  boolean,
  customType,
  index,
  integer,
  jsonb,
  pgTable,
  primaryKey,
  text,
  timestamp,
} from 'drizzle-orm/pg-core';
import type { Patch, Seat, SessionDoc, SessionFormat, Stage, TakeFacts, TakePurpose } from '@/core/session';
import type { Room } from '@/core/rooms';
import type { LayoutId, OwnLayoutId } from '@/core/speakers';
import { withLostFigures, type PrintRange, type PrintState, type Proof } from '@/core/print';
import { parseFigures, reviveFigures, stringifyFigures } from '@/core/units';

/** Samples of the timeline: at 48 kHz 32 bits end after half a day. */
const samples = (name: string) => bigint(name, { mode: 'number' });

/** Measured facts: figures that JSON has no words for are kept. Where an earlier release lost them, `mend` knows them. */
const facts = <T>(name: string, mend: (stored: T) => T) =>
  customType<{ data: T; driverData: unknown }>({
    dataType: () => 'jsonb',
    toDriver: (value) => stringifyFigures(value),
    fromDriver: (stored) => mend((typeof stored === 'string' ? parseFigures(stored) : reviveFigures(stored)) as T),
  })(name);

/** What the files of a recording are, fixed when it begins. */
export type RecordingFormat = Pick<
  SessionFormat,
  'sampleRate' | 'wordLength' | 'fileKind' | 'perChannel' | 'frameRate' | 'startTimecode'
> & { layout: LayoutId };

export const sessions = pgTable('sessions', {
  id: text('id').primaryKey(),
  revision: integer('revision').notNull(),
  doc: jsonb('doc').$type<SessionDoc>().notNull(),
  /** The revision that `doc` is of, where that is an earlier one; the steps since lead from it to `revision`. */
  docRevision: integer('doc_revision'),
  createdAt: timestamp('created_at', { withTimezone: true }).notNull().defaultNow(),
  /** When it was put into the bin; null: it is not there. */
  removedAt: timestamp('removed_at', { withTimezone: true }),
});

/** Every change in order. Undo and redo are changes too; `undoes` names the revision they concern. */
export const edits = pgTable(
  'edits',
  {
    session: text('session')
      .notNull()
      .references(() => sessions.id, { onDelete: 'cascade' }),
    revision: integer('revision').notNull(),
    /** Made by the client: the same edit sent twice is applied once. */
    editId: text('edit_id').notNull(),
    /** Seat of who made it; null: the server itself, or an earlier release. */
    seat: text('seat'),
    kind: text('kind').$type<'edit' | 'undo' | 'redo' | 'aside'>().notNull(),
    undoes: integer('undoes'),
    label: text('label').notNull(),
    edits: jsonb('edits').$type<unknown[]>().notNull(),
    patches: jsonb('patches').$type<Patch[]>().notNull(),
    inverse: jsonb('inverse').$type<Patch[]>().notNull(),
    at: timestamp('at', { withTimezone: true }).notNull().defaultNow(),
  },
  (t) => [primaryKey({ columns: [t.session, t.revision] }), index('edits_by_id').on(t.session, t.editId)],
);

/** Who sits at a browser: a name that was typed once, and a colour. */
export const people = pgTable('people', {
  seat: text('seat').primaryKey(),
  name: text('name').notNull(),
  hue: integer('hue').notNull(),
  at: timestamp('at', { withTimezone: true }).notNull().defaultNow(),
});

/** What belongs to a person at a session: solo, arm, what is heard of inputs, the monitor; and what was selected. */
export const seats = pgTable(
  'seats',
  {
    session: text('session')
      .notNull()
      .references(() => sessions.id, { onDelete: 'cascade' }),
    seat: text('seat').notNull(),
    state: jsonb('state').$type<Seat>().notNull(),
    selected: jsonb('selected').$type<{ kind: string; id: string }>(),
    at: timestamp('at', { withTimezone: true }).notNull().defaultNow(),
  },
  (t) => [primaryKey({ columns: [t.session, t.seat] })],
);

/** Copies of a session's state: by name, or made by themselves before a risky step. */
export const versions = pgTable('versions', {
  id: text('id').primaryKey(),
  session: text('session')
    .notNull()
    .references(() => sessions.id, { onDelete: 'cascade' }),
  name: text('name').notNull(),
  automatic: boolean('automatic').notNull(),
  revision: integer('revision').notNull(),
  doc: jsonb('doc').$type<SessionDoc>().notNull(),
  at: timestamp('at', { withTimezone: true }).notNull().defaultNow(),
});

/** Set-ups to begin with; their files, if any, are in a folder of their own. */
export const templates = pgTable('templates', {
  id: text('id').primaryKey(),
  name: text('name').notNull(),
  category: text('category').notNull(),
  doc: jsonb('doc').$type<SessionDoc>().notNull(),
  /** File names by media id. */
  files: jsonb('files').$type<Record<string, string>>().notNull(),
  at: timestamp('at', { withTimezone: true }).notNull().defaultNow(),
});

/** Settings of a stage or a whole chain under a name of the user's. */
export const presets = pgTable('presets', {
  id: text('id').primaryKey(),
  name: text('name').notNull(),
  category: text('category').notNull(),
  /** Type of the stage; null: a whole chain. */
  stage: text('stage'),
  chain: jsonb('chain').$type<Stage[]>().notNull(),
  at: timestamp('at', { withTimezone: true }).notNull().defaultNow(),
});

export const media = pgTable('media', {
  id: text('id').primaryKey(),
  session: text('session')
    .notNull()
    .references(() => sessions.id, { onDelete: 'cascade' }),
  /** File name within the session's media folder. */
  file: text('file').notNull(),
  kind: text('kind').$type<'file' | 'take' | 'dry'>().notNull(),
  channels: integer('channels').notNull(),
  frames: samples('frames').notNull(),
  sampleRate: integer('sample_rate').notNull(),
  /** Size of its file or files, and the SHA-256 of their bytes one after the other; null from before they were noted. */
  bytes: bigint('bytes', { mode: 'number' }),
  sha256: text('sha256'),
  createdAt: timestamp('created_at', { withTimezone: true }).notNull().defaultNow(),
});

export const recordings = pgTable('recordings', {
  id: text('id').primaryKey(),
  session: text('session')
    .notNull()
    .references(() => sessions.id, { onDelete: 'cascade' }),
  track: text('track').notNull(),
  take: integer('take').notNull(),
  /** Timeline sample of the first frame. */
  start: samples('start').notNull(),
  channels: integer('channels').notNull(),
  state: text('state').$type<'rolling' | 'recovered' | 'finished' | 'empty' | 'aside'>().notNull(),
  /** Why it was set aside: it could not be entered, and its files are kept. */
  reason: text('reason'),
  /** Null: as the session was when an earlier release recorded it. */
  format: jsonb('format').$type<RecordingFormat>(),
  /** What the recorder told besides the sound. */
  facts: jsonb('facts').$type<TakeFacts>(),
  file: text('file').notNull(),
  dryFile: text('dry_file').notNull(),
  chains: jsonb('chains').$type<Stage[][]>().notNull(),
  lineNames: jsonb('line_names').$type<string[]>().notNull(),
  /** Whether the untouched copy stays once the take is complete. */
  keepDry: boolean('keep_dry').notNull().default(true),
  /** What the engineer meant with the take. */
  purpose: jsonb('purpose').$type<TakePurpose>(),
  startedAt: timestamp('started_at', { withTimezone: true }).notNull().defaultNow(),
});

/** What a print was asked for. */
export interface AskedPrint {
  ranges: PrintRange[];
  /** Revision of the session that is printed. */
  revision: number;
  knowingly: boolean;
  /** What was passed by, in sentences. */
  passedBy: string[];
}

export const prints = pgTable('prints', {
  id: text('id').primaryKey(),
  session: text('session')
    .notNull()
    .references(() => sessions.id, { onDelete: 'cascade' }),
  version: integer('version').notNull(),
  state: text('state').$type<PrintState>().notNull(),
  start: samples('start').notNull(),
  end: samples('end').notNull(),
  /** The session as it was printed. */
  doc: jsonb('doc').$type<SessionDoc>().notNull(),
  /** What was asked for beside it; null for a print of an earlier release. */
  asked: jsonb('asked').$type<AskedPrint>(),
  /** How often it was begun: a server that stops begins it once more. */
  begun: integer('begun').notNull().default(0),
  /** Process that makes it, and when it last said so; another one takes over what is not said any more. */
  worker: text('worker'),
  seenAt: timestamp('seen_at', { withTimezone: true }),
  proof: facts<Proof>('proof', withLostFigures),
  message: text('message'),
  /** How long it took to make. */
  milliseconds: integer('milliseconds'),
  startedAt: timestamp('started_at', { withTimezone: true }).notNull().defaultNow(),
});

/** Rooms with loudspeakers; they belong to no session. */
export const rooms = pgTable('rooms', {
  id: text('id').primaryKey(),
  revision: integer('revision').notNull(),
  room: jsonb('room').$type<Room>().notNull(),
  /** Earlier states, the latest last, for undo. */
  before: jsonb('before').$type<Room[]>().notNull(),
  at: timestamp('at', { withTimezone: true }).notNull().defaultNow(),
});

/** Layouts of one's own that are kept for new sessions; the id holds all of them. */
export const layouts = pgTable('layouts', {
  id: text('id').$type<OwnLayoutId>().primaryKey(),
  at: timestamp('at', { withTimezone: true }).notNull().defaultNow(),
});
