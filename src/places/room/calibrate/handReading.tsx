'use client';
import { useRef, useState } from 'react';
import { toast } from 'sonner';
import { calibrating, useCalibration } from '@/client';
import { wantedOf, type Room } from '@/core/rooms';
import { parseNumber } from '@/core/units';
import { useFrame, drawText } from '@/parts';
import { run } from './run';

/** The reading of a meter for the speaker that sounds, typed or taken, and on to the next. */
export function HandReading({ room }: { room: Room }) {
  const { step, aim, read, ear } = useCalibration();
  const [text, setText] = useState('');
  const needle = useRef<HTMLSpanElement>(null);
  const shown = useRef<number | null>(null);
  useFrame(() => {
    shown.current = calibrating().meter;
    drawText(needle.current, shown.current === null ? '' : shown.current.toFixed(1));
  });
  if (step.kind !== 'hand')
    return (
      <p className="small mb-1 text-quiet">
        Or by hand: click a loudspeaker on the plan or in the table, hold the meter at the listening place, pointing up,{' '}
        {aim.weighting} weighting, slow, and type what it reads.
      </p>
    );
  const { speaker } = step;
  const s = room.speakers[speaker]!;
  const wanted = wantedOf(room, aim.level, aim.surround, aim.weighting)[speaker]!;
  const next = room.speakers.findIndex((o, i) => i > speaker && o.port !== null);
  const take = (spl: number | null) => {
    if (spl === null || !Number.isFinite(spl)) return;
    run(() => calibrating().tell(Math.round(spl * 10) / 10));
    setText('');
  };
  const level = (spl: number) => {
    if (!Number.isFinite(spl)) return void toast.error(`"${text}" is no figure. Nothing was set.`);
    run(() => calibrating().levelEar(spl));
    setText('');
  };
  return (
    <div className="mb-2">
      <form
        className="flex items-center gap-3"
        onSubmit={(e) => {
          e.preventDefault();
          take(parseNumber(text));
        }}
      >
        <label className="flex items-center gap-2 rounded-md border border-brass px-2">
          <input
            aria-label={`What the meter reads of ${s.label}`}
            className="figure w-[5ch] bg-transparent py-1 text-clock outline-none"
            value={text}
            placeholder="–"
            onChange={(e) => setText(e.target.value)}
            onKeyDown={(e) => e.stopPropagation()}
          />
          <span className="small text-quiet">dB SPL</span>
        </label>
        <button className="btn" disabled={text.trim() === ''}>
          Take it
        </button>
        {calibrating().measures && ear.fullScale !== null && (
          <button type="button" className="btn" onClick={() => take(shown.current)}>
            Take the meter’s <span ref={needle} className="figure ml-1" data-testid="meter-now" />
          </button>
        )}
        {calibrating().measures && ear.fullScale === null && (
          <button
            type="button"
            className="btn"
            disabled={text.trim() === ''}
            title="The microphone beside the meter is a meter itself from then on"
            onClick={() => level(parseNumber(text))}
          >
            The microphone hears that
          </button>
        )}
        <span className="small text-quiet">
          asked <span className="figure text-text">{wanted.toFixed(1)}</span>
          {read[s.label] && (
            <>
              {' '}
              → trim <span className="figure text-brass">{s.trim.toFixed(1)} dB</span>
            </>
          )}
        </span>
        <button
          type="button"
          className="btn btn-main ml-auto"
          onClick={() => run(() => (next < 0 ? calibrating().rest() : calibrating().hand(next)))}
        >
          {next < 0 ? 'Done' : `Next: ${room.speakers[next]!.label}`}
        </button>
      </form>
    </div>
  );
}
