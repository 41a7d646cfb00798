import equal from 'fast-deep-equal';
import { edit, useDoc, useDocPart } from '@/client';
import { printRanges, type PrintFacts } from '@/core/print';
import { timecodeOf } from '@/parts';

/** Where the session's range has moved on since: the print that is shown is of its own. */
export function OwnRange({ print }: { print: PrintFacts }) {
  const doc = useDoc('format', 'printing');
  const ranges = useDocPart(printRanges);
  if (equal(print.ranges, ranges)) return null;
  const several = print.ranges.length > 1 || print.ranges[0]?.name !== '';
  return (
    <p className="small mt-2 flex items-center gap-2 text-quiet" data-testid="own-range">
      <span>
        Print {print.version} {several ? `is of ${print.ranges.length} ranges` : 'runs'} from{' '}
        <span className="figure text-text">{timecodeOf(doc, print.start)}</span> to{' '}
        <span className="figure text-text">{timecodeOf(doc, print.end)}</span>; what would be printed now is something
        else.
      </span>
      {!several && (
        <button
          className="chip"
          onClick={() =>
            edit(
              { type: 'setRange', start: print.start, end: print.end },
              ...(doc.printing?.by ? [{ type: 'setPrinting' as const, by: 'range' as const }] : []),
            )
          }
        >
          Take its range
        </button>
      )}
    </p>
  );
}
