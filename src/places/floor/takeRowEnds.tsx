'use client';
import { Circle, Ear } from 'lucide-react';
import { edit, isTakeChosen, hearComp, hearTake, select, useHearing, useSelection, type RunningTake } from '@/client';
import type { Take, Track } from '@/core/session';
import { TextField } from '@/parts';
import { useTakeLoudness } from './loudness';
import { TAKE_ROW } from './rows';

/** What a take is called and how it was judged, at the left of its row. */
export function TakeFrom({ track, take }: { track: Track; take: Take }) {
  const chosen = useSelection((s) => isTakeChosen(s.selected, track, take));
  return (
    <div
      className={`flex items-center gap-1.5 border-b pl-[38px] pr-2 ${chosen ? 'bg-raised' : ''}`}
      style={{ height: TAKE_ROW }}
      data-take-row={take.number}
      aria-current={chosen}
    >
      <button
        className="figure w-[2.4ch] text-left font-[620]"
        title={`Take ${take.number}: choose it`}
        aria-label={`Choose take ${take.number} of ${track.name}`}
        onClick={() => select({ kind: 'take', id: take.id })}
      >
        {take.imported ? '–' : take.number}
      </button>
      <button
        aria-label={`Circle take ${take.number} of ${track.name}`}
        aria-pressed={take.circled ?? false}
        title={take.circled ? 'Circled: chosen as good (C)' : 'Circle it as good (C)'}
        className="grid size-5 place-items-center"
        onClick={() => edit({ type: 'setTake', track: track.id, take: take.id, circled: !take.circled })}
      >
        <Circle
          size={13}
          strokeWidth={take.circled ? 2.6 : 1.4}
          style={{ color: take.circled ? 'var(--brass)' : 'var(--quiet)' }}
        />
      </button>
      <TextField
        label={`Note on take ${take.number} of ${track.name}`}
        value={take.note ?? ''}
        placeholder={take.recovered ? 'recovered' : '…'}
        mayBeEmpty
        maxLength={500}
        className="small flex-1 text-quiet"
        onChange={(note) => edit({ type: 'setTake', track: track.id, take: take.id, note })}
      />
    </div>
  );
}

/** Listening to a take in its place, and how loud it is. */
export function TakeTo({ track, take, match }: { track: Track; take: Take; match: number }) {
  const heard = useHearing((s) => s.heard?.take === take.id);
  const loudness = useTakeLoudness(take);
  return (
    <div className="flex items-center gap-2 border-b px-2.5" style={{ height: TAKE_ROW }}>
      <button
        aria-label={`Listen to take ${take.number} of ${track.name}`}
        aria-pressed={heard}
        title="Listen to it in its place, as loud as the others (H); with Alt alone"
        className="grid size-6 place-items-center"
        style={{ color: heard ? 'var(--brass)' : 'var(--quiet)' }}
        onClick={(e) =>
          heard ? hearComp() : hearTake({ track: track.id, take: take.id, alone: e.altKey, gain: match })
        }
      >
        <Ear size={14} />
      </button>
      <span className="figure text-quiet">
        {loudness === null ? 'measuring' : Number.isFinite(loudness) ? `${loudness.toFixed(1)} LUFS` : 'silent'}
      </span>
      {take.rating ? <span className="figure ml-auto text-brass">{'•'.repeat(take.rating)}</span> : null}
    </div>
  );
}

export function RunningFrom({ take, rate }: { take: RunningTake; rate: number }) {
  return (
    <div className="flex items-center gap-2 border-b pl-[38px] pr-2" style={{ height: TAKE_ROW }}>
      <span className="figure w-[2.4ch] font-[620] text-rec">{take.number ?? '…'}</span>
      <span className="small text-rec">recording</span>
      <span className="figure ml-auto text-rec">{(take.frames / rate).toFixed(1)} s</span>
    </div>
  );
}

export function RunningTo({ take, rate }: { take: RunningTake; rate: number }) {
  return (
    <div className="small flex items-center border-b px-2.5" style={{ height: TAKE_ROW }}>
      <span className={take.trouble ? 'text-warn' : 'text-quiet'}>
        {take.trouble ? 'kept in this browser' : `${(take.delivered / rate).toFixed(1)} s safe`}
      </span>
    </div>
  );
}
