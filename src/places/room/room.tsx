'use client';
import { offer, useChosenRoom, useInRoom, useRooms, useSession } from '@/client';
import { Segments } from '@/parts';
import { useEffect } from 'react';
import { CalibrateLens } from './calibrate/calibrateLens';
import { LENSES, showLens, useLens } from './lens';
import { ListenLens } from './listen/listenLens';
import { PlaceLens } from './place/placeLens';
import { PortsLens } from './ports/portsLens';

/** The room: where sources stand, which loudspeakers there are, how they are set, and how others hear the mix. */
export function Room() {
  const ready = useSession((s) => s.doc !== null);
  if (!ready) return null;
  return <RoomView />;
}

function RoomView() {
  const lens = useLens((s) => s.lens);
  useEffect(
    () =>
      offer('room', [
        ...LENSES.map(({ value, label }) => ({
          ...{ id: `room-${value}`, label: `Room: ${label.toLowerCase()}`, keys: '', group: 'Room' },
          run: () => showLens(value),
        })),
      ]),
    [],
  );
  const bar = <RoomBar />;
  if (lens === 'ports') return <PortsLens bar={bar} />;
  if (lens === 'calibrate') return <CalibrateLens bar={bar} />;
  if (lens === 'listen') return <ListenLens bar={bar} />;
  return <PlaceLens bar={bar} />;
}

/** Which part is shown, and in which room this machine plays. */
function RoomBar() {
  const lens = useLens((s) => s.lens);
  const id = useChosenRoom((s) => s.id);
  const name = useRooms((s) => s.list?.find((r) => r.id === id)?.room.name);
  const sounds = useInRoom((s) => s.sounds);
  return (
    <div className="flex h-11 shrink-0 items-center gap-3 px-4">
      <Segments label="Part of the room" value={lens} options={LENSES} onChange={showLens} />
      <span className="small truncate text-quiet" data-testid="room-now">
        {name ? (sounds ? name : `${name}, folded for two ears`) : 'headphones or two loudspeakers'}
      </span>
    </div>
  );
}
