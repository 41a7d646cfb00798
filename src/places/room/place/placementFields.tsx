'use client';
import { edit, preview } from '@/client';
import { PLACEMENT_PARAMS, type Track } from '@/core/session';
import { FRONT, layoutOf, moved, type Placement } from '@/core/speakers';
import { fieldOf, NumberField } from '@/parts';

/** How a value is shown where not as it is described: so many to one, in another unit. */
interface Shown {
  whole?: number;
  unit?: string;
  reset?: number;
}

/** The selected source's place in figures. */
export function PlacementFields({ track }: { track: Track }) {
  const { placement } = track;
  if (track.layout !== 'mono' && track.layout !== 'stereo') {
    return (
      <p className="small border-t px-4 py-3 text-quiet">
        <b className="text-text">{track.name}</b> is {layoutOf(track.layout).name}: its channels go to the speakers of
        the same name.
      </p>
    );
  }
  const with_ = (part: Partial<Placement>) => ({
    type: 'placeTrack' as const,
    track: track.id,
    placement: moved(placement, part),
  });
  const field = (label: string, param: keyof typeof PLACEMENT_PARAMS, { whole = 1, unit, reset }: Shown = {}) => {
    const described = fieldOf(PLACEMENT_PARAMS[param]);
    const set = (v: number) => with_({ [param]: v / whole });
    return (
      <label className="flex items-center gap-1">
        <span className="small text-quiet">{label}</span>
        <NumberField
          label={label}
          value={Math.round((placement[param] ?? described.reset) * whole)}
          unit={unit ?? described.unit}
          min={described.min * whole}
          max={described.max * whole}
          step={1}
          digits={0}
          reset={reset ?? described.reset * whole}
          onPreview={(v) => preview(set(v))}
          onChange={(v) => edit(set(v))}
        />
      </label>
    );
  };
  return (
    <div className="flex items-center gap-2 border-t px-4 py-2.5">
      <b className="min-w-0 flex-1 truncate font-[600]">{track.name}</b>
      {field('azimuth', 'azimuth')}
      {field('distance', 'distance', { whole: 100, unit: '%' })}
      {field('height', 'elevation')}
      {track.layout === 'mono' ? field('spread', 'spread') : field('width', 'width', { reset: FRONT.width })}
      {field('LFE', 'lfe', { reset: FRONT.lfe })}
      <button
        className="btn btn-bare -mr-2"
        title="To the centre of the room: every loudspeaker receives the same"
        aria-label="To the centre"
        onClick={() => edit(with_({ distance: 0 }))}
      >
        Centre
      </button>
    </div>
  );
}
