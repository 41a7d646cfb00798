/** How a lane goes on from a point to the next: straight, held until then, or slow at both ends (3x² - 2x³). */
export const LANE_SHAPES = ['line', 'step', 'smooth'] as const;
export type LaneShape = (typeof LANE_SHAPES)[number];

/** A value at a sample of the timeline. Points of a lane stand in order, each at a sample of its own. */
export interface LanePoint {
  at: number;
  /** In the parameter's unit. */
  value: number;
  /** Of the way to the next point. */
  shape: LaneShape;
}

/** What straight means: of the value itself, or of what a scale makes of it. */
export interface LaneScale {
  to(value: number): number;
  from(scaled: number): number;
}

/** Index of the last point at or before `at`; -1 before the first. */
export function pointBefore(points: readonly Pick<LanePoint, 'at'>[], at: number): number {
  let low = 0;
  let high = points.length;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (points[middle]!.at <= at) low = middle + 1;
    else high = middle;
  }
  return low - 1;
}

const eased = (shape: LaneShape, x: number): number =>
  shape === 'line' ? x : shape === 'step' ? 0 : x * x * (3 - 2 * x);

/**
 * Value at a sample of the timeline: the first point's before it, the last one's after it, in the parameter's unit.
 * Throws RangeError for a lane without points.
 */
export function laneValue(points: readonly LanePoint[], at: number, scale?: LaneScale): number {
  if (points.length === 0) throw new RangeError('a lane without points has no value');
  const i = pointBefore(points, at);
  const from = points[Math.max(0, i)]!;
  const to = points[i + 1];
  if (i < 0 || !to || from.value === to.value || from.shape === 'step' || from.at === at) return from.value;
  const x = eased(from.shape, (at - from.at) / (to.at - from.at));
  if (!scale) return from.value + (to.value - from.value) * x;
  const [a, b] = [scale.to(from.value), scale.to(to.value)];
  return scale.from(a + (b - a) * x);
}

export const sameLane = (a: readonly LanePoint[], b: readonly LanePoint[]): boolean =>
  a === b ||
  (a.length === b.length && a.every((p, i) => p.at === b[i]!.at && p.value === b[i]!.value && p.shape === b[i]!.shape));

/** A lane in which `points` take the place of those in [from, to]. */
export const rewritten = (
  lane: readonly LanePoint[],
  from: number,
  to: number,
  points: readonly LanePoint[],
): LanePoint[] => [...lane.filter((p) => p.at < from), ...points, ...lane.filter((p) => p.at > to)];
