import { canEncode, newStage, type Encoding, type Stage } from '@/core/session';
import { foldDown, layoutOf, type FoldOptions, type Layout, type LayoutId } from '@/core/speakers';
import { ltRtType } from '@/core/stages';

const stage = (id: string, type: string): Stage => ({ ...newStage(id, type, true) });

/** What is worked in before two channels are taken out of it: the layout, what folds into it, and the chain that encodes. */
export interface Encoder {
  layout: Layout;
  gains: number[][];
  chain: Stage[];
}

/**
 * The encoder of a mix in `from`: Lt/Rt takes the mix as it is, four in two a quad of it. `id` begins the stages' ids. Where
 * there is none for that mix, a plain fold-down: a check says so, and stops a print.
 */
export function encoderOf(id: string, from: LayoutId, encoding: Encoding, fold?: FoldOptions): Encoder {
  const mix = layoutOf(from);
  if (!canEncode(from, encoding)) {
    const stereo = layoutOf('stereo');
    return { layout: stereo, gains: foldDown(mix, stereo, fold), chain: [] };
  }
  const layout = encoding === 'lt-rt' ? mix : layoutOf('quad');
  const type = encoding === 'lt-rt' ? ltRtType(mix) : 'fourEncoder';
  return { layout, gains: foldDown(mix, layout, fold), chain: [stage(`${id}/encoder`, type)] };
}

/** Four in two for listening: encoded, encoded and decoded again, or the first two of a quad decoded. */
export type FourWay = 'encoded' | 'through' | 'decoded';

export function fourChain(id: string, way: FourWay): Stage[] {
  return [
    ...(way === 'decoded' ? [] : [stage(`${id}/encoder`, 'fourEncoder')]),
    ...(way === 'encoded' ? [] : [stage(`${id}/decoder`, 'fourDecoder')]),
  ];
}
