'use client';
import { useMemo } from 'react';
import { useDoc } from '@/client';
import { ChannelSet, type Kernels } from '@/core/kernels';
import { decayTime } from '@/core/measure';
import type { Stage } from '@/core/session';
import { layoutOf, type LayoutId } from '@/core/speakers';
import { stageKind, valueOf } from '@/core/stages';
import { useKernels } from './curve';

/** A channel counts as woken from so far below the loudest on (dB). */
const WOKEN = -50;
const BLOCK = 4096;

interface Room {
  /** Seconds; null where it cannot be read. */
  decay: number | null;
  /** Channels that a sound on the first one alone wakes. */
  woken: boolean[];
}

/** What a room does to an impulse on its first channel: the stage itself is run. */
function measure(k: Kernels, stage: Stage, layout: LayoutId, rate: number): Room {
  const kind = stageKind(stage.type);
  const channels = layoutOf(layout).speakers.length;
  const seconds = valueOf(kind, stage.values, 'decay') * 0.8 + valueOf(kind, stage.values, 'preDelay') / 1000 + 0.1;
  const frames = Math.ceil((seconds * rate) / BLOCK) * BLOCK;
  const runner = kind.create(k, rate, channels);
  const block = new ChannelSet(k, channels, BLOCK);
  const first = new Float32Array(frames);
  const energy = new Float64Array(channels);
  // Wet only: the dry sound would hide the room.
  runner.set({ ...stage.values, mix: 100 }, true);
  for (let at = 0; at < frames; at += BLOCK) {
    for (let c = 0; c < channels; c++) block.view(c).fill(0);
    if (at === 0) block.view(0)[0] = 1;
    runner.run(block.table, BLOCK);
    for (let c = 0; c < channels; c++) for (const v of block.view(c)) energy[c]! += v * v;
    first.set(block.view(0), at);
  }
  runner.free();
  block.free();
  const top = Math.max(...energy);
  const from = first.findIndex((v) => v !== 0);
  return {
    decay: from < 0 ? null : decayTime(first.subarray(from), rate),
    woken: Array.from(energy, (e) => e > 0 && 10 * Math.log10(e / top) > WOKEN),
  };
}

/** A room's measured decay, and which loudspeakers a sound on the left alone wakes. */
export function RoomFacts({ stage, layout }: { stage: Stage; layout: LayoutId }) {
  const k = useKernels();
  const { sampleRate } = useDoc('format').format;
  const values = JSON.stringify(stage.values);
  const room = useMemo(
    () => k && measure(k, stage, layout, sampleRate),
    // The values say all of the stage.
    // oxlint-disable-next-line react/exhaustive-deps
    [k, values, layout, sampleRate],
  );
  const { speakers } = layoutOf(layout);
  const seen = speakers.map((s, c) => ({ ...s, c })).filter((s) => !s.lfe);
  return (
    <div className="flex items-center gap-3 border-b py-1.5" data-testid="room-facts">
      <svg viewBox="-32 -32 64 64" className="size-16 shrink-0" role="img" aria-label={wokenText(room, speakers)}>
        <circle r={22} fill="none" stroke="var(--line)" />
        <circle r={2.5} fill="var(--quiet)" />
        {seen.map((s) => {
          // Seen from above, the front at the top, the left on the left; what is high stands further in.
          const angle = (-s.azimuth * Math.PI) / 180;
          const far = 22 * Math.cos((s.elevation * Math.PI) / 180);
          const lit = room?.woken[s.c] ?? false;
          return (
            <rect
              key={s.label}
              x={Math.sin(angle) * far - 4}
              y={-Math.cos(angle) * far - 4}
              width={8}
              height={8}
              rx={1.5}
              fill={lit ? 'var(--brass)' : 'var(--panel)'}
              stroke={s.c === 0 ? 'var(--text)' : 'var(--quiet)'}
            />
          );
        })}
      </svg>
      <div className="small min-w-0">
        <p>
          measured decay <span className="figure">{room?.decay == null ? '–' : `${room.decay.toFixed(2)} s`}</span>
        </p>
        <p className="text-quiet">{wokenText(room, speakers)}</p>
      </div>
    </div>
  );
}

function wokenText(room: Room | null, speakers: readonly { label: string }[]): string {
  const [first] = speakers;
  if (!room || !first) return 'being measured';
  const others = speakers.filter((_, c) => c > 0 && room.woken[c]).length;
  if (speakers.length === 1) return 'one channel, one room';
  return others === 0
    ? `a sound on ${first.label} alone wakes only ${first.label}`
    : `a sound on ${first.label} alone wakes ${others + 1} of ${speakers.length} channels, as a room does`;
}
