import { eq } from 'drizzle-orm';
import type { MediaRef } from '@/core/session';
import { mediaPath } from '../config';
import { db, tables } from '../database';
import { Refused } from '../http';

export type MediaRow = typeof tables.media.$inferSelect;

export async function addMedia(row: Omit<MediaRow, 'createdAt'>): Promise<void> {
  await (
    await db()
  )
    .insert(tables.media)
    .values(row)
    .onConflictDoUpdate({ target: tables.media.id, set: { frames: row.frames } });
}

export async function mediaRow(id: string): Promise<MediaRow> {
  const [row] = await (await db()).select().from(tables.media).where(eq(tables.media.id, id));
  if (!row) throw new Refused(404, `There is no file "${id}" in the media of any session.`);
  return row;
}

export async function mediaOf(session: string): Promise<MediaRow[]> {
  return (await db()).select().from(tables.media).where(eq(tables.media.session, session));
}

export const pathOfMedia = async (id: string): Promise<string> => {
  const row = await mediaRow(id);
  return mediaPath(row.session, row.file);
};

export const toRef = (row: Omit<MediaRow, 'createdAt'>): MediaRef => ({
  id: row.id,
  name: row.file,
  channels: row.channels,
  frames: row.frames,
  sampleRate: row.sampleRate,
  kind: row.kind,
});
