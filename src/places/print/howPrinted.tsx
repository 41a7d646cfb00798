'use client';
import { edit, useDoc } from '@/client';
import { Choice, NumberField, TextField } from '@/parts';
import { formatDb } from '@/core/units';

/** What a lead-in begins with where one is asked for: a tone two seconds before the range (common practice, no source). */
const USUAL = { leadIn: 3, pop: 2 };

/** What the files of a print begin with, how loud they are made, and what their names are written in. */
export function HowPrinted() {
  const doc = useDoc('printing', 'limits', 'language');
  const { leadIn, toTarget, letters } = doc.printing ?? {};
  const { target } = doc.limits;
  const set = (part: Omit<Extract<Parameters<typeof edit>[0], { type: 'setPrinting' }>, 'type'>) =>
    edit({ type: 'setPrinting', ...part });
  return (
    <section aria-label="How it is printed">
      <h2 className="title mb-2 mt-5">How it is printed</h2>
      <div className="flex flex-col gap-1.5 [&>label]:flex [&>label]:min-h-6.5 [&>label]:items-center [&>label]:gap-2">
        <label>
          <input
            type="checkbox"
            checked={leadIn !== undefined}
            onChange={(e) => set(e.target.checked ? USUAL : { leadIn: 0 })}
          />
          <span>Lead-in</span>
          {leadIn && (
            <NumberField
              label="Length of the lead-in"
              className="ml-auto"
              unit="s"
              value={leadIn.seconds}
              min={0.1}
              max={60}
              onChange={(seconds) => set({ leadIn: seconds })}
            />
          )}
        </label>
        {leadIn && (
          <label className="pl-5">
            <input
              type="checkbox"
              checked={leadIn.pop !== undefined}
              onChange={(e) => set({ pop: e.target.checked ? Math.min(USUAL.pop, leadIn.seconds) : 0 })}
            />
            <span title="One frame of picture long, 1 kHz, in every channel but a subwoofer">2-pop</span>
            {leadIn.pop !== undefined && (
              <span className="ml-auto flex items-center gap-1">
                <NumberField
                  label="Seconds from the tone to the range"
                  unit="s"
                  value={leadIn.pop}
                  min={0.1}
                  max={leadIn.seconds}
                  onChange={(pop) => set({ pop })}
                />
                <NumberField
                  label="Level of the tone"
                  unit="dBFS"
                  value={leadIn.level}
                  min={-60}
                  max={0}
                  onChange={(popLevel) => set({ popLevel })}
                />
              </span>
            )}
          </label>
        )}
        <label title="All files of a range by the same gain, so that the stems still add up; off, nothing is brought anywhere">
          <input
            type="checkbox"
            checked={toTarget === true}
            disabled={target === null && !toTarget}
            onChange={(e) => set({ toTarget: e.target.checked })}
          />
          <span>
            {target === null ? (
              'To a loudness (none is asked)'
            ) : (
              <>
                All files to <span className="figure">{formatDb(target)} LUFS</span>
              </>
            )}
          </span>
        </label>
        <label title="As if every stage were off, and no reference limited its stems: for whoever mixes on">
          <input
            type="checkbox"
            checked={doc.printing?.withoutChains === true}
            onChange={(e) => set({ withoutChains: e.target.checked })}
          />
          <span>Without chains</span>
        </label>
        <label>
          <span className="text-quiet">Letters of names</span>
          <Choice
            label="Letters of file names"
            look="bare"
            className="ml-auto"
            value={letters ?? 'as written'}
            onChange={(to) => set({ letters: to })}
            options={[
              { value: 'as written', label: 'as written' },
              { value: 'lower', label: 'all lower case' },
              { value: 'upper', label: 'all upper case' },
            ]}
          />
        </label>
        <label>
          <span className="text-quiet">Language</span>
          <TextField
            label="Language of what is spoken"
            className="figure ml-auto w-[9ch]"
            placeholder="en"
            value={doc.language ?? ''}
            mayBeEmpty
            maxLength={12}
            title="A code as en or de-AT; {language} puts it into file names"
            onChange={(language) => edit({ type: 'setSession', language })}
          />
        </label>
      </div>
    </section>
  );
}
