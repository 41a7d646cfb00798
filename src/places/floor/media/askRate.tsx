'use client';
import { RATE_QUALITY } from '@/core/files';
import { Dialog } from '@/parts';
import { answerRates, useImports } from './importFiles';

const khz = (rate: number) => `${rate / 1000} kHz`;

/** Files at another rate than the session: one question for all of them before anything is converted. */
export function AskRate() {
  const { asked, total } = useImports();
  const open = asked.length > 0 && total === 0;
  const [first] = asked;
  return (
    <Dialog
      open={open}
      onClose={() => void answerRates(false)}
      title={asked.length === 1 ? 'Another sample rate' : `${asked.length} files at other sample rates`}
      note={first ? `The session runs at ${khz(first.to)}. Nothing of them has been brought in yet.` : undefined}
    >
      <ul className="max-h-55 overflow-y-auto border-y">
        {asked.map((a) => (
          <li key={a.id} className="flex justify-between gap-3 py-0.5">
            <span className="truncate">{a.name}</span>
            <span className="figure shrink-0 text-quiet">{khz(a.from)}</span>
          </li>
        ))}
      </ul>
      <p className="small mt-2 text-quiet">Converted: {RATE_QUALITY}. The files that you gave stay as they are.</p>
      <div className="mt-4 flex justify-end gap-2">
        <button className="btn" onClick={() => void answerRates(false)}>
          Leave {asked.length === 1 ? 'it' : 'them'} out
        </button>
        <button className="btn btn-main" onClick={() => void answerRates(true)}>
          Convert {asked.length === 1 ? 'it' : `all ${asked.length}`}
        </button>
      </div>
    </Dialog>
  );
}
