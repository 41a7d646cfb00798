'use client';
import { Popover } from 'radix-ui';
import { playStretch, setStretch, useDoc, useStretch } from '@/client';
import { formatDuration } from '@/core/units';
import { NumberField, TimecodeField } from '@/parts';

/** The length of the chosen stretch, on the ruler; pressed, its ends and length are typed. */
export function StretchBox({ x, width }: { x: (sample: number) => number; width: number }) {
  const doc = useDoc('format');
  const stretch = useStretch((s) => s.stretch);
  if (!stretch) return null;
  const rate = doc.format.sampleRate;
  const seconds = (stretch.end - stretch.start) / rate;
  const left = x(stretch.start);
  if (left > width || x(stretch.end) < 0) return null;
  return (
    <Popover.Root>
      <Popover.Trigger
        className="figure absolute top-0.5 z-1 rounded-sm border border-brass bg-panel px-1 text-small leading-3.5 text-brass"
        style={{ left: Math.max(2, Math.min(width - 60, left + 2)) }}
        aria-label={`Chosen stretch, ${seconds.toFixed(2)} s: type it`}
        title="Type the ends and the length of the stretch"
      >
        {formatDuration(seconds)}
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content className="pop grid w-57.5 grid-cols-[1fr_auto] items-center gap-1.5 p-3" sideOffset={4}>
          <span className="text-quiet">from</span>
          <TimecodeField
            label="Start of the stretch"
            sample={stretch.start}
            onChange={(start) => setStretch({ start, end: Math.max(stretch.end, start + 1) })}
          />
          <span className="text-quiet">to</span>
          <TimecodeField
            label="End of the stretch"
            sample={stretch.end}
            onChange={(end) => setStretch({ start: Math.min(stretch.start, Math.max(0, end - 1)), end })}
          />
          <span className="text-quiet">length</span>
          <NumberField
            label="Length of the stretch"
            value={seconds}
            unit="s"
            min={0.001}
            max={86_400}
            step={0.1}
            digits={3}
            onChange={(s) =>
              setStretch({ start: stretch.start, end: stretch.start + Math.max(1, Math.round(s * rate)) })
            }
          />
          <span className="col-span-2 mt-1 flex gap-1.5">
            <button className="btn" onClick={() => void playStretch(stretch)}>
              Play it
            </button>
            <button className="btn" onClick={() => void playStretch(stretch, true)}>
              Round and round
            </button>
            <button className="btn btn-bare" onClick={() => setStretch(null)}>
              None
            </button>
          </span>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
