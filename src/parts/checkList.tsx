'use client';
import { clsx } from 'clsx';
import { memo } from 'react';
import { mend } from '@/client';
import type { Check, Grade } from '@/core/checks';

export const GRADE_COLOUR: Record<Grade, string> = { stop: 'var(--stop)', warn: 'var(--warn)', note: 'var(--signal)' };

/** One finding: what is wrong, what follows, the mend. */
export const CheckCard = memo(function CheckCard({
  check,
  compact = false,
  onMended,
}: {
  check: Check;
  compact?: boolean;
  onMended?: () => void;
}) {
  const colour = GRADE_COLOUR[check.grade];
  return (
    <article
      className="rounded-md border p-3"
      style={{ borderColor: check.grade === 'note' ? 'var(--line)' : colour }}
      data-check={check.id}
    >
      <h4 className="flex items-baseline gap-2 font-[620]">
        <span className="inline-block size-1.75 shrink-0 rounded-full" style={{ background: colour }} />
        <span>{check.title}</span>
        <span className="sr-only">({check.grade})</span>
      </h4>
      <p className="small ml-3.75 mt-0.5 text-quiet">{check.why}</p>
      {check.mends.length > 0 && (
        <div className={clsx('ml-3.75 flex flex-wrap gap-2', compact ? 'mt-1.5' : 'mt-2.5')}>
          {check.mends.map((m, i) => (
            <button
              key={m.label}
              className={clsx('btn', i === 0 ? 'btn-main' : 'btn-bare')}
              onClick={() => {
                if (mend(m)) onMended?.();
              }}
            >
              {m.label}
            </button>
          ))}
        </div>
      )}
    </article>
  );
});

export function CheckList({ checks, empty }: { checks: readonly Check[]; empty: string }) {
  if (checks.length === 0) {
    return (
      <p className="small flex items-center gap-2 text-quiet">
        <span className="inline-block size-1.75 rounded-full bg-fine" />
        {empty}
      </p>
    );
  }
  return (
    <div className="flex flex-col gap-2.5">
      {checks.map((c) => (
        <CheckCard key={c.id} check={c} />
      ))}
    </div>
  );
}
