'use client';
import { useState } from 'react';
import { toast } from 'sonner';
import {
  addRoom,
  BROWSER_OUTPUT,
  chooseRoom,
  openRoom,
  removeRoom,
  takeRoomsIn,
  undoRoom,
  useDevices,
  useDoc,
  useInRoom,
  useLayouts,
  useRooms,
  type RoomFacts,
} from '@/client';
import { newRoom, portsFrom, roomFaults, withLayout } from '@/core/rooms';
import { layoutOf } from '@/core/speakers';
import { Choice, FileButton, TextField } from '@/parts';
import { keep } from '../useRoom';
import { OwnLayoutDialog } from './ownLayoutDialog';

const NONE = '-';
const OWN = '+';
const told = (error: Error): void => void toast.error(error.message);

/** Which room this machine plays in, and what that room is. */
export function RoomChooser({ facts }: { facts: RoomFacts | null }) {
  const doc = useDoc('format');
  const list = useRooms((s) => s.list);
  const add = () => {
    const names = new Set(list?.map((r) => r.room.name));
    const name = ['Mixing room', ...Array.from({ length: 99 }, (_, i) => `Mixing room ${i + 2}`)].find(
      (n) => !names.has(n),
    )!;
    const standin = outputs.find((o) => o.value !== BROWSER_OUTPUT)?.value ?? BROWSER_OUTPUT;
    addRoom(portsFrom(newRoom(name, standin, doc.format.layout), 1))
      .then(({ id }) => {
        chooseRoom(id);
        return openRoom();
      })
      .catch(told);
  };
  const outputs = useOutputs();
  const takeIn = async (from: File) => {
    try {
      const rooms = await takeRoomsIn(JSON.parse(await from.text()));
      toast.success(`${rooms.map((r) => r.room.name).join(', ')} taken in.`);
      chooseRoom(rooms[0]!.id);
    } catch (error) {
      told(
        error instanceof SyntaxError ? new Error(`${from.name} is no JSON; nothing was taken in.`) : (error as Error),
      );
    }
  };
  return (
    <header className="mb-3 flex flex-wrap items-center gap-2">
      <Choice
        label="Room of this machine"
        className="w-42.5"
        value={facts?.id ?? NONE}
        options={[
          { value: NONE, label: 'No room: two ears' },
          ...(list ?? []).map((r) => ({ value: r.id, label: r.room.name, note: stateOf(r) })),
        ]}
        onChange={(id) => {
          chooseRoom(id === NONE ? null : id);
          if (id !== NONE) openRoom().catch(told);
        }}
      />
      <button className="btn" onClick={add}>
        New room
      </button>
      <FileButton
        label="File of rooms"
        accept=".json,application/json"
        className="btn btn-bare"
        onFile={(from) => void takeIn(from)}
      >
        Take in…
      </FileButton>
      {facts && (
        <>
          <a className="btn btn-bare" href={`/api/rooms/${facts.id}`} download>
            Hand over
          </a>
          <button
            className="btn btn-bare"
            aria-label="Undo in this room"
            title="Takes the last change of this room back"
            disabled={!facts.undo}
            onClick={() => undoRoom(facts).catch(told)}
          >
            Undo
          </button>
          <button
            className="btn btn-bare ml-auto"
            title="Sessions are not touched: they say which layout they are mixed in, and no room"
            onClick={() => removeRoom(facts.id).catch(told)}
          >
            Remove
          </button>
          <RoomWords facts={facts} />
        </>
      )}
    </header>
  );
}

const stateOf = ({ room }: RoomFacts): string => {
  const stops = roomFaults(room, { name: '', channels: Infinity }).filter((f) => f.grade === 'stop').length;
  if (stops > 0) return `${stops} wrong`;
  return room.calibration ? `calibrated ${room.calibration.at.slice(0, 10)}` : 'never calibrated';
};

function useOutputs() {
  const devices = useDevices((s) => s.list);
  return [
    { value: BROWSER_OUTPUT, label: 'what this browser sounds on' },
    ...devices.filter((d) => d.ports > 0).map((d) => ({ value: d.id, label: d.name })),
  ];
}

function RoomWords({ facts }: { facts: RoomFacts }) {
  const { room } = facts;
  const layouts = useLayouts();
  const outputs = useOutputs();
  const output = useInRoom((s) => s.output);
  const [own, setOwn] = useState(false);
  const known = outputs.some((o) => o.value === room.output);
  const all = layouts.some((l) => l.id === room.layout) ? layouts : [...layouts, layoutOf(room.layout)];
  return (
    <div className="flex w-full flex-wrap items-center gap-x-2 gap-y-1">
      <TextField
        label="Name of the room"
        value={room.name}
        className="w-37.5 font-[600]"
        onChange={(name) => name.trim() && void keep(facts, { ...room, name: name.trim() })}
      />
      <span className="small text-quiet">plays in</span>
      <Choice
        label="Layout of the room"
        look="bare"
        value={room.layout}
        options={[...all.map((l) => ({ value: l.id, label: l.name })), { value: OWN, label: 'A layout of your own…' }]}
        onChange={(to) => (to === OWN ? setOwn(true) : void keep(facts, withLayout(room, to)))}
      />
      <span className="small text-quiet">through</span>
      <Choice
        label="Output of the room"
        look="bare"
        value={room.output}
        options={known ? outputs : [...outputs, { value: room.output, label: `${room.output} (not there)` }]}
        onChange={(to) => void keep(facts, { ...room, output: to })}
      />
      {output && <span className="small text-quiet">{output.channels} ports</span>}
      {own && (
        <OwnLayoutDialog
          from={room.layout}
          onClose={() => setOwn(false)}
          onMade={(id) => void keep(facts, withLayout(room, id))}
        />
      )}
    </div>
  );
}
