import type { Layout } from './layouts';

/*
 * Vector base amplitude panning over triangles: Pulkki, J. Audio Eng. Soc. 45(6), 1997. Speakers and, where
 * none stands there, helpers straight above and below span a convex hull; what falls to a helper is shared
 * out to its neighbours (the way ITU-R BS.2127 completes layouts without a floor or a ceiling).
 */
type Vector = readonly [number, number, number];

interface Corner {
  at: Vector;
  /** Channels and their shares of what falls here. */
  channels: readonly (readonly [number, number])[];
}

interface Hull {
  corners: Corner[];
  triangles: (readonly [number, number, number])[];
}

const RAD = Math.PI / 180;
const EDGE = 1e-7;
const HELPER_ELEVATION = 60;

/** x to the front, y to the left, z up. */
export function direction(azimuth: number, elevation: number): Vector {
  const flat = Math.cos(elevation * RAD);
  return [flat * Math.cos(azimuth * RAD), flat * Math.sin(azimuth * RAD), Math.sin(elevation * RAD)];
}

const minus = (a: Vector, b: Vector): Vector => [a[0] - b[0], a[1] - b[1], a[2] - b[2]];
const cross = (a: Vector, b: Vector): Vector => [
  a[1] * b[2] - a[2] * b[1],
  a[2] * b[0] - a[0] * b[2],
  a[0] * b[1] - a[1] * b[0],
];
const dot = (a: Vector, b: Vector): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];

// Triplets with all other corners on one side. Four corners in one plane give overlapping triangles: the
// mean over all that hold a direction keeps left and right alike.
function triangulate(corners: Corner[]): Hull['triangles'] {
  const out: (readonly [number, number, number])[] = [];
  const p = corners.map((c) => c.at);
  for (let a = 0; a < p.length; a++)
    for (let b = a + 1; b < p.length; b++)
      for (let c = b + 1; c < p.length; c++) {
        const normal = cross(minus(p[b]!, p[a]!), minus(p[c]!, p[a]!));
        if (dot(normal, normal) < EDGE) continue;
        const sides = p.map((v) => dot(normal, minus(v, p[a]!)));
        if (sides.every((s) => s <= EDGE) || sides.every((s) => s >= -EDGE)) out.push([a, b, c]);
      }
  return out;
}

const hulls = new WeakMap<Layout, Hull>();

function hullOf(layout: Layout): Hull {
  const known = hulls.get(layout);
  if (known) return known;
  const corners: Corner[] = layout.speakers.flatMap((s, i) =>
    s.lfe ? [] : [{ at: direction(s.azimuth, s.elevation), channels: [[i, 1]] as const }],
  );
  const real = layout.speakers.filter((s) => !s.lfe);
  const helpers = [90, -90].filter((e) => !real.some((s) => s.elevation * Math.sign(e) >= HELPER_ELEVATION));
  const first = corners.length;
  for (const e of helpers) corners.push({ at: direction(0, e), channels: [] });
  const triangles = triangulate(corners);
  helpers.forEach((_, h) => {
    const at = first + h;
    const beside = new Set(triangles.filter((t) => t.includes(at)).flat());
    const channels = [...beside].filter((c) => c < first).flatMap((c) => corners[c]!.channels.map(([i]) => i));
    const share = 1 / Math.sqrt(Math.max(1, channels.length));
    corners[at] = { ...corners[at]!, channels: channels.map((i) => [i, share] as const) };
  });
  const hull = { corners, triangles };
  hulls.set(layout, hull);
  return hull;
}

/** Gains of the three corners for a direction; null when it lies outside. */
function solve(base: readonly [Vector, Vector, Vector], v: Vector): [number, number, number] | null {
  const [a, b, c] = base;
  const det = dot(a, cross(b, c));
  if (Math.abs(det) < EDGE) return null;
  const g: [number, number, number] = [dot(v, cross(b, c)) / det, dot(v, cross(c, a)) / det, dot(v, cross(a, b)) / det];
  return g.every((x) => x >= -EDGE) ? g : null;
}

/** Gains of a direction into each channel, for layouts with height; the sum of squares is 1. */
export function heightGains(layout: Layout, azimuth: number, elevation: number): number[] {
  const { corners, triangles } = hullOf(layout);
  const v = direction(azimuth, elevation);
  const gains = layout.speakers.map(() => 0);
  for (const t of triangles) {
    const solved = solve([corners[t[0]]!.at, corners[t[1]]!.at, corners[t[2]]!.at], v);
    if (!solved) continue;
    const unit = 1 / Math.hypot(...solved);
    solved.forEach((g, n) => {
      for (const [channel, share] of corners[t[n]!]!.channels) gains[channel]! += Math.max(0, g) * unit * share;
    });
  }
  const power = Math.sqrt(gains.reduce((s, g) => s + g * g, 0));
  if (power > 0) return gains.map((g) => g / power);
  // Outside the hull (all speakers in one half of the room): the nearest speaker takes it.
  const closeness = layout.speakers.map((s) => (s.lfe ? -2 : dot(v, direction(s.azimuth, s.elevation))));
  const nearest = closeness.indexOf(Math.max(...closeness));
  return gains.map((_, i) => (i === nearest ? 1 : 0));
}
