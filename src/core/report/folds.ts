import { foldOf, type Deliverable, type Encoding, type SessionDoc } from '@/core/session';
import { foldDown, layoutOf, widthOf, type FoldOptions, type Layout } from '@/core/speakers';

export const ENCODING_NAMES: Record<Encoding, string> = { 'lt-rt': 'Lt/Rt', 'four-in-two': 'four in two' };

const ENCODED: Record<Encoding, string> = {
  'lt-rt': 'Lt/Rt: the surrounds turned by 90° and added with opposite signs, so that a decoder finds them again',
  'four-in-two': 'four in two: left and right hold four channels of a regular matrix; a decoder gives four again',
};

const factor = (gain: number): string => (gain === 1 ? '' : `${gain.toFixed(3)} `);

/** "L = L + 0.707 C + 0.707 Ls; R = …" for every speaker that gets more than itself. */
export function foldFormula(from: Layout, to: Layout, options?: FoldOptions): string {
  const gains = foldDown(from, to, options);
  return to.speakers
    .map((speaker, c) => {
      const parts = from.speakers.flatMap((s, i) => (gains[i]![c] ? [`${factor(gains[i]![c])}${s.label}`] : []));
      return `${speaker.label} = ${parts.join(' + ') || 'nothing'}`;
    })
    .join('; ');
}

/** How a file was folded or encoded out of its bus; null where it is printed as it is. */
export function foldSentence(doc: SessionDoc, d: Deliverable): string | null {
  const bus = doc.buses.find((b) => b.id === d.bus);
  if (!bus || (!d.encode && widthOf(d.layout) >= widthOf(bus.layout))) return null;
  const [from, to] = [layoutOf(bus.layout), layoutOf(d.layout)];
  if (d.encode) return `${bus.name} in ${to.name} is encoded as ${ENCODED[d.encode]}.`;
  const set = foldOf(doc, d.fold);
  const lfe = from.speakers.some((s) => s.lfe) && !(set && set.lfe > 0) ? ', without LFE' : '';
  return `${bus.name} in ${to.name}: ${foldFormula(from, to, set)}${lfe} (${set ? set.name : 'ITU-R BS.775'}).`;
}
