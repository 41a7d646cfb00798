/** LUFS of a weighted mean square, ITU-R BS.1770. */
export const toLufs = (meanSquare: number): number =>
  meanSquare > 0 ? -0.691 + 10 * Math.log10(meanSquare) : -Infinity;
const fromLufs = (lufs: number): number => Math.pow(10, (lufs + 0.691) / 10);

/** Stretches of 100 ms in a momentary (400 ms) and a short-term (3 s) window, EBU Tech 3341. */
const MOMENTARY = 4;
const SHORT_TERM = 30;

/** Mean of the last `width` stretches at every stretch from the first full window on. */
export function windows(hops: ArrayLike<number>, width: number): Float64Array {
  const out = new Float64Array(Math.max(0, hops.length - width + 1));
  for (let i = 0; i < out.length; i++) {
    let sum = 0;
    for (let j = i; j < i + width; j++) sum += hops[j]!;
    out[i] = sum / width;
  }
  return out;
}

export const momentary = (hops: ArrayLike<number>): Float64Array => windows(hops, MOMENTARY).map(toLufs);
export const shortTerm = (hops: ArrayLike<number>): Float64Array => windows(hops, SHORT_TERM).map(toLufs);

/**
 * Gated programme loudness in LUFS, ITU-R BS.1770-4: 400 ms blocks overlapping by 75 %, gates at
 * -70 LUFS and 10 LU below the mean of what passed the first. `hops`: weighted mean squares of 100 ms.
 */
export function integrated(hops: ArrayLike<number>): number {
  const blocks = windows(hops, MOMENTARY);
  const mean = (least: number) => {
    let sum = 0;
    let count = 0;
    for (const b of blocks) {
      if (b <= least) continue;
      sum += b;
      count++;
    }
    return count ? sum / count : 0;
  };
  const first = mean(fromLufs(-70));
  return first > 0 ? toLufs(mean(Math.max(fromLufs(-70), first / 10))) : -Infinity;
}

/** Loudness range in LU, EBU Tech 3342: 10th to 95th percentile of short-term loudness, gates -70 LUFS and -20 LU. */
export function loudnessRange(hops: ArrayLike<number>): number {
  const blocks = windows(hops, SHORT_TERM).filter((b) => b > fromLufs(-70));
  if (blocks.length === 0) return 0;
  const mean = blocks.reduce((a, b) => a + b, 0) / blocks.length;
  const kept = blocks.filter((b) => b >= mean / 100).sort();
  const at = (share: number) => toLufs(kept[Math.round((kept.length - 1) * share)]!);
  return at(0.95) - at(0.1);
}

/**
 * Loudness of the speech alone, in LUFS, and the share of stretches that hold it: the mean over the 400 ms
 * blocks above -70 LUFS of which at least three of four stretches were found to be speech. No relative
 * gate: the gate is the speech itself (as in ATSC A/85, which measures the dialogue as anchor).
 */
export function dialogueLoudness(
  hops: ArrayLike<number>,
  speech: ArrayLike<number>,
): { loudness: number; share: number } {
  const blocks = windows(hops, MOMENTARY);
  let [sum, count, spoken] = [0, 0, 0];
  for (let i = 0; i < hops.length; i++) spoken += speech[i] ?? 0;
  for (let i = 0; i < blocks.length; i++) {
    const held = (speech[i] ?? 0) + (speech[i + 1] ?? 0) + (speech[i + 2] ?? 0) + (speech[i + 3] ?? 0);
    if (held < 3 || blocks[i]! <= fromLufs(-70)) continue;
    sum += blocks[i]!;
    count++;
  }
  return { loudness: count ? toLufs(sum / count) : -Infinity, share: hops.length ? spoken / hops.length : 0 };
}
