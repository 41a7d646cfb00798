'use client';
import { arm } from '@/client';
import type { Track } from '@/core/session';

/** Arms a track for recording: a ring, filled red when armed. */
export function ArmButton({ track }: { track: Track }) {
  return (
    <button
      aria-label={`Arm ${track.name}`}
      aria-pressed={track.armed ?? false}
      title={track.armed ? 'Disarm (A)' : 'Arm for recording (A)'}
      className="nodrag grid size-5 shrink-0 place-items-center rounded-full border-[1.5px]"
      style={{ borderColor: track.armed ? 'var(--rec)' : 'var(--line)' }}
      onClick={(e) => {
        e.stopPropagation();
        arm(track.id);
      }}
    >
      {track.armed && <span className="size-2.5 rounded-full bg-rec" />}
    </button>
  );
}
