import type { RoomFault } from '@/core/rooms';
import type { Check } from './check';
import type { Live } from './live';

const slug = (text: string): string =>
  text
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '-')
    .slice(0, 60);

/** What is wrong with the room that this machine plays in, beside what is only to know. */
export function roomCheck({ room }: Live): Check[] {
  if (!room) return [];
  return room.faults
    .filter((f: RoomFault) => f.grade !== 'note')
    .map((f) => ({
      id: `in-room/${slug(f.text)}`,
      grade: f.grade,
      place: 'room' as const,
      about: [],
      title: `${room.name}: ${f.speakers.length > 0 ? f.speakers.join(', ') : 'no output'}`,
      why: f.text,
      mends: [],
    }));
}
