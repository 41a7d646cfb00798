'use client';
import { clearOvers, mend, useChecks, useOvers } from '@/client';
import type { SessionDoc } from '@/core/session';
import { SumNow } from '../sumNow';

/** Whether the stems add up now, and the gravest finding on the paths with its mend. */
export function Foot({ doc }: { doc: SessionDoc }) {
  const checks = useChecks((s) => s.checks);
  const found = checks.filter((c) => c.place === 'flow');
  const overs = useOvers((s) => Object.keys(s.overs).length);
  const [first] = found;
  return (
    <div className="mx-4 flex min-h-11 items-stretch gap-3" data-foot>
      <SumNow doc={doc} />
      <div className="flex min-w-0 flex-1 items-center gap-3 rounded-md border px-3">
        {first ? (
          <>
            <span
              className="size-1.75 shrink-0 rounded-full"
              style={{
                background:
                  first.grade === 'note' ? 'var(--signal)' : first.grade === 'stop' ? 'var(--stop)' : 'var(--warn)',
              }}
            />
            <span className="min-w-0 flex-1 truncate" title={first.why}>
              <b className="font-[600]">{first.title}</b> <span className="small text-quiet">{first.why}</span>
            </span>
            {first.mends[0] && (
              <button className="btn" onClick={() => mend(first.mends[0]!)}>
                {first.mends[0].label}
              </button>
            )}
            {found.length > 1 && (
              <span className="small whitespace-nowrap text-quiet">and {found.length - 1} more</span>
            )}
          </>
        ) : (
          <span className="small text-quiet">Every source reaches one stem, every stem the reference.</span>
        )}
        {overs > 0 && (
          <button className="btn btn-bare" onClick={() => clearOvers()}>
            Clear all overs
          </button>
        )}
      </div>
    </div>
  );
}
