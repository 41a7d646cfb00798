import type { AdmBlock, AdmObject } from '@/core/files';
import { laneValue } from '@/core/lanes';
import { reachedFrom } from '@/core/paths';
import { admOf, pointsOf, type Deliverable, type SessionDoc, type Track } from '@/core/session';
import type { Layout } from '@/core/speakers';

/** Places are told in steps of so many seconds where they move. */
const STEP = 0.1;

/** Whether a file holds each placed source as an object, and not a mix. */
export const isObjects = (doc: SessionDoc, d: Deliverable): boolean => admOf(doc, d) === 'objects';

/**
 * The sources of a bus that are objects: tracks of one channel with a place of their own, that come to it by their ways and
 * not only by sends. What is wider, stands in one speaker, or comes out of a return is none.
 */
export const objectTracks = (doc: SessionDoc, bus: string): Track[] =>
  doc.tracks.filter(
    (t) =>
      t.layout === 'mono' &&
      t.print === undefined &&
      t.placement.speaker === undefined &&
      !t.muted &&
      reachedFrom(doc, t.id, (l) => l.kind === 'out').has(bus),
  );

const AXES = ['azimuth', 'elevation', 'distance', 'spread'] as const;

/** Where a track stands at a sample of the timeline. */
function placeAt(doc: SessionDoc, t: Track, at: number): Omit<AdmBlock, 'at'> {
  const of = (axis: (typeof AXES)[number]): number => {
    const points = pointsOf(doc, { node: t.id, param: axis });
    return points ? laneValue(points, at) : (t.placement[axis] ?? 0);
  };
  return { azimuth: of('azimuth'), elevation: of('elevation'), distance: of('distance'), spread: of('spread') };
}

const alike = (a: Omit<AdmBlock, 'at'>, b: Omit<AdmBlock, 'at'>): boolean =>
  AXES.every((x) => Math.abs(a[x] - b[x]) < 1e-3);

/** A track as an object over a range that begins `lead` seconds after its file does: a block for each step in which it moves. */
export function objectOf(
  doc: SessionDoc,
  track: Track,
  { start, end }: { start: number; end: number },
  lead: number,
): AdmObject {
  const { sampleRate } = doc.format;
  const first = placeAt(doc, track, start);
  const blocks: AdmBlock[] = [{ at: 0, ...first }];
  const moves = AXES.some((param) => pointsOf(doc, { node: track.id, param }));
  let [before, rests] = [first, true];
  for (let step = 0; moves && start + step * STEP * sampleRate < end; step++) {
    const next = placeAt(doc, track, Math.min(end, start + Math.round((step + 1) * STEP * sampleRate)));
    const at = lead + step * STEP;
    // A block ends where its place stands: one that rests begins anew, so that nothing glides before it moves.
    if (!alike(before, next)) blocks.push({ at, ...next });
    else if (!rests) blocks.push({ at, ...next });
    rests = alike(before, next);
    before = next;
  }
  return { name: track.name, blocks };
}

/** The channels of a file of objects as speakers where the objects begin: loudness is that of all of them side by side. */
export const objectLayout = (objects: readonly { name: string; azimuth: number; elevation: number }[]): Layout => ({
  id: 'mono',
  name: `${objects.length} objects`,
  code: 'obj',
  mask: 0,
  speakers: objects.map(({ name, azimuth, elevation }) => ({ label: name, itu: '', azimuth, elevation, lfe: false })),
});
