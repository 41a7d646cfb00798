'use client';
import { nanoid } from 'nanoid';
import { edit, hearAs, useDoc } from '@/client';
import type { HeardAs } from '@/core/engine';
import { foldDown, ITU_FOLD, layoutOf, type FoldOptions } from '@/core/speakers';
import { toDb } from '@/core/units';
import { Choice, NumberField, TextField } from '@/parts';

const LOWEST = -100;
const ITU = '-';
const OWN = '+';

const same = (a: FoldOptions, b: FoldOptions): boolean =>
  (['centre', 'surround', 'lfe'] as const).every((what) => Math.abs(a[what] - b[what]) < 1e-9);

/** What folds the mix into what is heard: coefficients that can be set, kept under a name, and asked of a file. */
export function FoldTable({ heardAs }: { heardAs: Extract<HeardAs, { as: 'layout' }> | null }) {
  const doc = useDoc('format', 'folds');
  const mix = layoutOf(doc.format.layout);
  const to = heardAs ? layoutOf(heardAs.layout) : mix;
  const options: FoldOptions = heardAs?.fold ?? ITU_FOLD;
  const folds = doc.folds ?? [];
  const known = folds.find((f) => same(f, options));
  const own = heardAs?.fold !== undefined && !same(options, ITU_FOLD);
  const gains = foldDown(mix, to, options);
  const hear = (fold: FoldOptions | undefined) =>
    heardAs && hearAs({ ...heardAs, ...(fold ? { fold } : { fold: undefined }) });
  const field = (label: string, what: keyof FoldOptions) => (
    <label className="flex items-center gap-1.5">
      <span className="small text-quiet">{label}</span>
      <NumberField
        {...{ label, unit: 'dB', min: LOWEST, max: 0, step: 0.1, disabled: !heardAs }}
        value={options[what] > 0 ? Math.max(LOWEST, toDb(options[what])) : LOWEST}
        reset={ITU_FOLD[what] > 0 ? toDb(ITU_FOLD[what]) : LOWEST}
        onChange={(db) => hear({ ...options, [what]: db <= LOWEST ? 0 : 10 ** (db / 20) })}
      />
    </label>
  );
  const keep = () => {
    const names = new Set(folds.map((f) => f.name));
    const name = ['Own fold-down', ...Array.from({ length: 20 }, (_, i) => `Own fold-down ${i + 2}`)].find(
      (n) => !names.has(n),
    )!;
    edit({ type: 'setFold', id: `fold-${nanoid(6)}`, name, ...options });
  };
  return (
    <>
      <h2 className="title mb-1">
        {heardAs ? `${to.name} from ${mix.name}` : `${mix.name}, as it is mixed`}{' '}
        {heardAs && (
          <span className="small font-[420] text-quiet">
            {own ? (known?.name ?? 'coefficients of your own') : 'ITU-R BS.775'}
          </span>
        )}
      </h2>
      {heardAs && (
        <div className="mb-3 flex flex-wrap items-center gap-x-4 gap-y-1">
          {field('centre', 'centre')}
          {field('surrounds and heights', 'surround')}
          {field('LFE', 'lfe')}
          <Choice
            look="bare"
            label="Coefficients"
            value={own ? (known?.id ?? OWN) : ITU}
            options={[
              { value: ITU, label: 'ITU-R BS.775' },
              ...folds.map((f) => ({ value: f.id, label: f.name })),
              ...(own && !known ? [{ value: OWN, label: 'not kept' }] : []),
            ]}
            onChange={(id) => {
              const set = folds.find((f) => f.id === id);
              if (id !== OWN) hear(set && { centre: set.centre, surround: set.surround, lfe: set.lfe });
            }}
          />
          {own && !known && (
            <button className="btn" onClick={keep}>
              Keep in this session
            </button>
          )}
          {known && (
            <>
              <TextField
                label="Name of these coefficients"
                value={known.name}
                className="w-35"
                onChange={(name) => edit({ type: 'setFold', ...known, name })}
              />
              <button className="btn btn-bare" onClick={() => edit({ type: 'removeFold', id: known.id })}>
                Remove
              </button>
            </>
          )}
        </div>
      )}
      {heardAs && (
        <table className="w-full">
          <thead>
            <tr className="small border-b text-right text-quiet [&_th]:py-1.5 [&_th]:font-[420]">
              <th className="text-left">from</th>
              {to.speakers.map((s) => (
                <th key={s.label}>{s.label}</th>
              ))}
            </tr>
          </thead>
          <tbody>
            {mix.speakers.map((s, i) => (
              <tr key={s.label} className="figure h-6.25 border-b text-right">
                <td className="text-left font-[600]">{s.label}</td>
                {gains[i]!.map((g, c) => (
                  <td key={c} className={g ? '' : 'text-quiet'}>
                    {g === 0 ? '·' : g === 1 ? '1' : g.toFixed(3)}
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </>
  );
}
