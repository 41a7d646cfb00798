import { roomNode } from '@/core/engine';
import { hasRooms, linksOf } from '@/core/paths';
import { isBus, type Bus, type SessionDoc, type Track } from '@/core/session';
import { widthOf } from '@/core/speakers';

/** Under which names the level of a track or bus is told; of a return that is kept apart those of all its rooms. */
export function levelKeys(doc: SessionDoc, node: Track | Bus, side: 'in' | 'out'): string[] {
  const nodes =
    isBus(node) && hasRooms(node)
      ? [
          ...new Set(
            linksOf(doc)
              .to(node.id)
              .flatMap((l) => (l.room === undefined ? [] : [roomNode(node.id, l.room)])),
          ),
        ]
      : [node.id];
  return nodes.flatMap((id) => Array.from({ length: widthOf(node.layout) }, (_, c) => `${side}/${id}/${c}`));
}
