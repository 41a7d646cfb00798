'use client';
import { ArrowRight, ChevronDown, ChevronRight } from 'lucide-react';
import { edit, preview, select, useDoc, useSelection } from '@/client';
import { stemOfTrack, type SessionDoc, type Track } from '@/core/session';
import { stageKind } from '@/core/stages';
import { layoutOf } from '@/core/speakers';
import { ArmButton, Meter, NumberField, StemTag } from '@/parts';
import { toggleOpen, useFloor } from './floorState';
import { ROW } from './rows';

/** "line 1 › low cut › gate" of what a track records through. */
function chainText(doc: SessionDoc, track: Track): string {
  const line = doc.lines.find((l) => l.id === track.inputs[0]);
  const stages = line ? line.chain : track.chain;
  const names = stages.map((s) => stageKind(s.type).name.toLowerCase() + (s.on ? '' : ' off'));
  return [line ? `line ${line.channel + 1}` : layoutOf(track.layout).name, ...names].join(' › ');
}

/** Where a row's sound comes from. */
export function RowFrom({ track }: { track: Track }) {
  const doc = useDoc();
  const open = useFloor((s) => s.open.has(track.id));
  const chosen = useSelection((s) => s.selected?.kind === 'track' && s.selected.id === track.id);
  return (
    <div
      className={`flex items-center gap-2.5 border-b px-3 ${chosen ? 'bg-raised' : track.armed ? 'bg-rec/10' : ''}`}
      style={{ height: ROW }}
      data-row={track.id}
    >
      <ArmButton track={track} />
      <button className="min-w-0 flex-1 text-left" onClick={() => select({ kind: 'track', id: track.id })}>
        <b className="block truncate font-[580] leading-tight">{track.name}</b>
        <span className="small block truncate text-quiet" title={chainText(doc, track)}>
          {chainText(doc, track)}
        </span>
      </button>
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

/** Where it goes: level, mute and solo, stem. */
export function RowTo({ track }: { track: Track }) {
  const doc = useDoc();
  const stem = stemOfTrack(doc, track.destination);
  const channels = layoutOf(track.layout).speakers.map((_, c) => `out/${track.id}/${c}`);
  const toggle = (what: 'muted' | 'soloed') => edit({ type: 'setTrack', track: track.id, [what]: !track[what] });
  return (
    <div className="flex items-center gap-1.5 border-b px-2.5" style={{ height: ROW }}>
      <div className="min-w-0 flex-1">
        <Meter keys={channels} label={`Level of ${track.name}`} />
        <div className="mt-0.5 flex items-center justify-between">
          <NumberField
            label={`Level of ${track.name}`}
            value={track.level}
            unit="dB"
            min={-100}
            max={24}
            step={0.1}
            reset={0}
            className="-ml-1"
            onPreview={(level) => preview({ type: 'setTrack', track: track.id, level })}
            onChange={(level) => edit({ type: 'setTrack', track: track.id, level })}
          />
          <span className="flex gap-0.5">
            <button
              aria-label={`Mute ${track.name}`}
              title="Mute"
              aria-pressed={track.muted}
              className="chip h-[17px]! min-w-[17px]! px-0! text-[11px]!"
              style={track.muted ? { color: 'var(--warn)', borderColor: 'var(--warn)' } : {}}
              onClick={() => toggle('muted')}
            >
              M
            </button>
            <button
              aria-label={`Solo ${track.name}`}
              title="Solo"
              aria-pressed={track.soloed}
              className="chip h-[17px]! min-w-[17px]! px-0! text-[11px]!"
              style={track.soloed ? { color: 'var(--brass)', borderColor: 'var(--brass)' } : {}}
              onClick={() => toggle('soloed')}
            >
              S
            </button>
          </span>
        </div>
      </div>
      <ArrowRight size={13} className="shrink-0 text-quiet" />
      {stem ? (
        <StemTag bus={stem} />
      ) : (
        <span className="small w-[27px] text-center text-warn" title="Reaches no stem">
          –
        </span>
      )}
    </div>
  );
}
