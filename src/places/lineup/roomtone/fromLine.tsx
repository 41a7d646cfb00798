'use client';
import { Mic, Square } from 'lucide-react';
import { useEffect, useRef, useState } from 'react';
import { toast } from 'sonner';
import { recordLine, useDevices, useDoc } from '@/client';
import { lineId } from '@/core/session';
import { Choice } from '@/parts';

/** So much longer than the room tone is recorded (s): a quiet place must be found in it. */
const MORE = 6;

/** Records a line of a device that is on, straight from it: no track need be armed. */
export function FromLine({
  seconds,
  onSound,
}: {
  seconds: number;
  onSound: (samples: Float32Array, rate: number) => void;
}) {
  const doc = useDoc('lines');
  const list = useDevices((s) => s.list);
  const on = list.filter((d) => d.state === 'on');
  const lines = on.flatMap((d) =>
    d.lines.map((given, channel) => {
      const id = lineId(d.id, channel);
      return { id, device: d, channel, name: doc.lines.find((l) => l.id === id)?.name ?? given };
    }),
  );
  const [chosen, setChosen] = useState<string | null>(null);
  const [share, setShare] = useState<number | null>(null);
  const ended = useRef<AbortController | null>(null);
  useEffect(() => () => ended.current?.abort(new Error('left')), []);
  const line = lines.find((l) => l.id === chosen) ?? lines.find((l) => /room/i.test(l.name)) ?? lines[0];
  if (!line)
    return <span className="small text-quiet">No device is on. Switch one on to take the room from a line.</span>;
  const record = async () => {
    const controller = (ended.current = new AbortController());
    setShare(0);
    try {
      const asked = { device: line.device.id, channel: line.channel, seconds: seconds + MORE };
      const { samples, sampleRate } = await recordLine(asked, setShare, controller.signal);
      onSound(samples, sampleRate);
    } catch (error) {
      if (!controller.signal.aborted) toast.error((error as Error).message);
    } finally {
      setShare(null);
    }
  };
  return (
    <span className="flex min-w-0 items-center gap-2">
      <Choice
        label="Line of the room tone"
        value={line.id}
        options={lines.map((l) => ({ value: l.id, label: l.name, note: `${l.device.name}, line ${l.channel + 1}` }))}
        onChange={setChosen}
      />
      {share === null ? (
        <button className="btn shrink-0" onClick={() => void record()}>
          <Mic size={14} /> Record {seconds + MORE} s
        </button>
      ) : (
        <button className="btn shrink-0" onClick={() => ended.current?.abort(new Error('given up'))}>
          <Square size={13} /> {Math.round(share * (seconds + MORE))} of {seconds + MORE} s
        </button>
      )}
    </span>
  );
}
