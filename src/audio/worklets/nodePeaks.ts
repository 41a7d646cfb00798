import type { NodeRunner } from '@/core/engine';

export interface NodePeaks {
  /** Per channel, linear: as it arrives (behind the trim), and behind level and mute. */
  before: number[];
  after: number[];
}

/**
 * Takes the peaks since the last call, by track, bus or other node. A return that is kept apart per stem is shown as one,
 * at the loudest of its rooms; a stem that is limited together with others, as it is printed.
 */
export function takeNodePeaks(nodes: readonly NodeRunner[]): Record<string, NodePeaks> {
  const found: Record<string, NodePeaks> = {};
  for (const node of nodes) {
    const { id, of, kind, prints } = node.now;
    const before = Array.from(node.peaksIn);
    const after = Array.from(node.peaksOut);
    node.peaksIn.fill(0);
    node.peaksOut.fill(0);
    if (kind === 'sum' || kind === 'key') continue;
    if (kind === 'linked') {
      if (prints && found[prints]) found[prints].after = after;
      continue;
    }
    const shown = of ?? id;
    const other = found[shown];
    found[shown] = other
      ? { before: loudest(before, other.before), after: loudest(after, other.after) }
      : { before, after };
  }
  return found;
}

const loudest = (a: readonly number[], b: readonly number[]): number[] => a.map((v, c) => Math.max(v, b[c] ?? 0));
