'use client';
import { clsx } from 'clsx';
import { calibrating, useCalibration } from '@/client';
import { run } from './run';

const MENDS = {
  swapped: 'Swap their ports here',
  reversed: 'Turn its sign here',
  distance: 'Write that down',
  dead: '',
} as const;

/** What bursts found wrong in the room, each with its mend. */
export function FoundList() {
  const { found } = useCalibration();
  return (
    <div className="mt-3 flex flex-col gap-2" role="list" aria-label="Found in the room">
      {found.map((f) => (
        <div
          key={f.text}
          role="listitem"
          data-found={f.kind}
          className={clsx(
            'flex items-center justify-between gap-4 rounded-md border px-3 py-2',
            !(f.kind === 'distance') && 'border-warn',
          )}
        >
          <p className="small">{f.text}</p>
          {f.mended && (
            <button className="btn shrink-0" onClick={() => run(() => calibrating().mend(f))}>
              {MENDS[f.kind]}
            </button>
          )}
        </div>
      ))}
      {found.length > 1 && found.some((f) => f.mended) && (
        <button className="btn self-start" onClick={() => run(() => found.forEach((f) => calibrating().mend(f)))}>
          Mend all that can be mended here
        </button>
      )}
    </div>
  );
}
