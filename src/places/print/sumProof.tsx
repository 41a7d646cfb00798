'use client';
import { clsx } from 'clsx';
import { linkedSentences, type ProvedRange, type SumProof as Sum } from '@/core/print';

/** Do the stems add up to each reference? The figure, the verdict and, if not, why. */
export function SumProof({ range, milliseconds }: { range: ProvedRange; milliseconds: number | null }) {
  const { sum, moreSums = [] } = range;
  if (!sum)
    return (
      <p className="small text-quiet">
        Stems and reference were not both printed in the mix&apos;s layout, so they could not be added up.
      </p>
    );
  return (
    <section aria-label="Do the stems add up?" data-testid="sum">
      <h3 className="font-[600]">Do the stems add up?</h3>
      {[sum, ...moreSums].map((s, i) => (
        <OneSum key={i} sum={s} named={moreSums.length > 0} />
      ))}
      {milliseconds !== null && (
        <p className="small mt-2 text-quiet">Printed and measured in {(milliseconds / 1000).toFixed(1)} s.</p>
      )}
    </section>
  );
}

function OneSum({ sum, named }: { sum: Sum; named: boolean }) {
  const to = named && sum.reference ? sum.reference : 'the reference';
  return (
    <div className="mt-1 [&+&]:mt-4">
      <p className="flex items-baseline gap-2">
        <span
          className={clsx('figure text-clock', sum.equal ? 'text-fine' : 'text-warn')}
          data-difference={Number.isFinite(sum.difference) ? sum.difference : -999}
        >
          {sum.difference === -Infinity ? 'equal' : sum.difference.toFixed(1)}
        </span>
        <span className="small text-quiet">{sum.difference === -Infinity ? 'to the bit' : 'dBFS peak difference'}</span>
      </p>
      <p className={clsx('font-[580]', sum.equal ? 'text-fine' : 'text-warn')}>
        {sum.equal ? `They add up to ${to}.` : `They do not add up to ${to}.`}
      </p>
      {sum.reasons.map((r) => (
        <p key={r} className="small text-warn">
          · {r}
        </p>
      ))}
      {sum.equal &&
        sum.left.map(({ name, why }) => (
          <p key={name} className="small text-quiet">
            · {name} is not in the sum: {why}
          </p>
        ))}
      {sum.linked &&
        linkedSentences(sum.linked).map((text) => (
          <p key={text} className="small text-quiet">
            · {text}
          </p>
        ))}
      <p className="small mt-1 text-quiet">{sum.sentence}</p>
    </div>
  );
}
