import { and, desc, eq } from 'drizzle-orm';
import { db, tables } from '../database';

/** Automatic versions that are kept; the oldest go first. Named ones stay. */
export const AUTOMATIC_KEPT = 20;

/** Takes away the oldest of the versions that were kept by themselves. */
export async function thinVersions(session: string): Promise<void> {
  const v = tables.versions;
  const rows = await (
    await db()
  )
    .select({ id: v.id })
    .from(v)
    .where(and(eq(v.session, session), eq(v.automatic, true)))
    .orderBy(desc(v.at));
  for (const { id } of rows.slice(AUTOMATIC_KEPT)) await (await db()).delete(v).where(eq(v.id, id));
}
