'use client';
import { clsx } from 'clsx';
import { Search, Undo2, Redo2, Lightbulb } from 'lucide-react';
import { usePathname } from 'next/navigation';
import { Popover } from 'radix-ui';
import { Fragment, useEffect } from 'react';
import {
  keyText,
  tellRecording,
  toggleScheme,
  travel,
  useChecks,
  useCommands,
  useDoc,
  usePeople,
  useSession,
  useTransport,
} from '@/client';
import type { Check, Dot } from '@/core/checks';
import { layoutOf } from '@/core/speakers';
import { frameRate } from '@/core/units';
import { CheckList, Tip } from '@/parts';
import { PeopleHere } from './peopleHere';
import { PlaceLink } from './placeLink';
import { PLACES } from './places';

const DOTS: Record<Dot, string> = {
  grey: 'var(--line)',
  green: 'var(--fine)',
  amber: 'var(--warn)',
  red: 'var(--stop)',
};

export function TopBar({ session }: { session: string }) {
  const doc = useDoc('format', 'name');
  const at = usePathname().split('/').at(-1);
  const { checks, dots } = useChecks();
  const { undo, redo, online } = useSession();
  const { sampleRate, wordLength, frameRate: fps, layout } = doc.format;
  return (
    <header className="flex items-center gap-3 border-b px-4 max-[1180px]:gap-1.5">
      <PlaceLink
        session={session}
        place="brief"
        className="whitespace-nowrap text-title font-[640] tracking-[0.14em]"
        style={{ fontStretch: '125%' }}
      >
        WIDE·ROOM
      </PlaceLink>
      <nav aria-label="Places" className="flex items-center gap-2">
        {PLACES.map((p, i) => (
          <Fragment key={p.id}>
            {i > 0 && <span className="h-px w-2 bg-line max-[1180px]:hidden" />}
            <PlaceLink
              session={session}
              place={p.id}
              aria-current={at === p.id ? 'page' : undefined}
              title={`${p.name} (${p.key})`}
              className={clsx(
                'flex h-8.5 items-center gap-2 whitespace-nowrap border-b-2 px-0.5 text-body',
                at === p.id ? 'border-brass font-[560]' : 'border-transparent text-quiet hover:text-text',
              )}
            >
              <span
                className="size-2 rounded-full"
                style={{ background: dots ? DOTS[dots[p.id]] : 'var(--line)' }}
                data-dot={dots?.[p.id]}
              />
              {p.name}
            </PlaceLink>
          </Fragment>
        ))}
      </nav>
      <div className="ml-auto flex min-w-0 items-center gap-1">
        {!online && (
          <span className="small mr-2 whitespace-nowrap text-warn" role="status">
            server away, nothing is lost
          </span>
        )}
        <Tip text={undo ? `Undo: ${undo}` : 'Nothing to undo'} keys="mod+z">
          <button
            aria-label="Undo"
            className="btn btn-bare px-1.5"
            disabled={!undo}
            onClick={() => void travel('undo')}
          >
            <Undo2 size={15} />
          </button>
        </Tip>
        <Tip text={redo ? `Redo: ${redo}` : 'Nothing to redo'} keys="mod+shift+z">
          <button
            aria-label="Redo"
            className="btn btn-bare px-1.5"
            disabled={!redo}
            onClick={() => void travel('redo')}
          >
            <Redo2 size={15} />
          </button>
        </Tip>
      </div>
      <Elsewhere />
      <div className="min-w-0 text-right leading-tight">
        <div className="truncate font-[580]">{doc.name}</div>
        <div className="figure truncate text-quiet">
          {sampleRate / 1000} kHz · {wordLength} bit · {frameRate(fps).id} fps · {layoutOf(layout).name}
        </div>
      </div>
      <PeopleHere />
      <ChecksButton checks={checks} />
      <Tip text="Lights up or down" keys="l">
        <button aria-label="Lights up or down" className="btn btn-bare px-1.5" onClick={toggleScheme}>
          <Lightbulb size={15} />
        </button>
      </Tip>
      <button
        className="btn"
        aria-label="Search for an action"
        onClick={() => useCommands.setState({ searchOpen: true })}
      >
        <Search size={14} className="text-quiet" />
        <kbd className="figure text-quiet max-[1180px]:hidden">{keyText('mod+k')}</kbd>
      </button>
    </header>
  );
}

/** A take that rolls in another window of this session; and all others are told of one that rolls here. */
function Elsewhere() {
  const recording = useTransport((s) => s.state === 'recording');
  const { elsewhere, me } = usePeople();
  useEffect(() => tellRecording(recording), [recording]);
  useEffect(() => () => tellRecording(false), []);
  if (elsewhere.length === 0) return null;
  const who = elsewhere.map((w) => (w.seat === me?.seat ? 'another window of yours' : w.name || 'somebody else'));
  const told = [...new Set(who)];
  return (
    <span
      role="status"
      className="small flex min-w-0 shrink-0 items-center gap-1.5 rounded-full bg-rec px-2.5 py-0.5 font-[620] text-on-rec"
      title="A take rolls there; what you change is heard by those who record"
    >
      <span className="size-1.75 rounded-full bg-current" />
      <span className="max-w-47.5 truncate">
        {told.join(', ')} {told.length === 1 ? 'records' : 'record'}
      </span>
    </span>
  );
}

function ChecksButton({ checks }: { checks: Check[] }) {
  const counted = checks.filter((c) => c.grade !== 'note');
  const colour = counted.some((c) => c.grade === 'stop')
    ? 'var(--stop)'
    : counted.length
      ? 'var(--warn)'
      : 'var(--fine)';
  return (
    <Popover.Root>
      <Popover.Trigger className="btn whitespace-nowrap" aria-label={`${counted.length} checks`}>
        <span className="size-2 rounded-full" style={{ background: colour }} />
        {counted.length === 1 ? '1 check' : `${counted.length} checks`}
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content align="end" sideOffset={8} className="pop max-h-[70vh] w-90 overflow-auto bg-panel p-4">
          <h3 className="title mb-3">Checks</h3>
          <CheckList checks={checks} empty="Nothing stands in the way." />
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
