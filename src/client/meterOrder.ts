import { useMemo } from 'react';
import { create } from 'zustand';
import { persist } from 'zustand/middleware';
import { layoutIn, layoutOf, type ChannelOrder, type LayoutId, type Speaker } from '@/core/speakers';

/** In which order the meters of this machine stand; what they show is the same. */
export const useMeterOrder = create<{ order: ChannelOrder }>()(
  persist((): { order: ChannelOrder } => ({ order: 'wav' }), { name: 'wide-room-meters', skipHydration: true }),
);
if (typeof window !== 'undefined') void useMeterOrder.persist.rehydrate();

export function setMeterOrder(order: ChannelOrder): void {
  useMeterOrder.setState({ order });
}

/** Speakers of a layout in the order of the meters, each with its channel. */
export function useMeterSpeakers(id: LayoutId): (Speaker & { channel: number })[] {
  const order = useMeterOrder((s) => s.order);
  return useMemo(() => {
    const layout = layoutOf(id);
    return layoutIn(layout, order).speakers.map((s) => ({ ...s, channel: layout.speakers.indexOf(s) }));
  }, [id, order]);
}
