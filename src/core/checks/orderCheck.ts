import type { MediaRef, SessionDoc } from '@/core/session';
import { CHANNEL_ORDERS, labelsIn, layoutOf, ordersOf, widthOf, type ChannelOrder, type Layout } from '@/core/speakers';
import type { Check } from './check';
import { placeText, usesOf } from './sourceCheck';

const nameOf = (order: ChannelOrder): string => CHANNEL_ORDERS.find((o) => o.id === order)!.name;

/** Files that are heard, whose channels may stand in several orders, and of which nobody said in which. */
export function orderCheck(doc: SessionDoc): Check[] {
  const unsaid = Object.values(doc.media).filter((m) => m.unsaid !== undefined);
  if (unsaid.length === 0) return [];
  const uses = usesOf(doc, { start: -Infinity, end: Infinity });
  return unsaid.flatMap((media) => {
    const places = uses.get(media.id);
    const layout = places && layoutOf(places[0]!.track.layout);
    if (!layout || widthOf(layout.id) !== media.channels || ordersOf(layout).length < 2) return [];
    return [
      {
        id: `channel-order/${media.id}`,
        grade: 'warn' as const,
        place: 'floor' as const,
        about: [...new Set(places.map((u) => u.track.id))],
        title: `${media.name} does not say which channel is which`,
        why: `It is heard as ${labelsIn(layout, media.order ?? 'wav').join(' ')}${seems(layout, media)}. Where that is wrong sounds come from wrong speakers: ${placeText(doc, places[0]!)}.`,
        mends: sorted(layout, media).map((order) => ({
          label: `${nameOf(order)}: ${labelsIn(layout, order).join(' ')}`,
          edits: [{ type: 'setMediaOrder' as const, media: media.id, order }],
        })),
      },
    ];
  });
}

function seems(layout: Layout, { order = 'wav', unsaid = [] }: MediaRef): string {
  const others = unsaid.filter((o) => o !== order);
  if (unsaid.length === 0 || unsaid.includes(order)) return '';
  const lfe = labelsIn(layout, others[0]!).findIndex((l) => /^LFE/.test(l));
  return `, but its channel ${lfe + 1} is silent or holds low sounds only, as an LFE does: ${others.map((o) => nameOf(o)).join(' or ')}`;
}

// What its sound speaks for comes first.
const sorted = (layout: Layout, { unsaid = [] }: MediaRef): ChannelOrder[] =>
  ordersOf(layout)
    .map((o) => o.id)
    .sort((a, b) => Number(unsaid.includes(b)) - Number(unsaid.includes(a)));
