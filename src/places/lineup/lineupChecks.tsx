'use client';
import { live, useChecks, useDoc } from '@/client';
import { rollCheck } from '@/core/checks';
import { GRADE_COLOUR } from '@/parts';
import { edit } from '@/client';

/** The gravest finding on armed tracks, in one line with its mend. */
export function LineupChecks() {
  const doc = useDoc();
  useChecks();
  if (!doc.tracks.some((t) => t.armed)) return null;
  const check = rollCheck(doc, live()).find((c) => c.grade !== 'note');
  if (!check) return null;
  return (
    <div
      className="flex min-w-0 flex-1 items-center gap-3 rounded-md border px-3 py-1.5"
      style={{ borderColor: GRADE_COLOUR[check.grade] }}
    >
      <span className="size-[7px] shrink-0 rounded-full" style={{ background: GRADE_COLOUR[check.grade] }} />
      <span className="min-w-0">
        <b className="block truncate font-[600]">{check.title}</b>
        <span className="small block truncate text-quiet">{check.why}</span>
      </span>
      {check.mends[0] && (
        <button className="btn btn-main ml-auto" onClick={() => edit(...check.mends[0]!.edits)}>
          {check.mends[0].label}
        </button>
      )}
    </div>
  );
}
