'use client';
import { stemOfTrack } from '@/core/paths';
import { linkHorizontal } from 'd3-shape';
import { stemsOf, type SessionDoc } from '@/core/session';
import { hueOf } from '@/parts';

const WIDTH = 118;
const HEIGHT = 82;
const link = linkHorizontal<unknown, [number, number]>();

/** A set-up as a small picture: tracks, stems and the reference with what runs between them. */
export function FlowPicture({ doc }: { doc: SessionDoc }) {
  const tracks = doc.tracks.slice(0, 24);
  const stems = stemsOf(doc);
  const y = (i: number, n: number) => ((i + 0.5) * HEIGHT) / Math.max(1, n);
  return (
    <svg
      role="img"
      aria-label={`${doc.tracks.length} tracks to ${stems.length} stems and the reference`}
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      className="w-29.5 shrink-0 self-center rounded-sm bg-ground"
    >
      {tracks.map((t, i) => {
        const stem = stemOfTrack(doc, t.destination);
        if (!stem) return null;
        const to: [number, number] = [58, y(stems.indexOf(stem), stems.length)];
        return (
          <path
            key={t.id}
            d={link({ source: [14, y(i, tracks.length)], target: to })!}
            fill="none"
            stroke={hueOf(stem)}
            strokeOpacity={0.7}
          />
        );
      })}
      {stems.map((s, i) => (
        <path
          key={s.id}
          d={link({ source: [64, y(i, stems.length)], target: [104, HEIGHT / 2] })!}
          fill="none"
          stroke={hueOf(s)}
          strokeWidth={2}
          strokeOpacity={0.7}
        />
      ))}
      {tracks.map((t, i) => (
        <rect key={t.id} x={8} y={y(i, tracks.length) - 1.5} width={6} height={3} rx={1} fill="var(--quiet)" />
      ))}
      {stems.map((s, i) => (
        <rect key={s.id} x={58} y={y(i, stems.length) - 3} width={6} height={6} rx={1.5} fill={hueOf(s)} />
      ))}
      <rect x={103} y={HEIGHT / 2 - 5} width={8} height={10} rx={2} fill="var(--text)" />
    </svg>
  );
}
