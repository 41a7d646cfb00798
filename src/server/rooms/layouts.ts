import { asc, eq } from 'drizzle-orm';
import { isOwn, layoutOf, isLayout, ownLayout, type Layout, type SpeakerSpot } from '@/core/speakers';
import { db, tables } from '../database';
import { Refused } from '../http';

const l = tables.layouts;

/** Layouts of one's own, in the order in which they were kept. */
export async function listLayouts(): Promise<Layout[]> {
  const rows = await (await db()).select().from(l).orderBy(asc(l.at));
  return rows.flatMap(({ id }) => (isLayout(id) ? [layoutOf(id)] : []));
}

/** Keeps a layout; another of its name is written over: sessions hold what they use in themselves. */
export async function keepLayout(asked: { name: string; speakers: SpeakerSpot[] }): Promise<Layout> {
  let made: Layout;
  try {
    made = ownLayout(asked.name.trim(), asked.speakers);
  } catch (error) {
    if (error instanceof RangeError) throw new Refused(422, `The layout was not kept: ${error.message}.`);
    throw error;
  }
  const { id } = made;
  if (!isOwn(id)) throw new Refused(422, 'The layout was not kept.');
  const same = (await listLayouts()).find((o) => o.name.toLowerCase() === made.name.toLowerCase());
  await (
    await db()
  ).transaction(async (tx) => {
    if (same && isOwn(same.id)) await tx.delete(l).where(eq(l.id, same.id));
    await tx.insert(l).values({ id }).onConflictDoNothing();
  });
  return made;
}

export async function removeLayout(name: string): Promise<void> {
  const found = (await listLayouts()).find((o) => o.name === name);
  if (found && isOwn(found.id)) await (await db()).delete(l).where(eq(l.id, found.id));
}
