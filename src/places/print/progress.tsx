'use client';
import { ask } from '@/client';
import { rangeText, type PrintInLine } from '@/core/print';
import { useDoc } from '@/client';
import { useLine } from './usePrints';

const whereText = (print: PrintInLine): string => {
  const { ranges, range, left, share } = print;
  const at = ranges.length > 1 && range !== null ? `${range + 1} of ${ranges.length}` : '';
  const rest = left === null ? '' : `${Math.ceil(left / 1000)} s left`;
  return [at, share < 0.5 || ranges.length > 1 ? 'printing' : 'measuring', rest].filter(Boolean).join(', ');
};

/** Prints that run and wait, of all sessions, in their order; each can be taken out. */
export function Line({ session }: { session: string }) {
  const line = useLine();
  const doc = useDoc();
  if (line.length === 0) return null;
  return (
    <ol className="mt-3 flex flex-col gap-1.5" aria-label="Line of prints">
      {line.map((print, i) => {
        const percent = Math.round(print.share * 100);
        const name = `${print.session === session ? '' : `${print.name}, `}Print ${print.version}`;
        return (
          <li key={print.id} className="flex items-center gap-3" data-in-line={print.state}>
            <span className="small w-50 truncate" title={name}>
              {name}
              {print.ranges.length > 1 && (
                <span className="text-quiet">
                  , {print.session === session ? rangesText(doc, print) : `${print.ranges.length} ranges`}
                </span>
              )}
            </span>
            {print.state === 'running' ? (
              <>
                <div
                  className="h-2 flex-1 overflow-hidden rounded-xs bg-track"
                  role="progressbar"
                  aria-valuenow={percent}
                  aria-label={name}
                >
                  <div className="h-full bg-brass" style={{ width: `${percent}%` }} />
                </div>
                <span className="figure w-[5ch] text-right">{percent} %</span>
                <span className="small w-37.5 text-quiet">{whereText(print)}</span>
              </>
            ) : (
              <span className="small flex-1 text-quiet">{i === 1 ? 'comes next' : `${i} before it`}</span>
            )}
            <button
              className="btn btn-bare"
              aria-label={`Cancel ${name}`}
              onClick={() => void ask(`/api/prints/${print.id}`, undefined, 'DELETE')}
            >
              Cancel
            </button>
          </li>
        );
      })}
    </ol>
  );
}

const rangesText = (doc: Parameters<typeof rangeText>[0], { ranges }: PrintInLine): string =>
  `${ranges.length} ranges from ${rangeText(doc, ranges[0]!)}`;
