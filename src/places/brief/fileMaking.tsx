'use client';
import { clsx } from 'clsx';
import { SlidersHorizontal } from 'lucide-react';
import { Popover } from 'radix-ui';
import { edit, useDoc } from '@/client';
import {
  wordLengthOf,
  ditherOf,
  admOf,
  FILE_KINDS,
  fileFormOf,
  rateOf,
  SAMPLE_RATES,
  type Deliverable,
  type SessionDoc,
} from '@/core/session';
import { Choice } from '@/parts';

const DITHERS = [
  { value: 'none', label: 'none' },
  { value: 'tpdf', label: 'triangular', note: 'two steps, common practice at 16 bit' },
  { value: 'shaped', label: 'shaped', note: 'quieter from 2 to 5 kHz, louder above' },
] as const;

/** What is said of a file beside its bits: "44.1", "shaped", "ADM". */
function said(doc: SessionDoc, d: Deliverable): string {
  const usual = wordLengthOf(doc, d) === 16 ? 'tpdf' : 'none';
  return [
    ...(d.fileKind ? [d.fileKind === 'AIFF' ? 'AIFF' : 'WAV'] : []),
    ...(d.perChannel === undefined ? [] : [d.perChannel ? 'split' : 'interleaved']),
    ...(rateOf(doc, d) === doc.format.sampleRate ? [] : [String(rateOf(doc, d) / 1000)]),
    ...(wordLengthOf(doc, d) === 32 || ditherOf(doc, d) === usual ? [] : [ditherOf(doc, d)]),
    ...(admOf(doc, d) ? [admOf(doc, d) === 'bed' ? 'ADM' : 'objects'] : []),
  ].join(' ');
}

/** How a file is made of the mix: its rate, the noise before its rounding, and whether it tells what its channels are. */
export function FileMaking({ deliverable: d, what }: { deliverable: Deliverable; what: string }) {
  const doc = useDoc();
  const set = (part: Omit<Extract<Parameters<typeof edit>[0], { type: 'setDeliverable' }>, 'type' | 'deliverable'>) =>
    edit({ type: 'setDeliverable', deliverable: d.id, ...part });
  const form = fileFormOf(doc, d);
  const words = said(doc, d);
  return (
    <Popover.Root>
      <Popover.Trigger
        aria-label={`How the file of ${what} is made`}
        title="Kind, channels, rate, dither, ADM"
        className={clsx(
          'small flex items-center gap-1 truncate rounded-sm px-1 hover:text-brass',
          !words && 'text-quiet/60',
        )}
      >
        {words || <SlidersHorizontal size={12} />}
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="end"
          sideOffset={6}
          className="pop flex w-75 flex-col gap-2 p-3"
          aria-label={`How the file of ${what} is made`}
        >
          <label className="flex items-center justify-between">
            <span className="text-quiet">Kind</span>
            <Choice
              label={`Kind of the file of ${what}`}
              look="bare"
              value={form.fileKind}
              options={FILE_KINDS.map((k) => ({
                value: k,
                label: k,
                ...(k === doc.format.fileKind ? { note: 'as the session' } : {}),
              }))}
              onChange={(fileKind) => set({ fileKind })}
            />
          </label>
          <label className="flex items-center justify-between">
            <span className="text-quiet">Channels</span>
            <Choice
              label={`Channels in the file of ${what}`}
              look="bare"
              value={form.perChannel ? 'each' : 'all'}
              options={[
                { value: 'all', label: 'interleaved' },
                { value: 'each', label: 'one file per channel' },
              ]}
              onChange={(v) => set({ perChannel: v === 'each' })}
            />
          </label>
          <label className="flex items-center justify-between">
            <span className="text-quiet">Rate</span>
            <Choice
              label={`Rate of ${what}`}
              look="bare"
              className="figure"
              value={String(rateOf(doc, d))}
              options={SAMPLE_RATES.map((r) => ({
                value: String(r),
                label: `${r / 1000} kHz`,
                note: r === doc.format.sampleRate ? 'as the session' : 'converted after the mix',
              }))}
              onChange={(r) => set({ sampleRate: Number(r) })}
            />
          </label>
          <label className="flex items-center justify-between">
            <span className="text-quiet">Dither</span>
            {wordLengthOf(doc, d) === 32 ? (
              <span className="small text-quiet">32 bits are not rounded</span>
            ) : (
              <Choice
                label={`Dither of ${what}`}
                look="bare"
                value={ditherOf(doc, d)}
                options={DITHERS}
                onChange={(dither) => set({ dither })}
              />
            )}
          </label>
          <label className="flex items-center justify-between">
            <span className="text-quiet">Says what it holds</span>
            <Choice
              label={`What the file of ${what} says of itself`}
              look="bare"
              value={d.adm ?? 'none'}
              options={[
                { value: 'none', label: 'by its channel mask' },
                { value: 'bed', label: 'as a bed', note: 'BW64, Audio Definition Model' },
                { value: 'objects', label: 'as objects', note: 'BW64: each placed source, with its way' },
              ]}
              onChange={(adm) => set({ adm })}
            />
          </label>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
