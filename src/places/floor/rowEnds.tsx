'use client';
import { clsx } from 'clsx';
import { stemOfTrack } from '@/core/paths';
import { ArrowRight, ChevronDown, ChevronRight } from 'lucide-react';
import { memo } from 'react';
import { select, useDocPart, useSelection, useTrack, leavingKey } from '@/client';
import { type SessionDoc, type Track } from '@/core/session';
import { stageKind } from '@/core/stages';
import { layoutOf } from '@/core/speakers';
import { ArmButton, LevelField, Meter, MuteSolo, StemTag } from '@/parts';
import { toggleOpen, useFloor } from './floorState';
import { LanesToggle } from './laneRows/laneMenu';
import { ROW } from './rows';

/** "line 1 › low cut › gate" of what a track records through. */
function chainText(doc: SessionDoc, track: Track): string {
  const line = doc.lines.find((l) => l.id === track.inputs[0]);
  const stages = line ? line.chain : track.chain;
  const names = stages.map((s) => stageKind(s.type).name.toLowerCase() + (s.on ? '' : ' off'));
  return [line ? `line ${line.channel + 1}` : layoutOf(track.layout).name, ...names].join(' › ');
}

/** Where a row's sound comes from. */
export const RowFrom = memo(function RowFrom({ id }: { id: string }) {
  const track = useTrack(id);
  return track ? <From track={track} /> : null;
});

function From({ track }: { track: Track }) {
  const chain = useDocPart((doc) => chainText(doc, track));
  const open = useFloor((s) => s.open.has(track.id));
  const chosen = useSelection((s) => s.selected?.kind === 'track' && s.selected.id === track.id);
  return (
    <div
      className={clsx(
        'group flex items-center gap-2.5 border-b px-3',
        chosen ? 'bg-raised' : track.armed ? 'bg-rec/10' : '',
      )}
      style={{ height: ROW }}
      data-row={track.id}
    >
      <ArmButton track={track} />
      <button className="min-w-0 flex-1 text-left" onClick={() => select({ kind: 'track', id: track.id })}>
        <b className="block truncate font-[580] leading-tight">{track.name}</b>
        <span className="small block truncate text-quiet" title={chain}>
          {chain}
        </span>
      </button>
      <LanesToggle owner={track.id} name={track.name} />
      {track.takes.length > 0 && (
        <button
          className="small flex items-center text-quiet"
          aria-expanded={open}
          aria-label={`Takes of ${track.name}`}
          title={open ? 'Fold the takes (O)' : 'Show the takes (O)'}
          onClick={() => toggleOpen(track.id)}
        >
          <span className="figure">{track.takes.length}</span>
          {open ? <ChevronDown size={13} /> : <ChevronRight size={13} />}
        </button>
      )}
    </div>
  );
}

/** An armed track shows what it would record, whether one hears it or not; any other what it gives. */
export const meterKeys = (track: Track): string[] =>
  layoutOf(track.layout).speakers.map((_, c) => {
    const line = track.armed ? track.inputs[c] : null;
    return line ? leavingKey(line, 0) : leavingKey(track.id, c);
  });

/** Where it goes: level, mute and solo, stem. */
export const RowTo = memo(function RowTo({ id }: { id: string }) {
  const track = useTrack(id);
  return track ? <To track={track} /> : null;
});

function To({ track }: { track: Track }) {
  const stem = useDocPart((doc) => stemOfTrack(doc, track.destination));
  const channels = meterKeys(track);
  return (
    <div className="flex items-center gap-1.5 border-b px-2.5" style={{ height: ROW }} data-ends={track.id}>
      <div className="min-w-0 flex-1">
        <Meter keys={channels} label={`Level of ${track.name}`} />
        <div className="mt-0.5 flex items-center justify-between">
          <LevelField node={track} className="-ml-1" />
          <MuteSolo node={track} short />
        </div>
      </div>
      <ArrowRight size={13} className="shrink-0 text-quiet" />
      {stem ? (
        <StemTag bus={stem} />
      ) : (
        <span className="small w-6.75 text-center text-warn" title="Reaches no stem">
          –
        </span>
      )}
    </div>
  );
}
