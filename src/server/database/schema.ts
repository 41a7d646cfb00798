import { boolean, index, integer, jsonb, pgTable, primaryKey, text, timestamp } from 'drizzle-orm/pg-core';
import type { Patch, SessionDoc, Stage, TakePurpose } from '@/core/session';
import type { Proof } from '@/core/print';

export const sessions = pgTable('sessions', {
  id: text('id').primaryKey(),
  revision: integer('revision').notNull(),
  doc: jsonb('doc').$type<SessionDoc>().notNull(),
  createdAt: timestamp('created_at', { withTimezone: true }).notNull().defaultNow(),
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
  frames: integer('frames').notNull(),
  sampleRate: integer('sample_rate').notNull(),
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
  start: integer('start').notNull(),
  channels: integer('channels').notNull(),
  state: text('state').$type<'rolling' | 'recovered' | 'finished' | 'empty'>().notNull(),
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

export const prints = pgTable('prints', {
  id: text('id').primaryKey(),
  session: text('session')
    .notNull()
    .references(() => sessions.id, { onDelete: 'cascade' }),
  version: integer('version').notNull(),
  state: text('state').$type<'running' | 'done' | 'failed' | 'cancelled'>().notNull(),
  start: integer('start').notNull(),
  end: integer('end').notNull(),
  /** The session as it was printed. */
  doc: jsonb('doc').$type<SessionDoc>().notNull(),
  proof: jsonb('proof').$type<Proof>(),
  message: text('message'),
  seconds: integer('seconds_ms'),
  startedAt: timestamp('started_at', { withTimezone: true }).notNull().defaultNow(),
});
