'use client';
import { clsx } from 'clsx';
import { SHEET_PARAMS } from '@/core/session';
import { edit, useDevices } from '@/client';
import type { Line } from '@/core/session';
import { fieldOf, NumberField, Segments } from '@/parts';

/** The head of a line: phantom power, pad, polarity, gain, and what is recorded. */
export function LineSettings({ line }: { line: Line }) {
  const settable = useDevices((s) => s.list.find((d) => d.id === line.device)?.settable ?? false);
  const { sheet } = line;
  const needs = sheet.kind === 'condenser' && !sheet.phantom;
  const chip = (label: string, pressed: boolean, text: string, onClick: () => void, tone = '') => (
    <button
      className={clsx('chip', pressed && 'text-fine', tone)}
      aria-pressed={pressed}
      aria-label={label}
      title={label}
      onClick={onClick}
    >
      {text}
    </button>
  );
  const set = (
    part: Partial<
      Pick<Parameters<typeof edit>[0] & { type: 'setLine' }, 'phantom' | 'pad' | 'inverted' | 'gain' | 'record'>
    >,
  ) => edit({ type: 'setLine', line: line.id, ...part });
  return (
    <>
      <div className="mt-3 flex items-center gap-1.5">
        {chip(
          'Phantom power',
          sheet.phantom,
          sheet.phantom ? '48 V on' : '48 V off',
          () => set({ phantom: !sheet.phantom }),
          needs ? 'border-stop text-stop' : '',
        )}
        {chip('Pad', sheet.pad < 0, sheet.pad < 0 ? `pad ${sheet.pad}` : 'pad off', () =>
          set({ pad: sheet.pad < 0 ? 0 : -20 }),
        )}
        {chip('Reverse polarity', sheet.inverted, 'ø', () => set({ inverted: !sheet.inverted }))}
        <span className="small ml-auto text-quiet">gain</span>
        <NumberField
          label="Gain of the line"
          value={sheet.gain}
          {...fieldOf(SHEET_PARAMS.gain)}
          onChange={(gain) => set({ gain })}
        />
      </div>
      <p className="small mt-1 text-quiet">
        {[sheet.model, sheet.kind, sheet.position].filter(Boolean).join(' · ')}
        {settable ? '' : ' · set at the device, written down here'}
      </p>
      {sheet.note && <p className="small text-quiet">{sheet.note}</p>}
      <div className="mt-2">
        <Segments
          label="What is recorded"
          value={line.record}
          onChange={(record) => set({ record })}
          options={[
            { value: 'both', label: 'processed + dry' },
            { value: 'processed', label: 'processed' },
            { value: 'dry', label: 'dry' },
          ]}
        />
      </div>
    </>
  );
}
