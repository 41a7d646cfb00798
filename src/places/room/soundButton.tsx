'use client';
import { toast } from 'sonner';
import { openRoom, useInRoom } from '@/client';

/** Lets the loudspeakers of the chosen room sound, where they do not. */
export function SoundButton() {
  const { sounds, output } = useInRoom();
  if (sounds) return null;
  return (
    <button
      className="btn btn-main w-max"
      title={output ? undefined : 'Starts sound, and switches the output of the room on'}
      onClick={() => openRoom().catch((error: Error) => void toast.error(error.message))}
    >
      Let the room sound
    </button>
  );
}
