import { clsx } from 'clsx';
import type { ReactNode } from 'react';
import type { RoomFault } from '@/core/rooms';

const DOTS: Record<RoomFault['grade'], string> = { stop: 'bg-stop', warn: 'bg-warn', note: 'bg-quiet' };

/** What is wrong with a room, each with its grade, and what else is to be said. */
export function FaultList({
  label,
  faults,
  children,
}: {
  label: string;
  faults: readonly RoomFault[];
  children?: ReactNode;
}) {
  return (
    <div className="small mt-3 flex flex-col gap-1" aria-label={label} role="list">
      {faults.map((f) => (
        <p key={f.text} role="listitem" className="flex items-baseline gap-2">
          <span className={clsx('inline-block size-1.75 shrink-0 rounded-full', DOTS[f.grade])} />
          {f.text}
        </p>
      ))}
      {children}
    </div>
  );
}
