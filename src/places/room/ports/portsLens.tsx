'use client';
import { useMemo, useState } from 'react';
import { useDoc, useInRoom } from '@/client';
import { freePorts, playedAs } from '@/core/rooms';
import { RoomPlan } from '../roomPlan';
import { SoundButton } from '../soundButton';
import { useRoom, useRoomFaults } from '../useRoom';
import { FaultList } from './faultList';
import { Microphones } from './microphones';
import { PortTable } from './portTable';
import { RoomChooser } from './roomChooser';
import { TestPanel, useTest } from './testPanel';

const NONE: ReadonlySet<string> = new Set();

/** Loudspeakers of the room, each on its port, and sounds to try them with. */
export function PortsLens({ bar }: { bar: React.ReactNode }) {
  const doc = useDoc('format');
  const facts = useRoom();
  const output = useInRoom((s) => s.output);
  const faults = useRoomFaults(facts?.room ?? null);
  const [chosen, setChosen] = useState(0);
  const sounding = useTest((s) => s.sounding);
  const wrong = useMemo(() => new Set(faults.filter((f) => f.grade !== 'note').flatMap((f) => f.speakers)), [faults]);
  const free = facts && output ? freePorts(facts.room, output.channels) : [];
  const played = facts && playedAs(facts.room, doc.format.layout);
  return (
    <>
      <section className="flex w-150 shrink-0 flex-col border-r" aria-label="Loudspeakers of the room">
        {bar}
        {facts ? (
          <>
            <RoomPlan
              room={facts.room}
              sounding={sounding}
              wrong={wrong}
              fine={NONE}
              mic={null}
              onSpeaker={setChosen}
            />
            <TestPanel room={facts.room} chosen={chosen} />
          </>
        ) : (
          <p className="m-6 max-w-105 text-quiet">
            No room is chosen on this machine: the monitor is folded down for headphones or two loudspeakers. A room
            says which loudspeaker hangs on which port, how loud each is, and how long it waits.
          </p>
        )}
      </section>
      <section className="flex min-w-0 flex-1 flex-col overflow-y-auto bg-panel p-4" aria-label="Ports">
        <RoomChooser facts={facts} />
        {facts && <SoundButton />}
        {facts && (
          <>
            <PortTable facts={facts} chosen={chosen} onChoose={setChosen} />
            <FaultList label="What is wrong with the room" faults={faults}>
              {played && <p className="text-quiet">{played}</p>}
              {free.length > 0 && <p className="text-quiet">Free ports: {free.join(', ')}.</p>}
            </FaultList>
            <Microphones facts={facts} />
          </>
        )}
      </section>
    </>
  );
}
