'use client';
import { edit, preview } from '@/client';
import type { Track } from '@/core/session';
import type { Placement } from '@/core/speakers';
import { NumberField } from '@/parts';

/** The selected source's place in figures. */
export function PlacementFields({ track }: { track: Track }) {
  const { placement } = track;
  if (track.layout !== 'mono' && track.layout !== 'stereo') {
    return (
      <p className="small border-t px-4 py-3 text-quiet">
        <b className="text-text">{track.name}</b> is {track.layout}: its channels go to the speakers of the same name.
      </p>
    );
  }
  const with_ = (part: Partial<Placement>) => ({
    type: 'placeTrack' as const,
    track: track.id,
    placement: { ...placement, ...part },
  });
  const field = (
    label: string,
    value: number,
    unit: string,
    min: number,
    max: number,
    reset: number,
    read: (v: number) => Partial<Placement>,
    step = 1,
  ) => (
    <label className="flex items-center gap-1">
      <span className="small text-quiet">{label}</span>
      <NumberField
        label={label}
        value={value}
        unit={unit}
        min={min}
        max={max}
        step={step}
        digits={0}
        reset={reset}
        onPreview={(v) => preview(with_(read(v)))}
        onChange={(v) => edit(with_(read(v)))}
      />
    </label>
  );
  return (
    <div className="flex items-center gap-3 border-t px-4 py-2.5">
      <b className="max-w-[110px] truncate font-[600]">{track.name}</b>
      {field('azimuth', placement.azimuth, '°', -180, 180, 0, (azimuth) => ({ azimuth }))}
      {field('distance', Math.round(placement.distance * 100), '%', 0, 100, 100, (d) => ({ distance: d / 100 }))}
      {track.layout === 'stereo' && field('width', placement.width, '°', 0, 180, 60, (width) => ({ width }))}
      {field('LFE', placement.lfe, 'dB', -100, 12, -100, (lfe) => ({ lfe }))}
      <button className="btn btn-bare ml-auto" onClick={() => edit(with_({ distance: 0 }))}>
        To the centre
      </button>
    </div>
  );
}
