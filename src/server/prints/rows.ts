import path from 'node:path';
import { and, desc, eq, ne } from 'drizzle-orm';
import type { PrintFacts } from '@/core/print';
import { sessionDir } from '../config';
import { db, tables } from '../database';
import { Refused } from '../http';
import { shared } from '../shared';

export type Row = typeof tables.prints.$inferSelect;

/** What is known of a print that runs, beside its row. */
export interface Running {
  share: number;
  range: number;
  began: number;
  cancelled: boolean;
  /** Another process has taken it over. */
  lost?: boolean;
  cancel: () => void;
}

/** Prints that run in this process, by their ids. */
export const running = () => shared('prints-running', () => new Map<string, Running>());

export function factsOf(row: Row): PrintFacts {
  const r = running().get(row.id);
  const share = r ? r.share : row.state === 'done' ? 1 : 0;
  return {
    id: row.id,
    session: row.session,
    version: row.version,
    state: row.state,
    start: row.start,
    end: row.end,
    ranges: row.asked?.ranges ?? [{ name: '', start: row.start, end: row.end }],
    proof: row.proof,
    message: row.message,
    milliseconds: row.milliseconds,
    range: r?.range ?? null,
    share,
    left: r && share > 0.03 ? ((Date.now() - r.began) * (1 - share)) / share : null,
  };
}

/** Throws Refused where there is no such print. */
export async function rowOf(id: string): Promise<Row> {
  const [row] = await (await db()).select().from(tables.prints).where(eq(tables.prints.id, id));
  if (!row || row.state === 'removed') throw new Refused(404, `There is no print "${id}" any more.`);
  return row;
}

/** The prints of a session, the newest first. */
export async function listPrints(session: string): Promise<PrintFacts[]> {
  const rows = await (
    await db()
  )
    .select()
    .from(tables.prints)
    .where(and(eq(tables.prints.session, session), ne(tables.prints.state, 'removed')))
    .orderBy(desc(tables.prints.version));
  return rows.map(factsOf);
}

export const printFacts = async (id: string): Promise<PrintFacts> => factsOf(await rowOf(id));

/** Folder of the files of a print. */
export const dirOf = (session: string, version: number): string =>
  path.join(sessionDir(session), 'prints', `v${String(version).padStart(2, '0')}`);
