import type { Layout } from './layouts';

/**
 * Channel orders in use for the same layout: as WAV masks, ITU and SMPTE count (L R C LFE Ls Rs), as in
 * film work (L C R Ls Rs LFE), and pairs first (L R Ls Rs C LFE).
 */
export type ChannelOrder = 'wav' | 'film' | 'pairs';

export const CHANNEL_ORDERS: readonly { id: ChannelOrder; name: string }[] = [
  { id: 'wav', name: 'as WAV' },
  { id: 'film', name: 'film' },
  { id: 'pairs', name: 'pairs first' },
];

const isPair = (label: string): boolean => /^[LR]/.test(label) && label !== 'LFE';

/** Labels of a layout's channels in an order. */
export function labelsIn(layout: Layout, order: ChannelOrder): string[] {
  const labels = layout.speakers.map((s) => s.label);
  if (order === 'wav') return labels;
  const lfe = layout.speakers.filter((s) => s.lfe).map((s) => s.label);
  const rest = labels.filter((l) => !lfe.includes(l));
  if (order === 'pairs') return [...rest.filter(isPair), ...rest.filter((l) => !isPair(l)), ...lfe];
  // Film: across the screen from left to right, then the sides before the rears, then the heights.
  const front = ['L', 'C', 'R'].filter((l) => rest.includes(l));
  const sides = ['Lw', 'Rw', 'Ls', 'Rs', 'Lss', 'Rss', 'Lrs', 'Rrs'].filter((l) => rest.includes(l));
  const others = rest.filter((l) => !front.includes(l) && !sides.includes(l));
  return [...front, ...sides, ...others, ...lfe];
}

/** The layout with its speakers as they stand in an order. */
export const layoutIn = (layout: Layout, order: ChannelOrder): Layout => ({
  ...layout,
  // A mask says which channels there are, and the order that they then have.
  mask: order === 'wav' ? layout.mask : 0,
  speakers: labelsIn(layout, order).map((label) => layout.speakers.find((s) => s.label === label)!),
});

/** Orders that differ from each other for a layout. */
export const ordersOf = (layout: Layout): typeof CHANNEL_ORDERS =>
  CHANNEL_ORDERS.filter(({ id }, i) => {
    const before = CHANNEL_ORDERS.slice(0, i).map((o) => labelsIn(layout, o.id).join());
    return !before.includes(labelsIn(layout, id).join());
  });

/** For each channel of `to`, the index of the same speaker in `from`. */
export function reordering(layout: Layout, from: ChannelOrder, to: ChannelOrder): number[] {
  const source = labelsIn(layout, from);
  return labelsIn(layout, to).map((label) => source.indexOf(label));
}

/** Takes channels through a reordering. */
export const reorder = <T>(channels: readonly T[], by: readonly number[]): T[] => by.map((i) => channels[i]!);

/**
 * The order that a list of labels stands in for a layout, or null when it is none of them: what a file's
 * track names tell.
 */
export function orderOfLabels(layout: Layout, labels: readonly string[]): ChannelOrder | null {
  const same = (order: ChannelOrder) => labelsIn(layout, order).every((l, i) => l === labels[i]);
  return labels.length === layout.speakers.length ? (CHANNEL_ORDERS.find((o) => same(o.id))?.id ?? null) : null;
}
