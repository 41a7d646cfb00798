import { asc, eq } from 'drizzle-orm';
import { nanoid } from 'nanoid';
import { readRoom, readRoomFile, ROOM_FILE, type Room } from '@/core/rooms';
import { db, tables } from '../database';
import { Refused } from '../http';
import { publish } from '../sessions';

const r = tables.rooms;

/** Changes of a room that can be taken back. */
const MOST_BEFORE = 50;

export interface RoomFacts {
  id: string;
  revision: number;
  room: Room;
  /** Whether something can be taken back. */
  undo: boolean;
}

const factsOf = ({ id, revision, room, before }: typeof r.$inferSelect): RoomFacts => ({
  ...{ id, revision, room, undo: before.length > 0 },
});

export async function listRooms(): Promise<RoomFacts[]> {
  return (await (await db()).select().from(r).orderBy(asc(r.at))).map(factsOf);
}

const named = (list: readonly RoomFacts[], name: string, but?: string): boolean =>
  list.some((o) => o.id !== but && o.room.name.toLowerCase() === name.toLowerCase());

/** Tells every window that rooms were changed. */
const tell = (): void => publish('', { kind: 'rooms' });

/** Makes a room. Throws EditRefused or Refused with a sentence. */
export async function addRoom(json: unknown): Promise<RoomFacts> {
  const room = readRoom(json);
  if (named(await listRooms(), room.name))
    throw new Refused(409, `There is a room called ${room.name} already; nothing was made.`);
  const row = { id: nanoid(10), revision: 1, room, before: [] as Room[] };
  await (await db()).insert(r).values(row);
  tell();
  return { id: row.id, revision: 1, room, undo: false };
}

async function found(id: string): Promise<typeof r.$inferSelect> {
  const [row] = await (await db()).select().from(r).where(eq(r.id, id));
  if (!row) throw new Refused(404, 'That room is not there any more.');
  return row;
}

/** Writes over a room that is still at `revision`: another window may have changed it meanwhile. */
async function write(
  id: string,
  revision: number,
  next: (row: typeof r.$inferSelect) => { room: Room; before: Room[] },
): Promise<RoomFacts> {
  const facts = await (
    await db()
  ).transaction(async (tx) => {
    const [row] = await tx.select().from(r).where(eq(r.id, id)).for('update');
    if (!row) throw new Refused(404, 'That room is not there any more.');
    if (row.revision !== revision)
      throw new Refused(409, `${row.room.name} was changed in another window; it is shown as it is now. Do it again.`);
    const set = { ...next(row), revision: revision + 1 };
    await tx.update(r).set(set).where(eq(r.id, id));
    return factsOf({ ...row, ...set });
  });
  tell();
  return facts;
}

export async function setRoom(id: string, asked: { revision: number; room: unknown }): Promise<RoomFacts> {
  const room = readRoom(asked.room);
  if (named(await listRooms(), room.name, id))
    throw new Refused(409, `There is another room called ${room.name}; nothing was changed.`);
  return write(id, asked.revision, (row) => ({ room, before: [...row.before, row.room].slice(-MOST_BEFORE) }));
}

/** The room as it was before its last change. */
export async function undoRoom(id: string, asked: { revision: number }): Promise<RoomFacts> {
  return write(id, asked.revision, (row) => {
    const room = row.before.at(-1);
    if (!room) throw new Refused(409, 'Nothing of this room can be taken back.');
    return { room, before: row.before.slice(0, -1) };
  });
}

export async function removeRoom(id: string): Promise<void> {
  await (await db()).delete(r).where(eq(r.id, id));
  tell();
}

export const roomOf = async (id: string): Promise<Room> => (await found(id)).room;

/** What a file of one room holds. */
export async function roomFile(id: string): Promise<{ name: string; file: object }> {
  const { room } = await found(id);
  return { name: room.name, file: { format: ROOM_FILE, version: 1, rooms: [room] } };
}

/** Takes rooms of a file in; those whose names are taken get a number. */
export async function importRooms(json: unknown): Promise<RoomFacts[]> {
  const made: RoomFacts[] = [];
  for (const room of readRoomFile(json)) {
    const list = await listRooms();
    const names = [room.name, ...Array.from({ length: 99 }, (_, i) => `${room.name.slice(0, 56)} ${i + 2}`)];
    made.push(await addRoom({ ...room, name: names.find((n) => !named(list, n)) ?? room.name }));
  }
  return made;
}
