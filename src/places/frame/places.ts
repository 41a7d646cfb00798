import type { Place } from '@/core/checks';

/** The six places in the order of the work. */
export const PLACES: readonly { id: Place; name: string; key: string }[] = [
  { id: 'brief', name: 'Brief', key: '1' },
  { id: 'lineup', name: 'Line-up', key: '2' },
  { id: 'floor', name: 'Floor', key: '3' },
  { id: 'flow', name: 'Flow', key: '4' },
  { id: 'room', name: 'Room', key: '5' },
  { id: 'print', name: 'Print', key: '6' },
];
