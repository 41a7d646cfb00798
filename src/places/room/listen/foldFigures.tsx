'use client';
import { readFold, readLoudness, useDoc, leavingKey } from '@/client';
import type { HeardAs } from '@/core/engine';
import { layoutOf } from '@/core/speakers';
import { formatDb } from '@/core/units';
import { Meter, useTick } from '@/parts';

/** A tenth of a second: so often its figures are new. */
const EACH = 200;
/** dB of loss in a channel from which on it is told (common practice, no source). */
const CANCELS = -3;
/** Correlation below which left and right work against each other. */
const AGAINST = -0.2;

/** What is heard, beside the whole mix: loudness, true peak, phase, and what is lost on the way. */
export function FoldFigures({ heardAs }: { heardAs: HeardAs | null }) {
  const mix = layoutOf(useDoc('format').format.layout);
  useTick(EACH);
  const whole = readLoudness();
  const fold = readFold();
  const heard =
    heardAs === null
      ? mix
      : heardAs.as === 'layout'
        ? layoutOf(heardAs.layout)
        : layoutOf(heardAs.as === 'four' && heardAs.way !== 'encoded' ? 'quad' : 'stereo');
  const readings = fold?.readings ?? [];
  const known = readings.flatMap((r) => (r.correlation === null ? [] : [r.correlation]));
  const correlation = known.length > 0 ? known.reduce((a, b) => a + b, 0) / known.length : null;
  const losses = heard.speakers.map((_, c) => {
    const of = readings.flatMap((r) => (r.loss[c] == null ? [] : [r.loss[c]]));
    return of.length > 0 ? of.reduce((a, b) => a + b, 0) / of.length : null;
  });
  const told = losses.flatMap((loss, c) =>
    loss !== null && loss < CANCELS ? [`${heard.speakers[c]!.label} loses ${formatDb(-loss)} dB`] : [],
  );
  const row = (name: string, l: { integrated: number; shortTerm: number; truePeak: number } | null, phase: string) => (
    <tr className="figure h-7 border-b text-right" data-figures={name}>
      <td className="text-left font-sans">{name}</td>
      <td>{l ? formatDb(l.integrated) : '–'}</td>
      <td>{l ? formatDb(l.shortTerm) : '–'}</td>
      <td>{l ? formatDb(l.truePeak) : '–'}</td>
      <td>{phase}</td>
    </tr>
  );
  return (
    <div className="mt-4">
      <table className="w-full">
        <thead>
          <tr className="small border-b text-right text-quiet [&_th]:py-1.5 [&_th]:font-[420]">
            <th className="text-left">since it rolls</th>
            <th>LUFS</th>
            <th>short</th>
            <th>dBTP</th>
            <th>correlation L R</th>
          </tr>
        </thead>
        <tbody>
          {row(`the reference, ${mix.name}`, whole, '')}
          {heardAs &&
            row(`heard: ${heard.name}`, fold, correlation === null ? '–' : correlation.toFixed(2).replace('-', '−'))}
        </tbody>
      </table>
      <p className="small mt-2 h-5" role="status" data-testid="fold-loss">
        {told.length > 0 ? (
          <span className="text-warn">Cancels in the fold-down: {told.join(', ')}.</span>
        ) : correlation !== null && correlation < AGAINST ? (
          <span className="text-warn">Left and right work against each other: mono will lose much.</span>
        ) : (
          <span className="text-quiet">
            {heardAs?.as === 'layout' && readings.length > 0 ? 'Nothing cancels.' : ''}
          </span>
        )}
      </p>
      <ul className="mt-2 grid grid-cols-2 gap-x-6">
        {heard.speakers.map((s, c) => (
          <li key={s.label} className="flex h-6 items-center gap-3">
            <span className="w-9.5 font-[600]">{s.label}</span>
            <Meter
              className="flex-1"
              keys={[leavingKey(heardAs ? 'heard-as' : 'monitor', c)]}
              label={`Heard in ${s.label}`}
            />
          </li>
        ))}
      </ul>
    </div>
  );
}
