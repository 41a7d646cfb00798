/** A thing that wants to stand at a height, in a column. */
export interface Wanting {
  /** Where its middle would stand best. */
  want: number;
  height: number;
  /** What it counts against the others; 1 where it is absent. */
  weight?: number;
}

/**
 * Tops of things in a column, in the given order, `gap(i)` apart from the one before between `top` and, as
 * far as there is room, `bottom`; as near to where they want to be as that allows: least squares, found by pooling neighbours that would overlap (isotonic
 * regression; Barlow, Bartholomew, Bremner and Brunk 1972, from memory).
 */
export function spread(
  things: readonly Wanting[],
  gap: (i: number) => number,
  top: number,
  bottom = Infinity,
): number[] {
  const offsets: number[] = [];
  let at = 0;
  things.forEach(({ height }, i) => {
    if (i > 0) at += gap(i);
    offsets.push(at);
    at += height;
  });
  const blocks: { sum: number; weight: number; from: number }[] = [];
  things.forEach(({ want, height, weight = 1 }, i) => {
    let block = { sum: (want - height / 2 - offsets[i]!) * weight, weight, from: i };
    for (let last = blocks.at(-1); last && last.sum / last.weight > block.sum / block.weight; last = blocks.at(-1)) {
      block = { sum: last.sum + block.sum, weight: last.weight + block.weight, from: last.from };
      blocks.pop();
    }
    blocks.push(block);
  });
  // Offsets are the same for all: the whole row moves between its first and its last place.
  const lowest = Math.max(top, bottom - at);
  const tops: number[] = [];
  blocks.forEach((block, b) => {
    const place = Math.min(lowest, Math.max(top, block.sum / block.weight));
    const end = blocks[b + 1]?.from ?? things.length;
    for (let i = block.from; i < end; i++) tops.push(place + offsets[i]!);
  });
  return tops;
}
