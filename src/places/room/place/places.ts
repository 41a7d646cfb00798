import { laneValue } from '@/core/lanes';
import { pointsOf, type EditJson, type SessionDoc, type Track } from '@/core/session';
import { moved, wrapDegrees, type Placement } from '@/core/speakers';
import { pointOf } from '../geometry';

export const placeable = (t: Track): boolean => t.layout === 'mono' || t.layout === 'stereo';

const MOVED = ['azimuth', 'elevation', 'distance', 'width', 'spread', 'lfe'] as const;

/** Where a source stands at a sample: what follows the timeline is as it is there. */
export function placeAt(doc: SessionDoc, track: Track, at: number): Placement {
  const place = moved(track.placement, {});
  let stands = true;
  for (const param of MOVED) {
    const points = pointsOf(doc, { node: track.id, param });
    if (!points) continue;
    place[param] = laneValue(points, at);
    stands = false;
  }
  return stands ? track.placement : place;
}

/** Points of a trail. */
const STEPS = 120;

/** The way that a source takes on the plan over the timeline; null where it stands still. */
export function trailOf(doc: SessionDoc, track: Track): { x: number; y: number }[] | null {
  const points = (['azimuth', 'elevation', 'distance'] as const).flatMap(
    (param) => pointsOf(doc, { node: track.id, param }) ?? [],
  );
  if (points.length < 2) return null;
  const from = Math.min(...points.map((p) => p.at));
  const to = Math.max(...points.map((p) => p.at));
  if (from === to) return null;
  return Array.from({ length: STEPS + 1 }, (_, i) => {
    const { azimuth, distance, elevation = 0 } = placeAt(doc, track, from + ((to - from) * i) / STEPS);
    return pointOf(azimuth, distance, elevation);
  });
}

/** Nearer than this, in units of the plan, dots lie on each other. */
const NEAR = 16;

/** Sources that stand where one stands, itself among them, in the order of the session. */
export function stackedWith(tracks: readonly Track[], track: Track): Track[] {
  const at = ({ placement: p }: Track) => pointOf(p.azimuth, p.distance, p.elevation);
  const here = at(track);
  return tracks.filter((t) => placeable(t) && Math.hypot(at(t).x - here.x, at(t).y - here.y) < NEAR);
}

/** The one after it among those that stand where it stands; null where it stands alone. */
export function nextStacked(tracks: readonly Track[], track: Track): Track | null {
  const row = stackedWith(tracks, track);
  return row.length < 2 ? null : row[(row.findIndex((t) => t.id === track.id) + 1) % row.length]!;
}

/** Moves a source, or with `together` all that go where it goes: they turn, come nearer and rise as it does. */
export function moveEdits(doc: SessionDoc, track: Track, placement: Placement, together: boolean): EditJson[] {
  const before = track.placement;
  const turn = placement.azimuth - before.azimuth;
  const nearer = placement.distance - before.distance;
  const rise = (placement.elevation ?? 0) - (before.elevation ?? 0);
  const others = together
    ? doc.tracks.filter((t) => t.id !== track.id && placeable(t) && t.destination === track.destination)
    : [];
  const held = (v: number, low: number, high: number) => Math.min(high, Math.max(low, v));
  return [
    { type: 'placeTrack', track: track.id, placement },
    ...others.map(({ id, placement: p }): EditJson => ({
      ...{ type: 'placeTrack', track: id },
      placement: moved(p, {
        azimuth: wrapDegrees(p.azimuth + turn),
        distance: Math.round(held(p.distance + nearer, 0, 1) * 100) / 100,
        ...(rise === 0 ? {} : { elevation: held((p.elevation ?? 0) + rise, -90, 90) }),
      }),
    })),
  ];
}

/** A placement after a step of keys or the wheel: `what` by so many of its steps. */
export function stepped(
  place: Placement,
  what: 'azimuth' | 'distance' | 'width' | 'elevation',
  steps: number,
): Placement {
  const held = (v: number, low: number, high: number) => Math.min(high, Math.max(low, v));
  if (what === 'azimuth') return moved(place, { azimuth: wrapDegrees(place.azimuth + steps) });
  if (what === 'distance')
    return moved(place, { distance: held(Math.round((place.distance + steps / 50) * 100) / 100, 0, 1) });
  if (what === 'width') return moved(place, { width: held(place.width + steps, 0, 180) });
  return moved(place, { elevation: held((place.elevation ?? 0) + steps, -90, 90) });
}
