'use client';
import { clsx } from 'clsx';
import { edit, position, previewSound, rideMove, rideRelease, useDocPart } from '@/client';
import { laneValue } from '@/core/lanes';
import {
  BUS_PARAMS,
  isBus,
  laneKey,
  pointEdit,
  TRACK_PARAMS,
  type Bus,
  type EditJson,
  type Track,
} from '@/core/session';
import { NumberField } from './numberField';
import { fieldOf } from './paramField';
import { useTick } from './useTick';

const setOf = (node: Track | Bus, part: { level?: number; muted?: boolean }): EditJson =>
  isBus(node) ? { type: 'setBus', bus: node.id, ...part } : { type: 'setTrack', track: node.id, ...part };

const soloOf = (node: Track | Bus, soloed: boolean): EditJson =>
  isBus(node) ? { type: 'seatBus', bus: node.id, soloed } : { type: 'seatTrack', track: node.id, soloed };

/**
 * The level of a track or bus; where it follows a lane, what it is at the playhead. Changed it rides while sound runs and a
 * ride is on; else it sets a point where a lane is, or the level.
 */
export function LevelField({ node, className = '', unit }: { node: Track | Bus; className?: string; unit?: string }) {
  const target = { node: node.id, param: 'level' };
  const lane = useDocPart((doc) => doc.lanes[laneKey(target)]);
  const followed = lane?.on === true;
  useTick(followed ? 200 : null);
  const change = (level: number): EditJson =>
    followed
      ? pointEdit(target, { at: Math.max(0, Math.round(position())), value: level, shape: 'line' })
      : setOf(node, { level });
  return (
    <span
      className={clsx(followed && 'text-brass', className)}
      title={followed ? 'Follows its lane; a change sets a point at the playhead' : undefined}
    >
      <NumberField
        label={`Level of ${node.name}`}
        value={followed ? laneValue(lane.points, position()) : node.level}
        {...fieldOf((isBus(node) ? BUS_PARAMS : TRACK_PARAMS).level)}
        {...(unit === undefined ? {} : { unit })}
        onPreview={(level) => rideMove(target, level) || previewSound(change(level))}
        onChange={(level) => {
          // A key that is pressed while sound runs is a ride of its own.
          if (rideRelease(target) || (rideMove(target, level) && rideRelease(target))) return;
          edit(change(level));
        }}
      />
    </span>
  );
}

interface ToggleProps {
  name: string;
  title: string;
  on: boolean;
  colour: string;
  /** Only the first letter. */
  short: boolean;
  onClick: () => void;
}

function Toggle({ name, title, on, colour, short, onClick }: ToggleProps) {
  const word = name.split(' ')[0]!;
  return (
    <button
      aria-label={name}
      title={title}
      aria-pressed={on}
      className={clsx('chip', short && 'h-4.25 min-w-4.25 px-0 text-small')}
      style={on ? { color: colour, borderColor: colour } : undefined}
      onClick={onClick}
    >
      {short ? word[0] : word.toLowerCase()}
    </button>
  );
}

/** Mute and solo of a track or bus; in rows with their first letters only. */
export function MuteSolo({ node, short = false }: { node: Track | Bus; short?: boolean }) {
  const { muted, soloed = false } = node;
  return (
    <span className={short ? 'flex gap-0.5' : 'flex gap-1'}>
      <Toggle
        name={`Mute ${node.name}`}
        title="Mute, for everybody"
        on={muted}
        colour="var(--warn)"
        short={short}
        onClick={() => edit(setOf(node, { muted: !muted }))}
      />
      <Toggle
        name={`Solo ${node.name}`}
        title="Solo, for your ears only"
        on={soloed}
        colour="var(--brass)"
        short={short}
        onClick={() => edit(soloOf(node, !soloed))}
      />
    </span>
  );
}
