import { MONITOR, referencesOf, type Bus, type SessionDoc, type Track } from '@/core/session';

/** Where everything stands on the map, in pixels; left is where sound comes from. */
export interface Spot {
  id: string;
  x: number;
  y: number;
  height: number;
}

export const TRACK_WIDTH = 176;
export const BUS_WIDTH = 196;
export const REFERENCE_WIDTH = 172;
export const END_WIDTH = 124;
export const NEW_STEM = 'new-stem';
export const PRINTED = 'printed';
const TRACK_HEIGHT = 42;
const BUS_HEIGHT = 92;
/** The line that names a bus's stages. */
const STAGES_HEIGHT = 15;
const REFERENCE_HEIGHT = 236;
const NEW_STEM_HEIGHT = 34;
const COLUMNS = { tracks: 14, buses: 292, reference: 588, end: 828 } as const;
const TOP = 8;

export interface MapLayout {
  tracks: (Spot & { track: Track })[];
  buses: (Spot & { bus: Bus })[];
  ends: Spot[];
  height: number;
}

/** Places tracks and buses so that each column starts at the top and is spread over the height of the longest. */
export function layoutMap(doc: SessionDoc, roomHeight: number): MapLayout {
  const references = referencesOf(doc);
  const others = doc.buses.filter((b) => b.kind !== 'reference');
  // Close together when there are many, with air when there are few.
  const step = Math.max(TRACK_HEIGHT + 5, Math.min(62, (roomHeight - TOP - 16) / Math.max(1, doc.tracks.length)));
  const tracks = doc.tracks.map((track, i) => ({
    id: track.id,
    track,
    x: COLUMNS.tracks,
    y: TOP + i * step,
    height: TRACK_HEIGHT,
  }));
  const heights = others.map((b) => BUS_HEIGHT + (b.chain.some((c) => c.on) ? STAGES_HEIGHT : 0));
  const filled = heights.reduce((sum, h) => sum + h, NEW_STEM_HEIGHT);
  const gap = Math.max(8, Math.min(20, (roomHeight - TOP - filled) / (others.length + 1)));
  const topOf = (i: number) => TOP + heights.slice(0, i).reduce((sum, h) => sum + h + gap, 0);
  const buses: MapLayout['buses'] = others.map((bus, i) => ({
    id: bus.id,
    bus,
    x: COLUMNS.buses,
    y: topOf(i),
    height: heights[i]!,
  }));
  const newStemY = topOf(others.length);
  const endsY = TOP + 96;
  const lowest = endsY + references.length * (REFERENCE_HEIGHT + 12);
  const height = Math.max(roomHeight, TOP + tracks.length * step, newStemY + 40, lowest) + 8;
  references.forEach((bus, i) =>
    buses.push({
      id: bus.id,
      bus,
      x: COLUMNS.reference,
      y: endsY + i * (REFERENCE_HEIGHT + 12),
      height: REFERENCE_HEIGHT,
    }),
  );
  return {
    tracks,
    buses,
    ends: [
      { id: NEW_STEM, x: COLUMNS.buses, y: newStemY, height: NEW_STEM_HEIGHT },
      { id: MONITOR, x: COLUMNS.end, y: endsY + 20, height: 96 },
      {
        id: PRINTED,
        x: COLUMNS.end,
        y: endsY + 140,
        height: 44 + doc.deliverables.length * 22,
      },
    ],
    height,
  };
}
