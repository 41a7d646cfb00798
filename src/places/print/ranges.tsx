import { clsx } from 'clsx';
import type { ProvedRange } from '@/core/print';
import { Choice } from '@/parts';

const bad = (r: ProvedRange): number => r.files.filter((f) => f.findings.some((x) => x.grade !== 'note')).length;
const apart = (r: ProvedRange): boolean => [r.sum, ...(r.moreSums ?? [])].some((s) => s?.equal === false);

/** The ranges of a print at a glance, and which of them is shown. */
export function Ranges({
  proven,
  shown,
  onShow,
}: {
  proven: readonly ProvedRange[];
  shown: number | null;
  onShow: (range: number | null) => void;
}) {
  const wrong = proven.filter((r) => bad(r) > 0 || apart(r)).length;
  const note = (r: ProvedRange) =>
    [bad(r) > 0 ? `${bad(r)} not as agreed` : '', apart(r) ? 'stems apart' : ''].filter(Boolean).join(', ');
  return (
    <p className="mt-2 flex items-center gap-3" data-testid="ranges-shown">
      <Choice
        label="Range shown"
        look="bare"
        value={shown === null ? 'all' : String(shown)}
        onChange={(v) => onShow(v === 'all' ? null : Number(v))}
        options={[
          { value: 'all', label: `all ${proven.length} ranges` },
          ...proven.map((r, i) => ({ value: String(i), label: r.name, note: note(r) })),
        ]}
      />
      <span className={clsx('small', wrong > 0 ? 'text-warn' : 'text-fine')}>
        {wrong === 0 ? 'each as agreed' : `${wrong} of ${proven.length} not as agreed`}
      </span>
    </p>
  );
}
