'use client';
import { formatDb } from '@/core/units';
import type { PrintFacts } from './usePrints';

/** Do the stems add up to the reference? The figure, the verdict and, if not, why. */
export function SumProof({ print }: { print: PrintFacts }) {
  const { sum } = print.proof!;
  if (!sum)
    return (
      <p className="small text-quiet">
        Stems and reference were not both printed in the mix&apos;s layout, so they could not be added up.
      </p>
    );
  return (
    <section aria-label="Do the stems add up?" data-testid="sum">
      <h3 className="font-[600]">Do the stems add up?</h3>
      <p className="mt-1 flex items-baseline gap-2">
        <span
          className={`figure text-[25px]! ${sum.equal ? 'text-fine' : 'text-warn'}`}
          data-difference={sum.difference ?? -999}
        >
          {formatDb(sum.difference ?? -Infinity)}
        </span>
        <span className="small text-quiet">dBFS peak difference</span>
      </p>
      <p className={`font-[580] ${sum.equal ? 'text-fine' : 'text-warn'}`}>
        {sum.equal ? 'They add up to the reference.' : 'They do not add up to the reference.'}
      </p>
      {sum.reasons.map((r) => (
        <p key={r} className="small text-warn">
          · {r}
        </p>
      ))}
      <p className="small mt-1 text-quiet">{sum.sentence}</p>
      {print.milliseconds !== null && (
        <p className="small mt-2 text-quiet">Printed and measured in {(print.milliseconds / 1000).toFixed(1)} s.</p>
      )}
    </section>
  );
}
