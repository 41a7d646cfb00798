import type { LanePoint, LaneScale } from './lane';

/**
 * The fewest of the given points by straight lines between which none of them is missed by more than `tolerance`, in the
 * unit of the values (or of what `scale` makes of them): Ramer 1972, Douglas and Peucker 1973, with the distance along
 * the value. The first and the last stay. All come out as straight.
 */
export function thinned(points: readonly LanePoint[], tolerance: number, scale?: LaneScale): LanePoint[] {
  if (points.length < 3) return points.map((p) => ({ ...p }));
  const height = (p: LanePoint) => (scale ? scale.to(p.value) : p.value);
  const kept = new Set([0, points.length - 1]);
  const open: [number, number][] = [[0, points.length - 1]];
  while (open.length > 0) {
    const [a, b] = open.pop()!;
    const [from, to] = [points[a]!, points[b]!];
    let [worst, place] = [tolerance, -1];
    for (let i = a + 1; i < b; i++) {
      const x = (points[i]!.at - from.at) / (to.at - from.at);
      const miss = Math.abs(height(points[i]!) - (height(from) + (height(to) - height(from)) * x));
      if (miss > worst) [worst, place] = [miss, i];
    }
    if (place < 0) continue;
    kept.add(place);
    open.push([a, place], [place, b]);
  }
  return [...kept].sort((a, b) => a - b).map((i) => ({ ...points[i]!, shape: 'line' as const }));
}
