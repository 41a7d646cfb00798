'use client';
import { clsx } from 'clsx';
import { useEffect, useMemo } from 'react';
import { calibrating, useCalibration, useInRoom } from '@/client';
import { wantedOf, type Room } from '@/core/rooms';
import { RoomPlan } from '../roomPlan';
import { SoundButton } from '../soundButton';
import { useRoom, useShownRoom } from '../useRoom';
import { AimRow } from './aimRow';
import { EarRow } from './earRow';
import { FoundList } from './foundList';
import { HandReading } from './handReading';
import { LevelTable } from './levelTable';
import { run } from './run';
import { Sheet } from './sheet';

/** Every loudspeaker as loud as it should be, and all in time, step by step. */
export function CalibrateLens({ bar }: { bar: React.ReactNode }) {
  const facts = useRoom();
  const room = useShownRoom();
  const sounds = useInRoom((s) => s.sounds);
  // What was set and not kept goes with the view.
  useEffect(() => () => calibrating().discard(), []);
  return (
    <>
      <section className="flex w-150 shrink-0 flex-col border-r" aria-label="Loudspeakers of the room">
        {bar}
        {room && <CalibratePlan room={room} />}
      </section>
      <section className="flex min-w-0 flex-1 flex-col overflow-y-auto bg-panel p-4" aria-label="Calibration">
        {facts && room && sounds ? (
          <Steps room={room} />
        ) : (
          <p className="mb-3 max-w-115 text-quiet">
            {facts
              ? 'The loudspeakers of this room do not sound: its output is off or not there, or no sound was started yet.'
              : 'Choose or make a room under Ports first; then each of its loudspeakers is set here, by a sound level meter or by the measuring microphone of the stand-in.'}
          </p>
        )}
        {facts && !sounds && <SoundButton />}
        {facts && <Sheet facts={facts} />}
      </section>
    </>
  );
}

function CalibratePlan({ room }: { room: Room }) {
  const { step, found, read, aim } = useCalibration();
  const wanted = useMemo(() => wantedOf(room, aim.level, aim.surround, aim.weighting), [room, aim]);
  const sounding = step.kind === 'none' ? [] : [room.speakers[step.speaker]!.label];
  const wrong = new Set(found.flatMap((f) => f.speakers));
  const fine = new Set(
    room.speakers.flatMap((s, i) => {
      const after = read[s.label]?.after;
      return after != null && Math.abs(after - wanted[i]!) <= 0.5 ? [s.label] : [];
    }),
  );
  return (
    <RoomPlan
      {...{ room, sounding, wrong, fine }}
      mic={aim.weighting}
      onSpeaker={(i) => run(() => calibrating().hand(i))}
    />
  );
}

function Steps({ room }: { room: Room }) {
  const { step, read } = useCalibration();
  const fresh = Object.keys(read).length === 0;
  const measures = calibrating().measures;
  const label = step.kind === 'none' ? '' : room.speakers[step.speaker]!.label;
  return (
    <>
      <h2 className="title">
        {step.kind === 'none'
          ? 'Calibration'
          : step.kind === 'looking'
            ? `Listening to ${label}`
            : `${label} is sounding`}{' '}
        {step.kind !== 'none' && (
          <span className="small font-[420] text-quiet">
            speaker {step.speaker + 1} of {room.speakers.length} ·{' '}
            {step.kind === 'looking' ? 'sweep, −20 dBFS' : 'pink noise, band-limited'}
          </span>
        )}
      </h2>
      <AimRow />
      <EarRow />
      {measures && (
        <div className="my-2 flex flex-wrap items-center gap-2">
          <button className="btn" disabled={step.kind === 'looking'} onClick={() => run(() => calibrating().look())}>
            Look for faults
          </button>
          <button
            className={clsx('btn', fresh && 'btn-main')}
            disabled={step.kind === 'reading' || step.kind === 'looking'}
            onClick={() => run(() => calibrating().all())}
          >
            Measure and set all
          </button>
          {step.kind !== 'none' && (
            <button className="btn" onClick={() => calibrating().rest()}>
              Stop
            </button>
          )}
          {calibrating().listensOn === null && <Practice room={room} />}
        </div>
      )}
      <HandReading room={room} />
      <LevelTable room={room} />
      <FoundList />
    </>
  );
}

/** The simulated room with things that are wrong, to practise on. */
function Practice({ room }: { room: Room }) {
  return (
    <span className="small ml-auto flex items-center gap-1 text-quiet">
      simulated room:
      <button className="chip" onClick={() => calibrating().practise(null)}>
        as built
      </button>
      <button
        className="chip"
        title="Levels and distances off, one pair swapped, one loudspeaker reversed, one dead"
        onClick={() => calibrating().practise({ seed: 3, ports: room.speakers.length })}
      >
        with faults
      </button>
    </span>
  );
}
