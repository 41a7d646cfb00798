'use client';
import { live, mend, useChecks, useDocPart } from '@/client';
import { byGrade, rollCheck } from '@/core/checks';
import { GRADE_COLOUR } from '@/parts';

/** The gravest finding on armed tracks, in one line with its mend. */
export function LineupChecks() {
  const { checks } = useChecks();
  const doc = useDocPart((d) => (d.tracks.some((t) => t.armed) ? d : null));
  const roll = doc ? rollCheck(doc, live()) : [];
  const check = byGrade([...checks.filter((c) => c.place === 'lineup'), ...roll]).find((c) => c.grade !== 'note');
  if (!check) return null;
  return (
    <div
      className="flex min-w-0 flex-1 items-center gap-3 rounded-md border px-3 py-1.5"
      style={{ borderColor: GRADE_COLOUR[check.grade] }}
    >
      <span className="size-1.75 shrink-0 rounded-full" style={{ background: GRADE_COLOUR[check.grade] }} />
      <span className="min-w-0">
        <b className="block truncate font-[600]">{check.title}</b>
        <span className="small block truncate text-quiet">{check.why}</span>
      </span>
      <span className="ml-auto flex shrink-0 gap-2">
        {check.mends.map((m, i) => (
          <button key={m.label} className={i === 0 ? 'btn btn-main' : 'btn btn-bare'} onClick={() => mend(m)}>
            {m.label}
          </button>
        ))}
      </span>
    </div>
  );
}
