import { useEffect, useRef, type RefObject } from 'react';

const waiting = new WeakMap<Element, (seen: boolean) => void>();
let observer: IntersectionObserver | null = null;

/** Whether an element is in view; one observer looks after all of them. What nobody sees need not be drawn. */
export function useSeen(element: RefObject<Element | null>): RefObject<boolean> {
  const seen = useRef(true);
  useEffect(() => {
    const at = element.current;
    if (!at) return;
    observer ??= new IntersectionObserver((entries) => {
      for (const e of entries) waiting.get(e.target)?.(e.isIntersecting);
    });
    waiting.set(at, (now) => (seen.current = now));
    observer.observe(at);
    return () => {
      waiting.delete(at);
      observer?.unobserve(at);
    };
  }, [element]);
  return seen;
}
