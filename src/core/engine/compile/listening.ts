import type { Stage } from '@/core/session';
import { foldDown, layoutOf, type FoldOptions, type Layout, type LayoutId } from '@/core/speakers';
import { encoderOf, fourChain, type FourWay } from './encodings';

/** What the monitor is listened to as: a narrower layout, or through what others will do with it. */
export type HeardAs =
  | { as: 'layout'; layout: LayoutId; fold?: FoldOptions }
  | { as: 'lt-rt' }
  /** The mix as quad, through the encoder, both, or its left and right decoded. */
  | { as: 'four'; way: FourWay };

/** How the monitor gets there: what is worked in, gains into that, the chain, and what comes out in its first channels. */
export interface Hearing {
  layout: Layout;
  gains: number[][];
  chain: Stage[];
  heard: Layout;
}

export function hearingAs(mix: LayoutId, heardAs: HeardAs): Hearing {
  const from = layoutOf(mix);
  const stereo = layoutOf('stereo');
  if (heardAs.as === 'layout') {
    const layout = layoutOf(heardAs.layout);
    return { layout, gains: foldDown(from, layout, heardAs.fold), chain: [], heard: layout };
  }
  if (heardAs.as === 'lt-rt') return { ...encoderOf('heard-as', mix, 'lt-rt'), heard: stereo };
  const layout = layoutOf('quad');
  const chain = fourChain('heard-as', heardAs.way);
  // What comes encoded stands in left and right.
  const gains =
    heardAs.way === 'decoded' ? foldDown(from, stereo).map((row) => [...row, 0, 0]) : foldDown(from, layout);
  return { layout, gains, chain, heard: heardAs.way === 'encoded' ? stereo : layout };
}
