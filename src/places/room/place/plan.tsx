'use client';
import { stemOfTrack } from '@/core/paths';
import { useDoc } from '@/client';
import { layoutOf, placementGains, stereoPlacementGains, type Speaker } from '@/core/speakers';
import { hueOf, useKernels } from '@/parts';
import { pointOf, SIZE } from '../geometry';
import { Dot } from './dot';
import { placeable, stackedWith, trailOf } from './places';
import { SideView } from './sideView';

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
  const source = track ? pointOf(track.placement.azimuth, track.placement.distance, track.placement.elevation) : null;
  const high = layout.speakers.some((s) => !s.lfe && s.elevation !== 0);
  const trail = track && placeable(track) ? trailOf(doc, track) : null;
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
      {high && (
        <circle
          {...{ cx: SIZE.cx, cy: SIZE.cy, r: SIZE.radius * Math.SQRT1_2, fill: 'none', stroke: 'var(--quiet)' }}
          strokeOpacity="0.5"
        />
      )}
      {trail && (
        <polyline
          data-testid="trail"
          points={trail.map((p) => `${p.x.toFixed(1)},${p.y.toFixed(1)}`).join(' ')}
          {...{ fill: 'none', stroke: hue, strokeWidth: 2, strokeDasharray: '1 5', strokeLinecap: 'round' }}
        />
      )}
      {source &&
        layout.speakers.map((s, c) => {
          if (s.lfe || power[c]! < 0.02) return null;
          const p = pointOf(s.azimuth, 1, s.elevation);
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
        <SpeakerMark key={s.label} speaker={s} lit={power[c] ?? 0} hue={hue} />
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
          row={stackedWith(dots.slice(0, i), t).length}
        />
      ))}
      {(high || (track?.placement.elevation ?? 0) !== 0) && <SideView layout={layout} track={track} hue={hue} />}
    </svg>
  );
}

function SpeakerMark({ speaker, lit, hue }: { speaker: Speaker; lit: number; hue: string }) {
  const { label, azimuth, elevation, lfe } = speaker;
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
  const p = pointOf(azimuth, 1, elevation);
  // What stands high has its words on the side of the middle of the ring.
  const out = pointOf(azimuth, elevation === 0 ? 1.14 : 1.26, elevation);
  const name = elevation === 0 ? out : { x: out.x, y: out.y + (p.y < SIZE.cy ? -8 : 2) };
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
        {azimuth > 0 ? `+${azimuth}` : azimuth}°{elevation !== 0 && ` ↑${elevation}°`}
      </text>
    </g>
  );
}
