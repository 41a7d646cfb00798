import { arrivingKey, leavingKey } from '@/client';
import type { Bus, Track } from '@/core/session';
import { widthOf } from '@/core/speakers';

/** Under which names the level of a track or bus is told: the highest of its rooms, where a return is kept apart. */
export const levelKeys = (node: Track | Bus, side: 'in' | 'out'): string[] =>
  Array.from({ length: widthOf(node.layout) }, (_, c) => (side === 'in' ? arrivingKey : leavingKey)(node.id, c));
