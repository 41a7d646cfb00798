'use client';
import { useRef } from 'react';
import {
  position,
  recentLevel,
  useDevices,
  useDisk,
  useDoc,
  useTakes,
  useTransport,
  deviceKey,
  docNow,
} from '@/client';
import { minutesOnDisk } from '@/core/checks';
import { lineId } from '@/core/session';
import { useFrame, useTick, drawText } from '@/parts';

const room = (minutes: number): string =>
  minutes < 120 ? `${Math.floor(minutes)} min` : minutes < 6_000 ? `${Math.floor(minutes / 60)} h` : 'days';

/** What is being recorded, for how long yet, or what is ready to be. */
export function RecordState() {
  const doc = useDoc('format', 'tracks');
  const { state, misses } = useTransport();
  useTick(300);
  const diskFree = useDisk((s) => s.diskFree);
  const running = useTakes((s) => s.running);
  const plan = useTransport((s) => s.plan);
  const elapsed = useRef<HTMLSpanElement>(null);
  const { list } = useDevices();
  const { sampleRate } = doc.format;
  const armed = doc.tracks.filter((t) => t.armed);
  useFrame(() => {
    if (!elapsed.current || !plan) return;
    const since = (position() - plan.in) / sampleRate;
    drawText(elapsed.current, since < 0 ? `in ${Math.ceil(-since)} s` : `${since.toFixed(1)} s`);
  });
  if (state === 'recording') {
    const trouble = running.some((t) => t.trouble);
    const numbers = [...new Set(running.filter((t) => t.frames > 0 && t.number).map((t) => t.number))].join(', ');
    return (
      // Keys: what was written into the one must not be left in the other.
      <div key="recording" className="small whitespace-nowrap font-[620] leading-4.5 text-rec" role="status">
        Recording{numbers ? ` take ${numbers}` : ''} · <span ref={elapsed} className="figure" />
        {trouble ? (
          <div className="text-warn">kept in this browser</div>
        ) : (
          <div className="font-[430] text-quiet">
            disk for {room(minutesOnDisk(docNow(), armed, diskFree ?? Infinity))}
          </div>
        )}
      </div>
    );
  }
  const lines = armed.flatMap((t) => t.inputs).filter((l): l is string => l !== null);
  const heard = lines.filter((id) =>
    list.some(
      (d) => d.slot >= 0 && d.lines.some((_, c) => lineId(d.id, c) === id && recentLevel(deviceKey(d.slot, c)) > -60),
    ),
  );
  return (
    <div key="ready" className="small flex min-w-0 max-w-37.5 flex-wrap gap-x-2 overflow-hidden leading-4.5">
      <span className="truncate text-quiet">
        {armed.length === 0
          ? 'no track armed'
          : armed.length === 1
            ? `${armed[0]!.name} armed`
            : `${armed.length} tracks armed`}
      </span>
      {heard.length > 0 && <span className="text-fine">signal</span>}
      {running.length > 0 && <span className="text-warn">finishing take…</span>}
      {misses > 0 && (
        <span
          className="text-warn"
          title={`The sound was interrupted ${misses.toLocaleString('en')} ${misses === 1 ? 'time' : 'times'} since it began to roll: files came too late. What is recorded is not concerned.`}
        >
          {misses.toLocaleString('en')} {misses === 1 ? 'gap' : 'gaps'} heard
        </span>
      )}
    </div>
  );
}
