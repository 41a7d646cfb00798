import { linksOf, sounds } from '@/core/paths';
import { isBus, type Bus, type SessionDoc, type Track } from '@/core/session';
import { layoutOf, widthOf, type LayoutId } from '@/core/speakers';
import type { Check } from './check';

const name = (layout: LayoutId): string => layoutOf(layout).name;

/** Whether a layout has loudspeakers that the other lacks (LFE not counted). */
const goesBeyond = (from: LayoutId, to: LayoutId): boolean => {
  const there = new Set(layoutOf(to).speakers.map((s) => s.label));
  return layoutOf(from).speakers.some((s) => !s.lfe && !there.has(s.label));
};

/** Channels that are folded together on their way, and stems wider than all that comes into them. */
export function widthCheck(doc: SessionDoc): Check[] {
  const links = linksOf(doc);
  const nodes = new Map<string, Track | Bus>([...doc.tracks, ...doc.buses].map((n) => [n.id, n]));
  return doc.buses.flatMap((bus): Check[] => {
    const feeding = links
      .to(bus.id)
      .filter(sounds)
      .flatMap((l) => nodes.get(l.from) ?? []);
    const found: Check[] = [];
    const lost = feeding.filter((n) => widthOf(n.layout) > 2 && goesBeyond(n.layout, bus.layout));
    if (lost.length > 0)
      found.push({
        id: `width-lost/${bus.id}`,
        grade: 'warn',
        place: 'flow',
        about: [bus.id, ...lost.map((n) => n.id)],
        title: `${lost.map((n) => `${n.name} (${name(n.layout)})`).join(', ')} ${lost.length === 1 ? 'is' : 'are'} folded into ${bus.name}, which is ${name(bus.layout)}`,
        why: 'What stood on loudspeakers that it lacks comes from others, in every file behind it.',
        mends: [],
      });
    // A voice in the middle is no wonder; two channels that fill the front alone are worth a word.
    const wide =
      bus.kind === 'stem' && widthOf(bus.layout) > 2 && feeding.some((n) => !isBus(n) && n.layout === 'stereo');
    if (wide && feeding.every((n) => staysInFront(n)))
      found.push({
        id: `width-left/${bus.id}`,
        grade: 'note',
        place: 'flow',
        about: [bus.id],
        title: `${bus.name} is ${name(bus.layout)}, and all of it stands between left and right`,
        why: 'Its surround channels will be silent. That may be meant.',
        mends: [],
      });
    return found;
  });
}

/** Degrees; what is placed within them comes from the loudspeakers in front. */
const FRONT = 30;

function staysInFront(node: Track | Bus): boolean {
  if (isBus(node) || node.sends.length > 0) return node.layout === 'mono' || node.layout === 'stereo';
  if (node.layout !== 'mono' && node.layout !== 'stereo') return false;
  const { azimuth, width, distance } = node.placement;
  const half = node.layout === 'stereo' ? width / 2 : 0;
  return distance === 1 && Math.abs(azimuth) + half <= FRONT;
}
