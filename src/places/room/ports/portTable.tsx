'use client';
import { clsx } from 'clsx';
import type { RoomFacts } from '@/client';
import { delaysByDistance, portsFrom, ROOM_LIMITS, setSpeaker, type RoomSpeaker } from '@/core/rooms';
import { layoutOf } from '@/core/speakers';
import { Meter, NumberField } from '@/parts';
import { keep } from '../useRoom';
import { InOrder } from './inOrder';
import { WholeField } from './wholeField';

/** Every loudspeaker of the room: where it stands, and how it is driven. */
export function PortTable({
  facts,
  chosen,
  onChoose,
}: {
  facts: RoomFacts;
  chosen: number;
  onChoose: (index: number) => void;
}) {
  const { room } = facts;
  const { speakers } = layoutOf(room.layout);
  const set = (label: string, part: Partial<RoomSpeaker>) => void keep(facts, setSpeaker(room, label, part));
  const field = (
    s: RoomSpeaker,
    what: keyof typeof ROOM_LIMITS & keyof RoomSpeaker,
    digits: number,
    reset?: number,
  ) => (
    <NumberField
      label={`${what[0]!.toUpperCase()}${what.slice(1)} of ${s.label}`}
      value={s[what] as number}
      {...ROOM_LIMITS[what]}
      unit=""
      digits={digits}
      reset={reset}
      className="w-full justify-end"
      onChange={(v) => set(s.label, { [what]: v })}
    />
  );
  return (
    <>
      <table className="w-full">
        <thead>
          <tr className="small border-b text-right text-quiet [&_th]:py-1.5 [&_th]:font-[420]">
            <th className="text-left">speaker</th>
            <th>port</th>
            <th>angle °</th>
            <th>height °</th>
            <th>distance m</th>
            <th>trim dB</th>
            <th>delay ms</th>
            <th className="pl-3 text-left">sign</th>
            <th className="w-20 pl-2 text-left">now</th>
          </tr>
        </thead>
        <tbody>
          {room.speakers.map((s, i) => (
            <tr
              key={s.label}
              data-room-speaker={s.label}
              aria-selected={i === chosen}
              className={clsx('h-7.25 border-b text-right', i === chosen && 'bg-raised')}
              onClick={() => onChoose(i)}
            >
              <td className="pl-1 text-left font-[600]">{s.label}</td>
              <td>
                <WholeField label={`Port of ${s.label}`} value={s.port} onChange={(port) => set(s.label, { port })} />
              </td>
              <td>{speakers[i]!.lfe ? '–' : field(s, 'azimuth', 0, speakers[i]!.azimuth)}</td>
              <td>{speakers[i]!.lfe ? '–' : field(s, 'elevation', 0, speakers[i]!.elevation)}</td>
              <td>{field(s, 'distance', 2)}</td>
              <td>{field(s, 'trim', 1, 0)}</td>
              <td>{field(s, 'delay', 2, 0)}</td>
              <td className="whitespace-nowrap pl-3 text-left">
                <button
                  className="chip"
                  aria-pressed={s.inverted}
                  aria-label={`Opposite sign of ${s.label}`}
                  onClick={() => set(s.label, { inverted: !s.inverted })}
                >
                  {s.inverted ? '−' : '+'}
                </button>{' '}
                <button
                  className="chip"
                  aria-pressed={s.muted}
                  aria-label={`Mute ${s.label} in this room`}
                  onClick={() => set(s.label, { muted: !s.muted })}
                >
                  M
                </button>
              </td>
              <td className="pl-2">
                <Meter keys={[`out/speaker/${s.label}/0`]} label={`Level of ${s.label}`} />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <div className="mt-2 flex flex-wrap items-center gap-2">
        <InOrder
          what="Ports"
          layout={room.layout}
          most={ROOM_LIMITS.port.max}
          onNumbers={(first, order) => void keep(facts, portsFrom(room, first, order))}
        />
        <button
          className="btn btn-bare"
          title="Each waits until the farthest one sounds: 2.914 ms a metre (343.2 m/s at 20 °C)"
          onClick={() => {
            const delays = delaysByDistance(room);
            void keep(facts, { ...room, speakers: room.speakers.map((s, i) => ({ ...s, delay: delays[i]! })) });
          }}
        >
          Delays from distances
        </button>
      </div>
    </>
  );
}
