import type { Kernels } from '@/core/kernels';
import type { Track } from '@/core/session';
import {
  foldDown,
  layoutOf,
  placementGains,
  stereoPlacementGains,
  type LayoutId,
  type Placement,
} from '@/core/speakers';

/** Gains [from][to] between two layouts: placed when mono or stereo and there is a place, else by speaker. */
export function gainsBetween(k: Kernels, from: LayoutId, placement: Placement | null, to: LayoutId): number[][] {
  const target = layoutOf(to);
  if (placement && from === 'mono') return [placementGains(k, target, placement)];
  if (placement && from === 'stereo') return stereoPlacementGains(k, target, placement);
  return foldDown(layoutOf(from), target);
}

/** Gains from each channel of a track to each of a mix. */
export const sourceGains = (k: Kernels, track: Pick<Track, 'layout' | 'placement'>, to: LayoutId): number[][] =>
  gainsBetween(k, track.layout, track.placement, to);
