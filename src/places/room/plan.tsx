'use client';
import { stemOfTrack } from '@/core/paths';
import { useRef, type KeyboardEvent, type PointerEvent } from 'react';
import { edit, preview, select, useDoc } from '@/client';
import { type Track } from '@/core/session';
import { layoutOf, placementGains, stereoPlacementGains, wrapDegrees, type Placement } from '@/core/speakers';
import { hueOf, useKernels } from '@/parts';
import { placeOf, pointOf, SIZE } from './geometry';

const placeable = (t: Track): boolean => t.layout === 'mono' || t.layout === 'stereo';

/** The plan: speakers at their true angles, sources as dots to drag. */
export function Plan({ track: chosen }: { track: string | null }) {
  const doc = useDoc();
  const k = useKernels();
  const layout = layoutOf(doc.format.layout);
  const track = doc.tracks.find((t) => t.id === chosen);
  const gains =
    k && track && placeable(track)
      ? track.layout === 'mono'
        ? [placementGains(k, layout, track.placement)]
        : stereoPlacementGains(k, layout, track.placement)
      : [];
  const power = layout.speakers.map((_, c) => Math.sqrt(gains.reduce((s, g) => s + g[c]! ** 2, 0)));
  const hue = track ? hueOf(stemOfTrack(doc, track.destination)) : 'var(--quiet)';
  // The chosen one is drawn last, on top.
  const dots = doc.tracks.filter(placeable).sort((a, b) => Number(a.id === chosen) - Number(b.id === chosen));
  const source = track ? pointOf(track.placement.azimuth, track.placement.distance) : null;
  return (
    <svg
      viewBox={`0 0 ${SIZE.width} ${SIZE.height}`}
      className="min-h-0 w-full flex-1 touch-none select-none"
      data-testid="plan"
    >
      <text x={16} y={24} fontSize="12" fill="var(--quiet)">
        {layout.name} · {layout.speakers.map((s) => s.label).join(' ')}
      </text>
      <text x={SIZE.width - 16} y={24} fontSize="12" fill="var(--quiet)" textAnchor="end">
        front is up
      </text>
      {[1 / 3, 2 / 3].map((r) => (
        <circle
          key={r}
          cx={SIZE.cx}
          cy={SIZE.cy}
          r={SIZE.radius * r}
          fill="none"
          stroke="var(--line)"
          strokeDasharray="2 5"
        />
      ))}
      <circle cx={SIZE.cx} cy={SIZE.cy} r={SIZE.radius} fill="none" stroke="var(--line)" />
      {source &&
        layout.speakers.map((s, c) => {
          if (s.lfe || power[c]! < 0.02) return null;
          const p = pointOf(s.azimuth, 1);
          return (
            <line
              key={s.label}
              x1={source.x}
              y1={source.y}
              x2={p.x}
              y2={p.y}
              stroke={hue}
              strokeOpacity="0.55"
              strokeWidth={1 + 5 * power[c]!}
            />
          );
        })}
      {layout.speakers.map((s, c) => (
        <SpeakerMark key={s.label} label={s.label} azimuth={s.azimuth} lfe={s.lfe} lit={power[c] ?? 0} hue={hue} />
      ))}
      <g role="img" aria-label="Listener" fill="none" stroke="var(--text)" strokeWidth="1.6">
        <circle cx={SIZE.cx} cy={SIZE.cy} r="13" />
        <path d={`M${SIZE.cx - 4} ${SIZE.cy - 13} l4 -6 l4 6`} />
      </g>
      {dots.map((t, i) => (
        <Dot
          key={t.id}
          track={t}
          hue={hueOf(stemOfTrack(doc, t.destination))}
          chosen={t.id === chosen}
          row={stacked(dots, i)}
        />
      ))}
    </svg>
  );
}

function SpeakerMark({
  label,
  azimuth,
  lfe,
  lit,
  hue,
}: {
  label: string;
  azimuth: number;
  lfe: boolean;
  lit: number;
  hue: string;
}) {
  const stroke = lit > 0.02 ? hue : 'var(--quiet)';
  if (lfe) {
    return (
      <g>
        <rect
          x={SIZE.width - 78}
          y={SIZE.height - 72}
          width="28"
          height="28"
          rx="3"
          fill="var(--raised)"
          stroke={stroke}
          strokeWidth="1.5"
        />
        <text
          x={SIZE.width - 64}
          y={SIZE.height - 27}
          fontSize="12.5"
          fontWeight="600"
          fill="var(--text)"
          textAnchor="middle"
        >
          {label}
        </text>
      </g>
    );
  }
  const p = pointOf(azimuth, 1);
  const name = pointOf(azimuth, 1.14);
  return (
    <g>
      <path
        d="M-13 -8 h26 l-5 16 h-16 z"
        transform={`translate(${p.x} ${p.y}) rotate(${-azimuth})`}
        fill="var(--raised)"
        stroke={stroke}
        strokeWidth={lit > 0.02 ? 2 : 1.3}
      />
      <text x={name.x} y={name.y + 2} fontSize="12.5" fontWeight="600" fill="var(--text)" textAnchor="middle">
        {label}
      </text>
      <text x={name.x} y={name.y + 15} fontSize="11" fill="var(--quiet)" textAnchor="middle" className="figure">
        {azimuth > 0 ? `+${azimuth}` : azimuth}°
      </text>
    </g>
  );
}

/** How many sources drawn before this one stand at the same spot: its name goes below theirs. */
function stacked(tracks: readonly Track[], index: number): number {
  const at = (t: Track) => pointOf(t.placement.azimuth, t.placement.distance);
  const here = at(tracks[index]!);
  return tracks.slice(0, index).filter((t) => Math.hypot(at(t).x - here.x, at(t).y - here.y) < 18).length;
}

function Dot({ track, hue, chosen, row }: { track: Track; hue: string; chosen: boolean; row: number }) {
  const last = useRef<Placement | null>(null);
  const { placement } = track;
  const at = pointOf(placement.azimuth, placement.distance);
  const sides =
    track.layout === 'stereo'
      ? [1, -1].map((s) => pointOf(wrapDegrees(placement.azimuth + (s * placement.width) / 2), placement.distance))
      : [];
  const move = (e: PointerEvent<SVGGElement>) => {
    if (!e.currentTarget.hasPointerCapture(e.pointerId)) return;
    const svg = e.currentTarget.ownerSVGElement!;
    const p = new DOMPoint(e.clientX, e.clientY).matrixTransform(svg.getScreenCTM()!.inverse());
    last.current = placeOf(p.x, p.y, placement);
    preview({ type: 'placeTrack', track: track.id, placement: last.current });
  };
  const keys = (e: KeyboardEvent) => {
    const by = e.shiftKey ? 10 : 1;
    const next = { ...placement };
    if (e.key === 'ArrowLeft') next.azimuth = wrapDegrees(placement.azimuth + by);
    else if (e.key === 'ArrowRight') next.azimuth = wrapDegrees(placement.azimuth - by);
    else if (e.key === 'ArrowUp') next.distance = Math.min(1, placement.distance + by / 50);
    else if (e.key === 'ArrowDown') next.distance = Math.max(0, placement.distance - by / 50);
    else return;
    e.preventDefault();
    e.stopPropagation();
    edit({ type: 'placeTrack', track: track.id, placement: next });
  };
  return (
    <g
      role="slider"
      tabIndex={0}
      aria-label={`Place of ${track.name}`}
      aria-valuenow={placement.azimuth}
      aria-valuetext={`${placement.azimuth} degrees, ${Math.round(placement.distance * 100)} percent`}
      data-dot={track.id}
      className="cursor-grab"
      onKeyDown={keys}
      onFocus={() => select({ kind: 'track', id: track.id })}
      onPointerDown={(e) => {
        select({ kind: 'track', id: track.id });
        e.currentTarget.setPointerCapture(e.pointerId);
      }}
      onPointerMove={move}
      onPointerUp={() => {
        if (last.current) edit({ type: 'placeTrack', track: track.id, placement: last.current });
        last.current = null;
      }}
    >
      {sides.map((s, i) => (
        <g key={i}>
          <line x1={at.x} y1={at.y} x2={s.x} y2={s.y} stroke={hue} strokeDasharray="3 3" />
          <circle cx={s.x} cy={s.y} r="5" fill={hue} />
        </g>
      ))}
      <circle
        cx={at.x}
        cy={at.y}
        r={chosen ? 11 : 8}
        fill={hue}
        stroke={chosen ? 'var(--text)' : 'var(--ground)'}
        strokeWidth={chosen ? 2.5 : 1.5}
      />
      <text
        x={at.x}
        y={at.y + 24 + row * 14}
        fontSize="12"
        fill={chosen ? 'var(--text)' : 'var(--quiet)'}
        textAnchor="middle"
        stroke="var(--ground)"
        strokeWidth="3"
        paintOrder="stroke"
      >
        {track.name}
      </text>
    </g>
  );
}
