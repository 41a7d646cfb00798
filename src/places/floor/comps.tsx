'use client';
import { Plus, Trash2 } from 'lucide-react';
import { nanoid } from 'nanoid';
import { edit } from '@/client';
import type { Track } from '@/core/session';

/** The comps of a track: the shown one, and those beside it. */
export function Comps({ track }: { track: Track }) {
  const others = track.otherComps ?? [];
  if (track.takes.length < 2 && others.length === 0) return null;
  return (
    <section className="mt-4 border-t pt-3" aria-label="Comps">
      <div className="flex items-center justify-between">
        <h3 className="font-[580]">Comps of {track.name}</h3>
        <button
          className="chip"
          title="Keep this comp and go on with a copy"
          onClick={() =>
            edit({
              type: 'newComp',
              track: track.id,
              id: `k-${nanoid(6)}`,
              name: `Comp ${others.length + 2}`,
              begin: 'copy',
            })
          }
        >
          <Plus size={13} /> Another
        </button>
      </div>
      <ul className="mt-1">
        <li className="flex items-center py-0.5">
          <span className="mr-2 size-1.75 rounded-full bg-brass" />
          {track.compName ?? 'Comp 1'} <span className="small ml-auto text-quiet">shown</span>
        </li>
        {others.map((c) => (
          <li key={c.id} className="flex items-center gap-1 py-0.5">
            <button
              className="flex-1 pl-3.75 text-left hover:text-brass"
              onClick={() => edit({ type: 'chooseComp', track: track.id, comp: c.id })}
            >
              {c.name} <span className="small text-quiet">{c.clips.length} clips</span>
            </button>
            <button
              className="chip border-0"
              aria-label={`Remove ${c.name}`}
              title="Remove this comp; takes stay"
              onClick={() => edit({ type: 'removeComp', track: track.id, comp: c.id })}
            >
              <Trash2 size={12} />
            </button>
          </li>
        ))}
      </ul>
    </section>
  );
}
