'use client';
import { clsx } from 'clsx';
import { Star } from 'lucide-react';
import { useState } from 'react';
import { toast } from 'sonner';
import {
  ask,
  edit,
  gapText,
  isTakeChosen,
  locate,
  select,
  stored,
  useDoc,
  useSelection,
  useSession,
  useTakes,
  useDocPart,
} from '@/client';
import { takeChangedSince, takeText, type Take, type Track } from '@/core/session';
import { stageKind } from '@/core/stages';
import { formatDuration } from '@/core/units';
import { timecodeOf } from '@/parts';

/** Says when today's chain is another one, and sends the untouched copy through it. */
function TakeChain({ track, take }: { track: Track; take: Take }) {
  const session = useSession((s) => s.id);
  const [busy, setBusy] = useState(false);
  const changes = useDocPart((doc) => takeChangedSince(doc, track, take));
  if (changes.length === 0) return null;
  const redo = async () => {
    setBusy(true);
    try {
      await stored();
      const made = await ask<{ take: number }>(`/api/sessions/${session}/takes/${take.id}/redo`, {});
      toast.success(`Take ${made.take} is take ${take.number} through today’s chain. Both stay.`);
    } catch (error) {
      toast.error((error as Error).message);
    } finally {
      setBusy(false);
    }
  };
  return (
    <div className="small mt-0.5 flex items-center gap-2 text-warn" title={changes.join('\n')}>
      <span className="truncate">{take.chainChanges?.length ? 'chain changed on the way' : 'another chain today'}</span>
      {take.dryMedia && (
        <button className="chip ml-auto shrink-0" disabled={busy} onClick={() => void redo()}>
          {busy ? 'Redoing…' : 'Redo the chain'}
        </button>
      )}
    </div>
  );
}

const chainWords = (take: Take): string =>
  take.chains[0]
    ?.filter((s) => s.on)
    .map((s) => stageKind(s.type).name.toLowerCase())
    .join(', ') || 'no stage';

const capital = (text: string): string => text[0]!.toUpperCase() + text.slice(1);

/** What is missing in a take, and what is wrong with it. */
function TakeFaults({ take, rate }: { take: Take; rate: number }) {
  const said = [...(take.gaps ?? []).map((g) => `sound missing, ${gapText(g, rate)}`), ...(take.faults ?? [])];
  if (said.length === 0) return null;
  return (
    <ul className="small text-stop" aria-label={`Faults of take ${take.number}`}>
      {said.map((text) => (
        <li key={text}>{text}</li>
      ))}
    </ul>
  );
}

/** Stars, cue and what was passed by. */
function TakeJudged({ track, take }: { track: Track; take: Take }) {
  return (
    <div className="small flex items-center gap-1.5 text-quiet">
      <span role="radiogroup" aria-label={`Rating of take ${take.number}`} className="flex">
        {[1, 2, 3, 4, 5].map((n) => (
          <button
            key={n}
            role="radio"
            aria-checked={take.rating === n}
            aria-label={`${n} of 5`}
            title={`${n} of 5 (X, Shift X)`}
            className="px-0.25"
            style={{ color: n <= (take.rating ?? 0) ? 'var(--brass)' : 'var(--quiet)' }}
            onClick={() => edit({ type: 'setTake', track: track.id, take: take.id, rating: take.rating === n ? 0 : n })}
          >
            <Star size={12} fill={n <= (take.rating ?? 0) ? 'currentColor' : 'none'} strokeWidth={1.4} />
          </button>
        ))}
      </span>
      {take.note && <span className="truncate">{take.note}</span>}
      {(take.passedBy?.length ?? 0) > 0 && (
        <span className="text-warn" title={take.passedBy!.join(', ')}>
          recorded past {take.passedBy!.length} {take.passedBy!.length === 1 ? 'check' : 'checks'}
        </span>
      )}
    </div>
  );
}

/** The takes of the selected track with all that is known of each. */
export function Takes() {
  const doc = useDoc('tracks', 'format');
  const selected = useSelection((s) => s.selected);
  const running = useTakes((s) => s.running);
  const track =
    doc.tracks.find(
      (t) =>
        (selected?.kind === 'track' && t.id === selected.id) ||
        (selected?.kind === 'clip' && t.clips.some((c) => c.id === selected.id)) ||
        (selected?.kind === 'take' && t.takes.some((k) => k.id === selected.id)),
    ) ??
    doc.tracks.find((t) => t.armed) ??
    doc.tracks.find((t) => t.takes.some((k) => !k.imported)) ??
    doc.tracks[0];
  const texts = useDocPart((d) => track?.takes.map((t) => takeText(d, track, t)) ?? []);
  if (!track) return <p className="small p-3 text-quiet">Tracks are made in the Brief.</p>;
  const rate = doc.format.sampleRate;
  return (
    <div className="flex min-h-0 flex-1 flex-col">
      <div className="flex items-baseline gap-2 px-3 pb-1.5 pt-3">
        <h2 className="title">Takes</h2>
        <span className="small truncate text-quiet">{track.name}</span>
      </div>
      <ol className="min-h-0 flex-1 overflow-y-auto">
        {running
          .filter((t) => t.track === track.id)
          .map((t) => (
            <li key={t.id} className="border-y border-rec px-3 py-2">
              <div className="flex justify-between font-[580] text-rec">
                <span>{t.number ?? '…'} recording</span>
                <span className="figure">{(t.frames / rate).toFixed(1)} s</span>
              </div>
              <p className={clsx('small', t.trouble ? 'text-warn' : 'text-quiet')}>
                {t.trouble
                  ? `waits in this browser, ${(t.delivered / rate).toFixed(1)} s on the server`
                  : `${(t.delivered / rate).toFixed(1)} s safe on the server`}
              </p>
            </li>
          ))}
        {[...track.takes].reverse().map((t) => (
          <li
            key={t.id}
            className={clsx(
              'border-b border-l-[3px] px-3 py-2',
              isTakeChosen(selected, track, t) ? 'border-l-brass bg-raised' : 'border-l-transparent',
            )}
            data-take={t.number}
          >
            <button
              className="flex w-full items-baseline justify-between text-left"
              title="Choose the take and locate it"
              aria-pressed={isTakeChosen(selected, track, t)}
              onClick={() => {
                select({ kind: 'take', id: t.id });
                locate(t.start);
              }}
            >
              <span className="font-[580]">
                {t.imported ? 'Brought in' : capital(texts[track.takes.indexOf(t)]!)}
                {t.circled && <span className="small text-brass"> · circled</span>}
              </span>
              <span className="figure text-quiet">{timecodeOf(doc, t.start)}</span>
            </button>
            <p className="small text-quiet">
              {formatDuration(t.length / rate)} · {t.imported ? `brought in: ${t.note}` : chainWords(t)}{' '}
              {t.dryMedia ? '· dry copy' : ''}
              {t.recovered && <span className="text-warn"> · recovered</span>}
            </p>
            <TakeFaults take={t} rate={rate} />
            <TakeJudged track={track} take={t} />
            <TakeChain track={track} take={t} />
          </li>
        ))}
        {track.takes.length === 0 && running.length === 0 && (
          <li className="small px-3 text-quiet">
            {track.inputs.some(Boolean)
              ? 'No take yet. Arm the track and record.'
              : 'No line is patched to this track; do that in Line-up.'}
          </li>
        )}
      </ol>
    </div>
  );
}
