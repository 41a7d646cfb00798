'use client';
import { useEffect } from 'react';
import { useSelection, useSession } from '@/client';
import { Segments } from '@/parts';
import { ClipPanel } from './clipPanel';
import { showSide, useFloor } from './floorState';
import { MediaList } from './media/mediaList';
import { Picture } from './picture';
import { Script } from './script/script';
import { TakeNote } from './takeNote';
import { Takes } from './takes';
import { Timeline } from './timeline';

const SIDES = [
  { value: 'script', label: 'Script' },
  { value: 'takes', label: 'Takes' },
  { value: 'clip', label: 'Clip' },
  { value: 'media', label: 'Files' },
] as const;

/** Picture and script on the left, the timeline, destinations on the right edge of the rows. */
export function Floor() {
  const ready = useSession((s) => s.doc !== null);
  const scripted = useSession((s) => (s.doc?.cues.length ?? 0) > 0);
  // A session with a script opens on it.
  const side = useFloor((s) => s.side) ?? (scripted ? 'script' : 'takes');
  useEffect(
    () =>
      useSelection.subscribe((now, before) => {
        if (now.selected?.kind === 'clip' && before.selected?.id !== now.selected.id) showSide('clip');
      }),
    [],
  );
  if (!ready) return null;
  return (
    <>
      <aside
        className="flex w-[clamp(272px,21vw,520px)] shrink-0 flex-col border-r bg-panel"
        aria-label="Picture and script"
      >
        <Picture />
        <div className="px-3 pt-2">
          <Segments label="Below the picture" value={side} options={SIDES} onChange={showSide} />
        </div>
        {side === 'script' && <Script />}
        {side === 'takes' && <Takes />}
        {side === 'clip' && <ClipPanel />}
        {side === 'media' && <MediaList />}
      </aside>
      <Timeline />
      <TakeNote />
    </>
  );
}
