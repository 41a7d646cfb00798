'use client';
import { clsx } from 'clsx';
import { stemOfTrack } from '@/core/paths';
import { useDoc } from '@/client';
import { type PlannedTrack } from '@/core/session';
import { layoutOf } from '@/core/speakers';
import { StemTag } from '@/parts';

const KIND_WORD: Record<PlannedTrack['kind'], string> = { recording: '', stem: 'stem', bus: 'bus', return: 'return' };

/** What the rows would make, before anything is made. */
export function PlannedList({ planned }: { planned: readonly PlannedTrack[] }) {
  const doc = useDoc();
  return (
    <section aria-label="Result" className="flex min-h-0 flex-col">
      <h3 className="small mb-1 text-quiet">Result</h3>
      <ol className="grid min-h-0 grid-cols-2 content-start gap-x-6 overflow-y-auto">
        {planned.map((p, i) => {
          const stem = p.kind === 'recording' ? stemOfTrack(doc, p.destination) : undefined;
          return (
            <li key={i} className="flex h-6.25 items-center gap-2 border-b" data-planned>
              <span className="figure w-[3ch] text-right text-quiet">{i + 1}</span>
              <span
                className={clsx('truncate font-[540]', p.taken && 'text-warn')}
                title={p.taken ? 'This name is taken already' : p.name}
              >
                {p.name}
              </span>
              <span className="small whitespace-nowrap text-quiet">
                {layoutOf(p.layout).name} {KIND_WORD[p.kind]}
              </span>
              <span className="ml-auto">
                {stem ? <StemTag bus={stem} /> : <span className="small text-quiet">{whereTo(p)}</span>}
              </span>
            </li>
          );
        })}
      </ol>
    </section>
  );
}

const whereTo = (p: PlannedTrack): string =>
  p.destination === null ? (p.kind === 'recording' ? 'nowhere' : '→ ref') : `→ ${p.destination}`;
