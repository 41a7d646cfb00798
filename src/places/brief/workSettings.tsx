'use client';
import { bufferNow, edit, useDoc, useTransport, useDocPart } from '@/client';
import type { SessionDoc } from '@/core/session';
import { layoutOf } from '@/core/speakers';
import { Choice, NumberField, Segments } from '@/parts';
import { TempoTable } from './tempoTable';

const IN_FRONT = '-';

// A loudspeaker that the mix has no more stays to be seen, until another is chosen.
function clickPlaces({ format, settings }: SessionDoc) {
  const labels = layoutOf(format.layout).speakers.map((s) => s.label);
  const gone = settings.click.to !== undefined && !labels.includes(settings.click.to) ? [settings.click.to] : [];
  return [
    { value: IN_FRONT, label: 'in front' },
    ...labels.map((l) => ({ value: l, label: `from ${l}` })),
    ...gone.map((l) => ({ value: l, label: `from ${l}, which is gone` })),
  ];
}

/** How much is buffered now, as the browser says it; a choice counts when sound begins the next time. */
function bufferNote(sampleRate: number): string {
  const now = bufferNow();
  if (now === null) return 'from the next start of sound';
  return `now ${Math.round(now * sampleRate)} samples, ${(now * 1000).toFixed(1)} ms; from the next start of sound`;
}

/** How one works in this session: guides, buffer, tempo. They stay as set. */
export function WorkSettings() {
  const doc = useDoc('settings', 'format');
  const places = useDocPart(clickPlaces);
  // Sound that begins says what it buffers.
  useTransport((s) => s.state);
  const { settings } = doc;
  const row = (label: string, control: React.ReactNode, note?: string) => (
    <div className="flex min-h-8 items-center justify-between gap-3 border-b py-0.5">
      <span>
        {label}
        {note && <span className="small ml-2 text-quiet">{note}</span>}
      </span>
      <span className="flex items-center gap-2">{control}</span>
    </div>
  );
  const number = (
    label: string,
    value: number,
    unit: string,
    min: number,
    max: number,
    onChange: (value: number) => void,
    step = 0.1,
  ) => (
    <NumberField
      label={label}
      action={`brief.${label.toLowerCase().replaceAll(' ', '-')}`}
      value={value}
      unit={unit}
      min={min}
      max={max}
      step={step}
      digits={step === 1 ? 0 : 1}
      onChange={onChange}
    />
  );
  return (
    <div className="grid min-h-0 flex-1 grid-cols-2 gap-10 overflow-y-auto">
      <section aria-label="Working settings">
        {row(
          'Guide tracks while recording',
          <Segments
            label="Guide tracks while recording"
            action="brief.guides"
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
          'Click',
          <>
            <Segments
              label="Click"
              action="brief.click"
              value={settings.click.when}
              onChange={(click) => edit({ type: 'setWork', click })}
              options={[
                { value: 'never', label: 'never' },
                { value: 'recording', label: 'recording' },
                { value: 'always', label: 'always' },
              ]}
            />
            <Choice
              look="bare"
              label="Sound of the click"
              value={settings.click.sound}
              onChange={(clickSound) => edit({ type: 'setWork', clickSound })}
              options={[
                { value: 'tick', label: 'tick' },
                { value: 'wood', label: 'wood' },
                { value: 'tone', label: 'tone' },
              ]}
            />
            <Choice
              look="bare"
              label="Where the click is heard"
              value={settings.click.to ?? IN_FRONT}
              onChange={(to) => edit({ type: 'setWork', clickTo: to === IN_FRONT ? null : to })}
              options={places}
            />
            {number('Level of the click', settings.click.level, 'dB', -60, 0, (clickLevel) =>
              edit({ type: 'setWork', clickLevel }),
            )}
          </>,
          'heard only',
        )}
        {row(
          'Count-in',
          number('Count-in', settings.countIn, 'bars', 0, 4, (countIn) => edit({ type: 'setWork', countIn }), 1),
        )}
        {row(
          'Pre-roll and post-roll',
          <>
            {number('Pre-roll', settings.preRoll, 's', 0, 30, (preRoll) => edit({ type: 'setSession', preRoll }))}
            {number('Post-roll', settings.postRoll, 's', 0, 30, (postRoll) => edit({ type: 'setSession', postRoll }))}
          </>,
        )}
        {row(
          'Back from a mistake',
          number('Seconds back from a mistake', settings.rollBack, 's', 0, 30, (rollBack) =>
            edit({ type: 'setWork', rollBack }),
          ),
        )}
        {row(
          'Before a cue',
          <>
            <label className="flex items-center gap-1.5">
              <input
                type="checkbox"
                className="accent-brass"
                checked={settings.lead.beeps}
                onChange={(e) => edit({ type: 'setWork', beeps: e.target.checked })}
              />
              three beeps
            </label>
            {number('Seconds between beeps', settings.lead.beepGap, 's', 0.2, 3, (beepGap) =>
              edit({ type: 'setWork', beepGap }),
            )}
          </>,
        )}
        {row(
          'Over the picture',
          <>
            <span className="text-quiet">streamer</span>
            {number('Streamer', settings.lead.streamer, 's', 0, 10, (streamer) => edit({ type: 'setWork', streamer }))}
            <label className="flex items-center gap-1.5">
              <input
                type="checkbox"
                className="accent-brass"
                checked={settings.lead.flash}
                onChange={(e) => edit({ type: 'setWork', flash: e.target.checked })}
              />
              flash
            </label>
          </>,
        )}
        {row(
          'Buffer',
          <Segments
            label="Buffer"
            action="brief.buffer"
            value={settings.buffer}
            onChange={(buffer) => edit({ type: 'setWork', buffer })}
            options={[
              { value: 'short', label: 'short' },
              { value: 'middle', label: 'middle' },
              { value: 'long', label: 'long' },
            ]}
          />,
          bufferNote(doc.format.sampleRate),
        )}
      </section>
      <TempoTable />
    </div>
  );
}
