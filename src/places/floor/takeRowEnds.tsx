'use client';
import { clsx } from 'clsx';
import { Circle, Ear, Star } from 'lucide-react';
import {
  edit,
  hearComp,
  hearTake,
  isTakeChosen,
  select,
  useDocPart,
  useHearing,
  useSelection,
  useTransport,
  type RunningTake,
} from '@/client';
import { shortTakeText, takeNames, takeText, type Take } from '@/core/session';
import { TextField } from '@/parts';
import { useTakeLoudness } from './loudness';
import { toggleAllTakes } from './floorState';
import { TAKE_ROW, takeShown, type MoreRow, type TakesRow } from './rows';

/** The take of a row that its ends are about: they follow what is chosen, and where the playhead stands. */
function useTakeShown(row: TakesRow): Take {
  const selected = useSelection((s) => s.selected);
  const at = useTransport((s) => s.position);
  const chosen = row.takes.find((t) => isTakeChosen(selected, row.track, t));
  return takeShown(row, chosen?.id ?? null, at);
}

/** What a take is called and how it was judged, at the left of its row. */
export function TakesFrom({ row }: { row: TakesRow }) {
  const { track } = row;
  const take = useTakeShown(row);
  const chosen = useSelection((s) => isTakeChosen(s.selected, track, take));
  const text = useDocPart((doc) => takeText(doc, track, take));
  const short = useDocPart((doc) => shortTakeText(takeNames(doc, track).get(take.id)));
  return (
    <div
      className={clsx('flex items-center gap-1.5 border-b pl-6.5 pr-2', chosen && 'bg-raised')}
      style={{ height: TAKE_ROW }}
      data-take-row={take.number}
      aria-current={chosen}
    >
      <button
        className="figure min-w-[3.4ch] whitespace-nowrap text-left font-[620]"
        title={`${text}: choose it${row.takes.length > 1 ? `; ${row.takes.length} takes stand in this row` : ''}`}
        aria-label={`Choose ${text} of ${track.name}`}
        onClick={() => select({ kind: 'take', id: take.id })}
      >
        {short}
      </button>
      <button
        aria-label={`Circle ${text} of ${track.name}`}
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
        label={`Note on ${text} of ${track.name}`}
        value={take.note ?? ''}
        placeholder={take.recovered ? 'recovered' : 'note'}
        mayBeEmpty
        maxLength={500}
        className="small flex-1 text-quiet placeholder:text-quiet/50"
        onChange={(note) => edit({ type: 'setTake', track: track.id, take: take.id, note })}
      />
    </div>
  );
}

/** Listening to a take in its place, and how loud it is. */
export function TakesTo({ row, match }: { row: TakesRow; match: (take: string) => number }) {
  const { track } = row;
  const take = useTakeShown(row);
  const heard = useHearing((s) => s.heard?.take === take.id);
  const loudness = useTakeLoudness(take);
  const text = useDocPart((doc) => takeText(doc, track, take));
  return (
    <div className="flex items-center gap-2 border-b px-2.5" style={{ height: TAKE_ROW }}>
      <button
        aria-label={`Listen to ${text} of ${track.name}`}
        aria-pressed={heard}
        title="Listen to it in its place, as loud as the others (H); with Alt alone"
        className="grid size-6 place-items-center"
        style={{ color: heard ? 'var(--brass)' : 'var(--quiet)' }}
        onClick={(e) =>
          heard ? hearComp() : hearTake({ track: track.id, take: take.id, alone: e.altKey, gain: match(take.id) })
        }
      >
        <Ear size={14} />
      </button>
      <span className="figure text-quiet">
        {loudness === null ? 'measuring' : Number.isFinite(loudness) ? `${loudness.toFixed(1)} LUFS` : 'silent'}
      </span>
      {take.rating ? (
        <span className="figure small ml-auto flex items-center gap-0.5 text-brass" title={`${take.rating} of 5`}>
          {take.rating}
          <Star size={11} fill="currentColor" strokeWidth={1.4} />
        </span>
      ) : null}
    </div>
  );
}

/** Older takes that are folded, so that other tracks stay in reach. */
export function MoreTakes({ row: { track, hidden } }: { row: MoreRow }) {
  return (
    <button
      className="small flex w-full items-center gap-1 border-b pl-6.5 text-quiet hover:text-brass"
      style={{ height: TAKE_ROW }}
      aria-expanded={hidden === 0}
      onClick={() => toggleAllTakes(track.id)}
    >
      {hidden > 0 ? `${hidden} older ${hidden === 1 ? 'take' : 'takes'} of ${track.name}` : `Fold the older takes`}
    </button>
  );
}

export function RunningFrom({ take, rate }: { take: RunningTake; rate: number }) {
  return (
    <div className="flex items-center gap-2 border-b pl-9.5 pr-2" style={{ height: TAKE_ROW }}>
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
