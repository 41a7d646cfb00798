'use client';
import { clsx } from 'clsx';
import { calibrating, useCalibration } from '@/client';
import { wantedOf, type Room } from '@/core/rooms';
import { layoutOf } from '@/core/speakers';
import { run } from './run';

/** dB within which a speaker counts as equal. */
const EQUAL = 0.5;

/** Every loudspeaker with its trim, delay and readings. */
export function LevelTable({ room }: { room: Room }) {
  const { step, read, aim, found } = useCalibration();
  const wanted = wantedOf(room, aim.level, aim.surround, aim.weighting);
  const { speakers } = layoutOf(room.layout);
  const state = (i: number): { text: string; colour: string } => {
    const { label, port } = room.speakers[i]!;
    if (step.kind !== 'none' && step.speaker === i) return { text: 'sounding', colour: 'text-brass' };
    if (port === null) return { text: 'no port', colour: 'text-quiet' };
    const wrong = found.find((f) => f.speakers.includes(label));
    if (wrong?.kind === 'dead') return { text: 'not heard', colour: 'text-stop' };
    const after = read[label]?.after;
    if (after != null && Math.abs(after - wanted[i]!) <= EQUAL) return { text: 'equal', colour: 'text-fine' };
    if (after != null) return { text: 'off', colour: 'text-warn' };
    return read[label] ? { text: 'trimmed, read again', colour: '' } : { text: 'next', colour: 'text-quiet' };
  };
  return (
    <table className="w-full">
      <thead>
        <tr className="small border-b text-right text-quiet [&_th]:py-1.5 [&_th]:font-[420]">
          <th className="text-left">speaker</th>
          <th>angle</th>
          <th>port</th>
          <th>trim dB</th>
          <th>delay ms</th>
          <th>asked</th>
          <th>first read</th>
          <th>last read dB SPL</th>
          <th className="pl-4 text-left">state</th>
        </tr>
      </thead>
      <tbody>
        {room.speakers.map((s, i) => {
          const now = state(i);
          const known = read[s.label];
          return (
            <tr
              key={s.label}
              data-level-of={s.label}
              className={clsx(
                'figure h-7 cursor-pointer border-b text-right',
                step.kind !== 'none' && step.speaker === i && 'bg-raised',
              )}
              onClick={() => run(() => calibrating().hand(i))}
            >
              <td className="pl-1 text-left font-[600]">
                <button className="font-sans" aria-label={`Sound ${s.label}`}>
                  {s.label}
                </button>
              </td>
              <td className="text-quiet">{speakers[i]!.lfe ? '–' : `${s.azimuth}°`}</td>
              <td>{s.port ?? '–'}</td>
              <td data-trim>{s.trim.toFixed(1)}</td>
              <td data-delay>{s.delay.toFixed(2)}</td>
              <td className="text-quiet">{wanted[i]!.toFixed(1)}</td>
              <td>{known ? known.before.toFixed(1) : '–'}</td>
              <td data-after>{known?.after != null ? known.after.toFixed(1) : '–'}</td>
              <td className={clsx('pl-4 text-left font-sans', now.colour)}>{now.text}</td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}
