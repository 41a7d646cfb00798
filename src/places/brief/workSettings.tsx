'use client';
import { edit, useDoc } from '@/client';
import { Segments } from '@/parts';
import { TempoTable } from './tempoTable';

/** How one works in this session: guides, buffer, tempo. They stay as set. */
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
