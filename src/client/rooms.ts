import { create } from 'zustand';
import { persist } from 'zustand/middleware';
import type { Room } from '@/core/rooms';
import { ask, ServerRefusal } from './http';
import { onRooms } from './session';

/** A room as the server keeps it. */
export interface RoomFacts {
  id: string;
  revision: number;
  room: Room;
  /** Whether something can be taken back. */
  undo: boolean;
}

/** Rooms of the server; null while they are not known. */
export const useRooms = create<{ list: RoomFacts[] | null }>(() => ({ list: null }));

/** The room that this machine plays in; null: headphones, or whatever the browser sounds on. */
export const useChosenRoom = create<{ id: string | null }>()(
  persist((): { id: string | null } => ({ id: null }), { name: 'wide-room-room', skipHydration: true }),
);
if (typeof window !== 'undefined') void useChosenRoom.persist.rehydrate();

export function chooseRoom(id: string | null): void {
  useChosenRoom.setState({ id });
}

/** The chosen room, where it is known. */
export const chosenRoom = (): RoomFacts | null =>
  useRooms.getState().list?.find((r) => r.id === useChosenRoom.getState().id) ?? null;

export async function loadRooms(): Promise<void> {
  const { rooms } = await ask<{ rooms: RoomFacts[] }>('/api/rooms');
  useRooms.setState({ list: rooms });
}

// Another window changed them: what plays here follows.
onRooms(() => void loadRooms().catch(() => {}));

function put(facts: RoomFacts): RoomFacts {
  useRooms.setState(({ list }) => ({
    list: list?.some((r) => r.id === facts.id)
      ? list.map((r) => (r.id === facts.id ? facts : r))
      : [...(list ?? []), facts],
  }));
  return facts;
}

// Another window was first: what it made is shown.
async function orReload<T>(work: Promise<T>): Promise<T> {
  return work.catch(async (error: Error) => {
    if (error instanceof ServerRefusal && (error.status === 409 || error.status === 404)) await loadRooms();
    throw error;
  });
}

export const addRoom = (room: Room): Promise<RoomFacts> => orReload(ask<RoomFacts>('/api/rooms', room)).then(put);

/** Keeps a room as it is now. Throws with a sentence; then it is shown as it was, or as another window made it. */
export const saveRoom = ({ id, revision }: RoomFacts, room: Room): Promise<RoomFacts> =>
  orReload(ask<RoomFacts>(`/api/rooms/${id}`, { revision, room }, 'PUT')).then(put);

export const undoRoom = ({ id, revision }: RoomFacts): Promise<RoomFacts> =>
  orReload(ask<RoomFacts>(`/api/rooms/${id}/undo`, { revision })).then(put);

export async function removeRoom(id: string): Promise<void> {
  await ask(`/api/rooms/${id}`, undefined, 'DELETE');
  if (useChosenRoom.getState().id === id) chooseRoom(null);
  await loadRooms();
}

/** Takes rooms of a file in; resolves with them. */
export async function takeRoomsIn(json: unknown): Promise<RoomFacts[]> {
  const { rooms } = await ask<{ rooms: RoomFacts[] }>('/api/rooms', json, 'PUT');
  rooms.forEach(put);
  return rooms;
}
