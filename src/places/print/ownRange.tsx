import { edit, useDoc } from '@/client';
import { timecodeOf } from '@/parts';
import type { PrintFacts } from './usePrints';

/** Where the session's range has moved on since: the print that is shown is of its own. */
export function OwnRange({ print }: { print: PrintFacts }) {
  const doc = useDoc();
  if (print.start === doc.range.start && print.end === doc.range.end) return null;
  return (
    <p className="small mt-2 flex items-center gap-2 text-quiet" data-testid="own-range">
      <span>
        Print {print.version} runs from <span className="figure text-text">{timecodeOf(doc, print.start)}</span> to{' '}
        <span className="figure text-text">{timecodeOf(doc, print.end)}</span>; the session’s range has moved on.
      </span>
      <button className="chip" onClick={() => edit({ type: 'setRange', start: print.start, end: print.end })}>
        Take its range
      </button>
    </p>
  );
}
