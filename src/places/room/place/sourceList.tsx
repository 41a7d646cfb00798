'use client';
import { clsx } from 'clsx';
import { stemOfTrack } from '@/core/paths';
import { select, useDoc, useDocPart } from '@/client';

import { layoutOf } from '@/core/speakers';
import { StemTag } from '@/parts';

/** All sources with their places, to choose from. */
export function SourceList({ track }: { track: string | null }) {
  const doc = useDoc('tracks');
  const stems = useDocPart((d) => d.tracks.map((t) => stemOfTrack(d, t.destination)));
  return (
    <section className="mt-5 min-h-0">
      <h3 className="mb-1 font-[600]">Sources</h3>
      <ul className="grid grid-cols-2 gap-x-6">
        {doc.tracks.map((t, i) => {
          const stem = stems[i];
          const placed = t.layout === 'mono' || t.layout === 'stereo';
          return (
            <li key={t.id} className="border-b">
              <button
                className={clsx('flex h-7 w-full items-center gap-2 text-left', t.id === track && 'text-brass')}
                aria-current={t.id === track}
                onClick={() => select({ kind: 'track', id: t.id })}
              >
                {stem ? <StemTag bus={stem} /> : <span className="w-6.75 text-center text-warn">–</span>}
                <span className="truncate">{t.name}</span>
                <span className="figure ml-auto text-quiet">
                  {placed
                    ? `${t.placement.azimuth}° ${Math.round(t.placement.distance * 100)}%`
                    : layoutOf(t.layout).name}
                </span>
              </button>
            </li>
          );
        })}
      </ul>
    </section>
  );
}
