'use client';
import { clsx } from 'clsx';
import { soundSvg } from '@/core/report';
import type { SoundFigures } from '@/core/print';

const LOOK = {
  width: 640,
  height: 150,
  font: 'var(--font-mono)',
  text: 'var(--quiet)',
  grid: 'var(--line)',
  bar: 'var(--signal)',
};

/** Third octaves of the reference, and how alike left and right of its pairs are. */
export function SoundChart({ sound }: { sound: SoundFigures }) {
  const svg = soundSvg(sound, LOOK);
  return (
    <section aria-label="Spectrum and correlation" data-testid="sound-chart" className="mt-3">
      <h3 className="flex items-baseline justify-between font-[600]">
        Spectrum of the reference
        <span className="small font-[420] text-quiet">third octaves, dBFS</span>
      </h3>
      <div className="[&_svg]:h-auto [&_svg]:w-full" dangerouslySetInnerHTML={{ __html: svg }} />
      <p className="small flex flex-wrap gap-x-5 text-quiet">
        {sound.correlations.map((c) => (
          <span key={c.pair.join('/')}>
            {c.pair.join('/')} correlate{' '}
            <span className={clsx('figure', c.value < 0 ? 'text-warn' : 'text-text')}>{c.value.toFixed(2)}</span>, at
            the least <span className="figure text-text">{c.lowest.toFixed(2)}</span>
          </span>
        ))}
      </p>
    </section>
  );
}
