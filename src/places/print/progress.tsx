'use client';
import { ask } from '@/client';
import type { PrintFacts } from './usePrints';

export function Progress({ print }: { print: PrintFacts }) {
  const percent = Math.round(print.share * 100);
  return (
    <div
      className="mt-3 flex items-center gap-3"
      role="progressbar"
      aria-valuenow={percent}
      aria-label={`Print ${print.version}`}
    >
      <div className="h-2 flex-1 overflow-hidden rounded-[2px] bg-track">
        <div className="h-full bg-brass" style={{ width: `${percent}%` }} />
      </div>
      <span className="figure w-[5ch] text-right">{percent} %</span>
      <span className="small w-[150px] text-quiet">
        {print.phase === 'measuring' ? 'measuring' : 'printing'}
        {print.left !== null && `, ${Math.ceil(print.left / 1000)} s left`}
      </span>
      <button className="btn btn-bare" onClick={() => void ask(`/api/prints/${print.id}`, undefined, 'DELETE')}>
        Cancel
      </button>
    </div>
  );
}
