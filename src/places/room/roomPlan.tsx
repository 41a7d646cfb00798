'use client';
import { layoutOf } from '@/core/speakers';
import type { Room } from '@/core/rooms';
import { pointOf, SIZE } from './geometry';

interface RoomPlanProps {
  room: Room;
  /** Labels of speakers that sound, that are wrong, and that are fine. */
  sounding: readonly string[];
  wrong: ReadonlySet<string>;
  fine: ReadonlySet<string>;
  /** Weighting of the meter at the seat; null: there is none. */
  mic: 'A' | 'C' | null;
  onSpeaker: (index: number) => void;
}

/** The loudspeakers of a room where they stand, from above; what stands high is nearer to the middle. */
export function RoomPlan({ room, sounding, wrong, fine, mic, onSpeaker }: RoomPlanProps) {
  const { speakers } = layoutOf(room.layout);
  const farthest = Math.max(...room.speakers.map((s) => s.distance));
  return (
    <svg
      viewBox={`0 0 ${SIZE.width} ${SIZE.height}`}
      className="min-h-0 w-full flex-1 select-none"
      data-testid="room-plan"
    >
      {[1, 0.5].map((share) => (
        <g key={share}>
          <circle
            {...{ cx: SIZE.cx, cy: SIZE.cy, r: SIZE.radius * share, fill: 'none', stroke: 'var(--line)' }}
            strokeDasharray={share === 1 ? undefined : '2 5'}
          />
          <text x={SIZE.cx + SIZE.radius * share * 0.71 + 6} y={SIZE.cy + SIZE.radius * share * 0.71 + 12} {...QUIET}>
            {(farthest * share).toFixed(1)} m
          </text>
        </g>
      ))}
      {room.speakers.map((s, i) => {
        const flat = Math.cos((s.elevation * Math.PI) / 180);
        const at = speakers[i]!.lfe ? LFE_AT : pointOf(s.azimuth, (s.distance / farthest) * flat);
        const state = sounding.includes(s.label)
          ? 'sounding'
          : wrong.has(s.label)
            ? 'wrong'
            : fine.has(s.label)
              ? 'fine'
              : '';
        return <Box key={s.label} {...{ room, index: i, at, state, onSpeaker }} />;
      })}
      <g role="img" aria-label="Listener" fill="none" stroke="var(--text)" strokeWidth="1.6">
        <circle cx={SIZE.cx} cy={SIZE.cy} r="13" />
        <path d={`M${SIZE.cx - 4} ${SIZE.cy - 13} l4 -6 l4 6`} />
      </g>
      {mic && (
        <g stroke="var(--signal)" strokeWidth="2" fill="none">
          <path d={`M${SIZE.cx + 22} ${SIZE.cy + 12} h10 M${SIZE.cx + 27} ${SIZE.cy + 12} v18`} />
          <text x={SIZE.cx + 38} y={SIZE.cy + 26} fontSize="12" fill="var(--signal)" stroke="none">
            meter, {mic}, slow
          </text>
        </g>
      )}
    </svg>
  );
}

/** Low sounds have no direction: it stands aside. */
const LFE_AT = { x: SIZE.width - 60, y: SIZE.height - 48 };

const QUIET = { fontSize: 11, fill: 'var(--quiet)', className: 'figure' } as const;
const STROKES: Record<string, string> = { sounding: 'var(--brass)', wrong: 'var(--warn)', fine: 'var(--fine)' };

function Box({
  room,
  index,
  at,
  state,
  onSpeaker,
}: {
  room: Room;
  index: number;
  at: { x: number; y: number };
  state: string;
  onSpeaker: (index: number) => void;
}) {
  const s = room.speakers[index]!;
  const stroke = s.muted ? 'var(--line)' : (STROKES[state] ?? 'var(--quiet)');
  return (
    <g
      role="button"
      tabIndex={0}
      aria-label={`Speaker ${s.label}, ${s.port === null ? 'no port' : `port ${s.port}`}${state ? `, ${state}` : ''}`}
      className="cursor-pointer"
      onClick={() => onSpeaker(index)}
      onKeyDown={(e) => {
        if (e.key !== 'Enter' && e.key !== ' ') return;
        e.preventDefault();
        e.stopPropagation();
        onSpeaker(index);
      }}
    >
      <rect
        {...{ x: at.x - 14, y: at.y - 12, width: 28, height: 24, rx: 4, fill: 'var(--raised)', stroke }}
        strokeWidth={state === 'sounding' ? 3 : 1.6}
      />
      <text x={at.x} y={at.y + 4.5} fontSize="12" fontWeight="600" fill="var(--text)" textAnchor="middle">
        {s.port ?? '–'}
      </text>
      <text x={at.x} y={at.y - 18} fontSize="12.5" fontWeight="600" fill="var(--text)" textAnchor="middle">
        {s.label}
      </text>
      {state === 'sounding' &&
        [24, 32, 40].map((r, i) => (
          <circle key={r} cx={at.x} cy={at.y} r={r} fill="none" stroke="var(--brass)" strokeOpacity={0.7 - i * 0.25} />
        ))}
    </g>
  );
}
