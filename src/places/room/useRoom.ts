'use client';
import { useMemo } from 'react';
import { toast } from 'sonner';
import { saveRoom, useCalibration, useChosenRoom, useInRoom, useRooms, type RoomFacts } from '@/client';
import { roomFaults, type Room, type RoomFault } from '@/core/rooms';

/** The room that this machine plays in; null where none is chosen. */
export function useRoom(): RoomFacts | null {
  const id = useChosenRoom((s) => s.id);
  return useRooms((s) => s.list?.find((r) => r.id === id) ?? null);
}

/** The room as it is being set by a calibration, or as it is kept. */
export function useShownRoom(): Room | null {
  const kept = useRoom();
  return useCalibration((s) => s.draft) ?? kept?.room ?? null;
}

/** What is wrong with the room as it is shown. */
export function useRoomFaults(room: Room | null): RoomFault[] {
  const output = useInRoom((s) => s.output);
  return useMemo(() => (room ? roomFaults(room, output) : []), [room, output]);
}

/** Keeps a changed room; what cannot be is told, and the room stays as it is. */
export const keep = (facts: RoomFacts, room: Room): Promise<void> =>
  saveRoom(facts, room).then(
    () => {},
    (error: Error) => void toast.error(error.message),
  );
