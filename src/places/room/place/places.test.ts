import { describe, expect, it } from 'vitest';
import { applied, monoTrack, sessionWith } from '../../../../tests/support/session';
import { FRONT } from '@/core/speakers';
import { elevationOf, placeOf, pointOf, SIDE, sideOf, SIZE } from '../geometry';
import { moveEdits, nextStacked, placeAt, stackedWith, stepped, trailOf } from './places';

const doc = applied(
  sessionWith(monoTrack('a', 'Boat'), monoTrack('b', 'Bell'), monoTrack('c', 'Gulls')),
  { type: 'placeTrack', track: 'a', placement: { ...FRONT, azimuth: 40 } },
  { type: 'placeTrack', track: 'b', placement: { ...FRONT, azimuth: 42 } },
  { type: 'placeTrack', track: 'c', placement: { ...FRONT, azimuth: -170, distance: 0.5, elevation: 30 } },
);
const track = (id: string) => doc.tracks.find((t) => t.id === id)!;

describe('heights', () => {
  it('draw a source nearer to the middle, and are kept while it is dragged', () => {
    const up = { ...FRONT, azimuth: 0, elevation: 60 };
    const p = pointOf(0, 1, 60);
    expect(SIZE.cy - p.y).toBeCloseTo(SIZE.radius / 2, 6);
    expect(placeOf(p.x, p.y, up)).toMatchObject({ azimuth: 0, distance: 1, elevation: 60 });
    // Straight up only the angle is read.
    expect(placeOf(SIZE.cx - 50, SIZE.cy, { ...FRONT, elevation: 90 })).toMatchObject({ azimuth: 90, distance: 1 });
  });
  it('are read from the side, wherever the source stands', () => {
    for (const [azimuth, distance, elevation] of [
      [0, 1, 30],
      [120, 0.5, -20],
      [180, 1, 90],
    ] as const)
      expect(elevationOf(sideOf(azimuth, distance, elevation).y, { ...FRONT, azimuth, distance })).toBe(elevation);
    expect(elevationOf(SIDE.cy - 500, FRONT)).toBe(90);
    expect(elevationOf(0, { ...FRONT, distance: 0 })).toBe(0);
  });
});

describe('sources on each other', () => {
  it('are chosen one after the other', () => {
    expect(stackedWith(doc.tracks, track('a')).map((t) => t.id)).toEqual(['a', 'b']);
    expect(nextStacked(doc.tracks, track('a'))!.id).toBe('b');
    expect(nextStacked(doc.tracks, track('b'))!.id).toBe('a');
    expect(nextStacked(doc.tracks, track('c'))).toBeNull();
  });
});

describe('moving', () => {
  it('all that go where a source goes turn, come nearer and rise with it', () => {
    const to = { ...track('a').placement, azimuth: 60, distance: 0.8, elevation: 10 };
    const after = applied(doc, ...moveEdits(doc, track('a'), to, true));
    const place = (id: string) => after.tracks.find((t) => t.id === id)!.placement;
    expect(place('b')).toMatchObject({ azimuth: 62, distance: 0.8, elevation: 10 });
    expect(place('c')).toMatchObject({ azimuth: -150, distance: 0.3, elevation: 40 });
    expect(moveEdits(doc, track('a'), to, false)).toHaveLength(1);
  });
  it('by steps stays within its limits', () => {
    expect(stepped(FRONT, 'distance', 5).distance).toBe(1);
    expect(stepped({ ...FRONT, azimuth: 179 }, 'azimuth', 2).azimuth).toBe(-179);
    expect(stepped(FRONT, 'elevation', -100).elevation).toBe(-90);
    expect(stepped(FRONT, 'width', 10).width).toBe(70);
  });
});

describe('a place that follows the timeline', () => {
  const moved = applied(doc, {
    type: 'writeLane',
    target: { node: 'a', param: 'azimuth' },
    ...{ from: 0, to: 48_000 },
    points: [
      { at: 0, value: 0, shape: 'line' },
      { at: 48_000, value: 90, shape: 'step' },
    ],
  });
  it('draws a trail, and is known at every sample', () => {
    const a = moved.tracks.find((t) => t.id === 'a')!;
    expect(placeAt(moved, a, 24_000).azimuth).toBeCloseTo(45, 6);
    const trail = trailOf(moved, a)!;
    expect(trail[0]).toEqual(pointOf(0, 1));
    expect(trail.at(-1)!.x).toBeCloseTo(pointOf(90, 1).x, 6);
    expect(trailOf(moved, track('b'))).toBeNull();
  });
});
