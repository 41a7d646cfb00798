/** A stretch of a recording that may serve as room tone. */
export interface QuietPlace {
  /** First sample. */
  start: number;
  /** Root mean square over the stretch and its loudest twentieth of a second, dBFS. */
  level: number;
  loudest: number;
}

/** Pieces in which levels are compared (s). */
const PIECE = 0.05;

/**
 * The quietest stretches of `length` samples, the best first, none overlapping another. A stretch is judged by its
 * loudest twentieth of a second: one breath spoils it, however quiet the rest is. `lead` samples before it must exist
 * (what the joint of a loop is made of). Nothing is found when the recording is shorter than `lead + length`.
 */
export function quietPlaces(
  channels: readonly Float32Array[],
  sampleRate: number,
  length: number,
  lead = 0,
  most = 3,
): QuietPlace[] {
  const piece = Math.round(sampleRate * PIECE);
  const frames = channels[0]?.length ?? 0;
  const powers = Array.from({ length: Math.floor(frames / piece) }, (_, p) => powerOf(channels, p * piece, piece));
  const width = Math.ceil(length / piece);
  const first = Math.ceil(lead / piece);
  const found: QuietPlace[] = [];
  for (let p = first; p * piece + length <= frames && p + width <= powers.length + 1; p++) {
    const part = powers.slice(p, p + width);
    found.push({
      start: p * piece,
      level: db(part.reduce((s, x) => s + x, 0) / part.length),
      loudest: db(Math.max(...part)),
    });
  }
  found.sort((a, b) => a.loudest - b.loudest || a.level - b.level || a.start - b.start);
  const chosen: QuietPlace[] = [];
  for (const place of found) {
    if (chosen.length === most) break;
    if (chosen.every((c) => Math.abs(c.start - place.start) >= length)) chosen.push(place);
  }
  return chosen;
}

function powerOf(channels: readonly Float32Array[], from: number, n: number): number {
  let sum = 0;
  for (const channel of channels) for (let i = from; i < from + n; i++) sum += channel[i]! * channel[i]!;
  return sum / (n * channels.length);
}

const db = (power: number): number => 10 * Math.log10(Math.max(power, 1e-20));
