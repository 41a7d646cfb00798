'use client';
import { useDoc, useSelection } from '@/client';
import { PlacementFields } from './placementFields';
import { Plan } from './plan';
import { SourceList } from './sourceList';
import { SpeakerTable } from './speakerTable';

/** Where the sources stand, and what each speaker of the mix receives. */
export function PlaceLens({ bar }: { bar: React.ReactNode }) {
  const doc = useDoc('tracks');
  const selected = useSelection((s) => s.selected);
  const placed = doc.tracks.filter((t) => t.layout === 'mono' || t.layout === 'stereo');
  const track = doc.tracks.find((t) => selected?.kind === 'track' && t.id === selected.id) ?? placed[0];
  return (
    <>
      <section className="flex w-150 shrink-0 flex-col border-r" aria-label="Plan of the room">
        {bar}
        <Plan track={track?.id ?? null} />
        {track && <PlacementFields track={track} />}
      </section>
      <section className="flex min-w-0 flex-1 flex-col overflow-y-auto bg-panel p-4" aria-label="Speakers">
        <SpeakerTable track={track ?? null} />
        <SourceList track={track?.id ?? null} />
      </section>
    </>
  );
}
