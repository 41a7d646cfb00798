'use client';
import { useSession } from '@/client';
import { Picture } from './picture';
import { Takes } from './takes';
import { Timeline } from './timeline';

/** Picture and takes on the left, the timeline, destinations on the right edge of the rows. */
export function Floor() {
  const ready = useSession((s) => s.doc !== null);
  if (!ready) return null;
  return (
    <>
      <aside className="flex w-[272px] shrink-0 flex-col border-r bg-panel" aria-label="Picture and takes">
        <Picture />
        <Takes />
      </aside>
      <Timeline />
    </>
  );
}
