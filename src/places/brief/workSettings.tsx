'use client';
import { edit, useDoc } from '@/client';
import { Choice, NumberField, Segments } from '@/parts';
import { TempoTable } from './tempoTable';

/** How one works in this session: rolls, click, count-in, guides, buffer, tempo. They stay as set. */
export function WorkSettings() {
  const { settings } = useDoc();
  const row = (label: string, control: React.ReactNode, note?: string) => (
    <div className="flex min-h-[32px] items-center justify-between gap-3 border-b py-0.5">
      <span>
        {label}
        {note && <span className="small ml-2 text-quiet">{note}</span>}
      </span>
      <span className="flex items-center gap-2">{control}</span>
    </div>
  );
  return (
    <div className="grid min-h-0 flex-1 grid-cols-2 gap-10 overflow-y-auto">
      <section aria-label="Working settings">
        {row(
          'Pre-roll and post-roll',
          <>
            <NumberField
              label="Pre-roll"
              value={settings.preRoll}
              unit="s"
              min={0}
              max={30}
              reset={3}
              onChange={(preRoll) => edit({ type: 'setSession', preRoll })}
            />
            <NumberField
              label="Post-roll"
              value={settings.postRoll}
              unit="s"
              min={0}
              max={30}
              reset={1}
              onChange={(postRoll) => edit({ type: 'setSession', postRoll })}
            />
          </>,
        )}
        {row(
          'Click',
          <Segments
            label="Click"
            value={settings.click.when}
            onChange={(click) => edit({ type: 'setWork', click })}
            options={[
              { value: 'never', label: 'never' },
              { value: 'recording', label: 'while recording' },
              { value: 'always', label: 'always' },
            ]}
          />,
        )}
        {row(
          'Sound of the click',
          <>
            <Choice
              label="Sound of the click"
              look="bare"
              value={settings.click.sound}
              options={[
                { value: 'tick', label: 'tick' },
                { value: 'wood', label: 'wood' },
                { value: 'tone', label: 'tone' },
              ]}
              onChange={(clickSound) => edit({ type: 'setWork', clickSound })}
            />
            <NumberField
              label="Level of the click"
              value={settings.click.level}
              unit="dBFS"
              min={-60}
              max={0}
              reset={-18}
              onChange={(clickLevel) => edit({ type: 'setWork', clickLevel })}
            />
          </>,
          'only in the ears, never recorded or printed',
        )}
        {row(
          'Count-in',
          <NumberField
            label="Count-in"
            value={settings.countIn}
            unit="bars"
            min={0}
            max={4}
            step={1}
            digits={0}
            reset={0}
            onChange={(countIn) => edit({ type: 'setWork', countIn: Math.round(countIn) })}
          />,
        )}
        {row(
          'Guide tracks while recording',
          <Segments
            label="Guide tracks while recording"
            value={settings.guides}
            onChange={(guides) => edit({ type: 'setWork', guides })}
            options={[
              { value: 'play', label: 'play on' },
              { value: 'dim', label: 'dim' },
              { value: 'mute', label: 'mute' },
            ]}
          />,
        )}
        {row(
          'Buffer',
          <Segments
            label="Buffer"
            value={settings.buffer}
            onChange={(buffer) => edit({ type: 'setWork', buffer })}
            options={[
              { value: 'short', label: 'short' },
              { value: 'middle', label: 'middle' },
              { value: 'long', label: 'long' },
            ]}
          />,
          'from the next start of sound',
        )}
      </section>
      <TempoTable />
    </div>
  );
}
