'use client';
import { clsx } from 'clsx';
import { Ear, Square } from 'lucide-react';
import { useEffect } from 'react';
import { toast } from 'sonner';
import {
  edit,
  forgetHeard,
  listenTo,
  select,
  stopListening,
  useDevices,
  useDoc,
  useListening,
  deviceKey,
} from '@/client';
import type { HeardLine } from '@/core/checks';
import { proposedGain, ZONE } from '@/core/measure';
import { gainAfter, lineId, numberOfLine, type EditJson } from '@/core/session';
import { formatDb } from '@/core/units';
import { Meter } from '@/parts';

const COLUMNS =
  'grid grid-cols-[3ch_minmax(120px,1fr)_minmax(110px,170px)_62px_62px_72px_56px_48px_minmax(130px,1fr)] items-center gap-x-3';

/** The performer gives the loudest passage: peaks, floor, headroom, crest and overs of every line, and the gain to set. */
export function Levels() {
  const doc = useDoc('lines', 'format');
  const { list, shown } = useDevices();
  const device = list.find((d) => d.id === shown) ?? list[0]!;
  const { device: listening, heard } = useListening();
  const now = listening === device.id;
  useEffect(() => stopListening, []);
  const facts = device.lines.map((_, c) => heard.get(lineId(device.id, c)));
  const seconds = facts.find((f) => f)?.seconds ?? 0;
  const set = (channel: number, by: number): EditJson[] => {
    const id = lineId(device.id, channel);
    const line = doc.lines.find((l) => l.id === id);
    const sheet = line?.sheet ?? device.sheets[channel];
    if (!sheet) return [];
    const { gain, pad } = gainAfter(sheet, by);
    const known: EditJson[] = line
      ? []
      : [{ type: 'addLine', device: device.id, channel, name: device.lines[channel] ?? `Line ${channel + 1}`, sheet }];
    return [...known, { type: 'setLine', line: id, gain, ...(pad === undefined ? {} : { pad }) }];
  };
  const { sampleRate } = doc.format;
  const proposals = facts.map((f) =>
    f && !f.silent && (f.overs > 0 || f.floor < f.peak - 12) ? proposedGain(f, sampleRate) : 0,
  );
  const apply = (channels: number[]) => {
    if (edit(...channels.flatMap((c) => set(c, proposals[c]!))))
      channels.forEach((c) => forgetHeard(lineId(device.id, c)));
  };
  const open = proposals.flatMap((p, c) => (p !== 0 ? [c] : []));
  return (
    <section aria-label="Loudest passage" className="flex min-h-0 flex-1 flex-col px-4 pt-2">
      <div className="mb-3 flex items-center gap-3">
        {now ? (
          <button className="btn btn-main" data-action="lineup.listen" onClick={stopListening}>
            <Square size={13} /> That was it
          </button>
        ) : (
          <button
            className="btn btn-main"
            data-action="lineup.listen"
            disabled={device.state !== 'on'}
            onClick={() => void listenTo(device.id).catch((e: Error) => toast.error(e.message))}
          >
            <Ear size={14} /> Listen to the loudest passage
          </button>
        )}
        <span className="small text-quiet" role="status">
          {device.state !== 'on'
            ? `${device.name} is off; switch it on first.`
            : now
              ? `Listening, ${seconds.toFixed(0)} s. The performer speaks as loud as it will get.`
              : seconds > 0
                ? `Heard for ${seconds.toFixed(0)} s. Peaks belong between ${ZONE.from} and ${ZONE.to} dBFS.`
                : `Peaks belong between ${ZONE.from} and ${ZONE.to} dBFS.`}
        </span>
        {device.settable && open.length > 0 && (
          <button className="btn ml-auto" onClick={() => apply(open)}>
            Set {open.length} {open.length === 1 ? 'gain' : 'gains'}
          </button>
        )}
      </div>
      <div className={clsx(COLUMNS, 'small border-b pb-1 text-quiet')}>
        <span>#</span>
        <span>line</span>
        <span />
        <span className="text-right">peak</span>
        <span className="text-right">floor</span>
        <span className="text-right">headroom</span>
        <span className="text-right">crest</span>
        <span className="text-right">overs</span>
        <span>so</span>
      </div>
      <ol className="min-h-0 flex-1 overflow-y-auto">
        {device.lines.map((given, c) => {
          const id = lineId(device.id, c);
          const f = facts[c];
          return (
            <li key={id} className={clsx(COLUMNS, 'h-9 border-b')} data-level-row={id}>
              <span className="figure text-quiet">{c + 1}</span>
              <button className="truncate text-left font-[560]" onClick={() => select({ kind: 'line', id })}>
                {doc.lines.find((l) => l.id === id)?.name ?? given}
              </button>
              <Meter keys={[deviceKey(device.slot, c)]} label={`Level of ${given}`} zone />
              <Figure value={f?.peak} tone={f && peakTone(f)} />
              <Figure value={f?.floor} />
              <Figure value={f && Number.isFinite(f.peak) ? Math.max(0, -f.peak) : undefined} />
              <Figure value={f?.crest} />
              <span className={clsx('figure text-right', f && f.overs > 0 ? 'text-stop' : 'text-quiet')}>
                {f ? f.overs : '–'}
              </span>
              <span className="small flex items-center gap-2 leading-tight text-quiet">
                {f ? verdict(f, sampleRate) : ''}
                {proposals[c] !== 0 && (
                  <>
                    <span className="figure text-text">{formatDb(proposals[c]!, 0, true)} dB</span>
                    {device.settable ? (
                      <button className="chip" aria-label={`Set the gain of ${given}`} onClick={() => apply([c])}>
                        Set
                      </button>
                    ) : (
                      <span>at the device</span>
                    )}
                  </>
                )}
              </span>
            </li>
          );
        })}
      </ol>
    </section>
  );
}

const peakTone = (f: HeardLine) =>
  f.overs ? 'text-stop' : f.peak > ZONE.to ? 'text-warn' : f.peak >= ZONE.from ? 'text-fine' : '';

/** Which line hears the same voice, how much later this one does, and with which poles. */
function voiceText({ against }: HeardLine, sampleRate: number): string {
  if (!against) return '';
  const ms = (Math.abs(against.delay) * 1000) / sampleRate;
  const when = ms < 0.05 ? 'at once' : `${ms.toFixed(1)} ms ${against.delay > 0 ? 'later' : 'earlier'}`;
  return `voice of line ${numberOfLine(against.line)}, ${when}${against.correlation < 0 ? ', poles swapped' : ''}`;
}

function verdict(f: HeardLine, sampleRate: number): string {
  if (f.silent) return 'silent';
  if (f.hum) return `hum at ${f.hum.frequency} Hz, ${formatDb(f.hum.level)}`;
  if (Math.abs(f.offset) >= 0.01) return `${(f.offset * 100).toFixed(1)} % direct current`;
  const voice = voiceText(f, sampleRate);
  const right = f.peak >= ZONE.from && f.peak <= ZONE.to ? 'right' : '';
  return [right, voice].filter(Boolean).join(' · ');
}

function Figure({ value, tone = '' }: { value: number | undefined; tone?: string }) {
  // Silence has a level below all; a distance from silence is none.
  const none = value === undefined || Number.isNaN(value) || value === Infinity;
  return (
    <span className={clsx('figure text-right', none ? 'text-quiet' : tone)}>
      {none ? '–' : formatDb(Math.max(-144, value))}
    </span>
  );
}
