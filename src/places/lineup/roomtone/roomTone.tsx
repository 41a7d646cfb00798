'use client';
import { useDoc } from '@/client';
import { CutTone } from './cutTone';
import { Leftovers } from './leftovers';
import { ToneRow } from './toneRow';

/** The sound of the empty room: cut at a quiet place to an exact length, at hand, dropped in or filled into gaps. */
export function RoomTone() {
  const doc = useDoc('shelf');
  return (
    <section aria-label="Room tone" className="grid min-h-0 flex-1 grid-cols-2 gap-8 px-4 pt-3">
      <CutTone />
      <div className="flex min-h-0 flex-col">
        <div className="mb-1 flex items-baseline justify-between">
          <h3 className="font-[580]">On the shelf</h3>
          <Leftovers />
        </div>
        {doc.shelf.length === 0 && (
          <p className="small text-quiet">Nothing yet. Take it from a line, or from a clip of the empty room.</p>
        )}
        <ol className="min-h-0 overflow-y-auto">
          {doc.shelf.map((tone) => (
            <ToneRow key={tone.id} tone={tone} />
          ))}
        </ol>
      </div>
    </section>
  );
}
