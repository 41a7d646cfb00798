import { edit, useDoc } from '@/client';
import type { Track } from '@/core/session';
import { atSpeaker, layoutOf, moved } from '@/core/speakers';
import { Choice } from '@/parts';

const ANYWHERE = '-';

/** In one speaker alone, or anywhere. */
export function OneSpeaker({ track }: { track: Track }) {
  const layout = layoutOf(useDoc('format').format.layout);
  const { speaker = ANYWHERE } = track.placement;
  const there = layout.speakers.some((s) => s.label === speaker);
  return (
    <Choice
      label={`Speakers of ${track.name}`}
      look="bare"
      value={speaker}
      options={[
        { value: ANYWHERE, label: 'placed' },
        ...layout.speakers.map((s) => ({ value: s.label, label: `only ${s.label}` })),
        ...(there || speaker === ANYWHERE ? [] : [{ value: speaker, label: `only ${speaker} (not there)` }]),
      ]}
      onChange={(to) =>
        edit({
          type: 'placeTrack',
          track: track.id,
          placement: to === ANYWHERE ? moved(track.placement, {}) : atSpeaker(layout, to),
        })
      }
    />
  );
}
