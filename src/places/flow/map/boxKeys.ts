import type { KeyboardEvent } from 'react';
import { select } from '@/client';
import { toggleFold } from '../flowState';

/** The box that stands nearest in a direction, by where they are drawn. */
function neighbour(from: HTMLElement, key: string): HTMLElement | undefined {
  const map = from.closest('.react-flow');
  const here = from.getBoundingClientRect();
  const middle = (r: DOMRect) => ({ x: r.left + r.width / 2, y: r.top + r.height / 2 });
  const at = middle(here);
  const across = key === 'ArrowLeft' || key === 'ArrowRight';
  const ahead = key === 'ArrowRight' || key === 'ArrowDown' ? 1 : -1;
  let best: { box: HTMLElement; far: number } | undefined;
  for (const box of map?.querySelectorAll<HTMLElement>('[data-box]') ?? []) {
    if (box === from) continue;
    const there = middle(box.getBoundingClientRect());
    const [along, aside] = across
      ? [(there.x - at.x) * ahead, Math.abs(there.y - at.y)]
      : [(there.y - at.y) * ahead, Math.abs(there.x - at.x)];
    // Up and down stay in the column.
    if (along <= 4 || (!across && aside > here.width / 2)) continue;
    const far = along * (across ? 2 : 1) + aside;
    if (!best || far < best.far) best = { box, far };
  }
  return best?.box;
}

/** Keys on a box: Enter and Space choose it, arrows go to the next one. */
export const boxKeys = (kind: 'track' | 'bus' | 'fold', id: string) => (e: KeyboardEvent<HTMLElement>) => {
  if (e.ctrlKey || e.metaKey || e.altKey) return;
  if (e.key === 'Enter') {
    if (kind === 'fold') toggleFold(id);
    else select({ kind, id });
  } else if (e.key.startsWith('Arrow')) {
    const next = neighbour(e.currentTarget, e.key);
    next?.focus();
    next?.scrollIntoView?.({ block: 'nearest', inline: 'nearest' });
  } else return;
  e.preventDefault();
  e.stopPropagation();
};
