import { type Layout, LAYOUTS } from './layouts';

/** Bits of dwChannelMask in WAVE_FORMAT_EXTENSIBLE, lowest first, with the labels we use for them. */
const MASK_LABELS = [
  'L',
  'R',
  'C',
  'LFE',
  'Lrs',
  'Rrs',
  'Lc',
  'Rc',
  'Cs',
  'Lss',
  'Rss',
  'Tc',
  'Ltf',
  'Ctf',
  'Rtf',
  'Ltr',
  'Ctr',
  'Rtr',
] as const;

/** Labels of a mask's channels in file order; bits beyond the known ones are named by number. */
export function labelsOfMask(mask: number): string[] {
  const out: string[] = [];
  for (let bit = 0; bit < 32; bit++) if ((mask >>> bit) & 1) out.push(MASK_LABELS[bit] ?? `bit ${bit}`);
  return out;
}

// 5.x written with back instead of side surrounds is the same layout.
const BACK_TO_SIDE: Record<number, number> = { 0x3f: 0x60f, 0x37: 0x607 };

/** The layout that a mask stands for; null where no layout has just these speakers. */
export function layoutOfExactMask(channels: number, mask: number): Layout | null {
  const known = BACK_TO_SIDE[mask] ?? mask;
  return LAYOUTS.find((l) => l.mask !== 0 && l.mask === known && l.speakers.length === channels) ?? null;
}

/**
 * The layout a file's channel mask stands for, or by its width when it has none; null when none fits (then the
 * channels are only numbered).
 */
export function layoutOfMask(channels: number, mask: number): Layout | null {
  return layoutOfExactMask(channels, mask) ?? layoutOfWidth(channels);
}

/** The layout that is meant where only a number of channels is told; null where there is none, or more than one. */
export const layoutOfWidth = (channels: number): Layout | null =>
  LAYOUTS.find((l) => l.speakers.length === channels && BY_WIDTH.has(l.id)) ?? null;

const BY_WIDTH = new Set(['mono', 'stereo', 'lcr', 'quad', '5.0', '5.1', '7.0', '7.1', '7.1.4', '9.1.6']);
