import {
  edit,
  position,
  rideMove,
  rideRelease,
  rideModeOf,
  rideValueOf,
  setRideMode,
  useSelection,
  useSession,
  type RideMode,
} from '@/client';
import { laneKey, laneStep, pointEdit, TRACK_PARAMS, valueAt, type SessionDoc, type Track } from '@/core/session';
import { toast } from 'sonner';

/** A key that is pressed again within this time is one move (ms). */
const RESTS = 400;

let resting: ReturnType<typeof setTimeout> | undefined;

function selectedTrack(): { doc: SessionDoc; track: Track } | null {
  const { doc } = useSession.getState();
  const { selected } = useSelection.getState();
  const track = doc?.tracks.find((t) => selected?.kind === 'track' && t.id === selected.id);
  if (!doc || !track) {
    toast.message('Choose a track first.', { id: 'no-track' });
    return null;
  }
  return { doc, track };
}

/** Changes the level of the selected track by so many dB: a ride where one is on, a point where a lane is, else the level. */
export function nudgeLevel(by: number): void {
  const found = selectedTrack();
  if (!found) return;
  const { doc, track } = found;
  const target = { node: track.id, param: 'level' };
  const at = Math.max(0, Math.round(position()));
  const from = rideValueOf(target) ?? valueAt(doc, target, at);
  const level = laneStep(TRACK_PARAMS.level, from + by);
  if (rideMove(target, level)) {
    clearTimeout(resting);
    resting = setTimeout(() => void rideRelease(target), RESTS);
  } else if (doc.lanes[laneKey(target)]?.on) edit(pointEdit(target, { at, value: level, shape: 'line' }));
  else edit({ type: 'setTrack', track: track.id, level });
}

const NEXT: Record<RideMode, RideMode> = { off: 'held', held: 'on', on: 'off' };
const WORDS: Record<RideMode, string> = {
  off: 'is not ridden any more',
  held: 'is ridden while it is held',
  on: 'is ridden from where it is moved, until it stops',
};

/** The next way to ride the selected track's level. */
export function changeRide(): void {
  const found = selectedTrack();
  if (!found) return;
  const target = { node: found.track.id, param: 'level' };
  const mode = NEXT[rideModeOf(target)];
  setRideMode(target, mode);
  toast.message(`The level of ${found.track.name} ${WORDS[mode]}.`, { id: 'ride' });
}
