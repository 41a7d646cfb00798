'use client';
import { useEffect, useState, type CSSProperties } from 'react';
import { Toaster } from 'sonner';
import { useScheme } from '@/client';

/** Height of the roll bar, and a little (px). */
const ROLL_BAR = 72;
/** Between the left edge and the widest question that holds findings: no notice reaches under it. */
const WIDTH = 'min(356px, calc((100vw - 460px) / 2 - 24px))';

/** Height of what findings stand in at the foot of a place, where it has such a foot. */
function useFoot(): number {
  const [height, setHeight] = useState(0);
  useEffect(() => {
    let watched: Element | null = null;
    const measure = () => setHeight(watched?.isConnected ? watched.getBoundingClientRect().height : 0);
    const sizes = new ResizeObserver(measure);
    const look = () => {
      const foot = document.querySelector('[data-foot]');
      if (foot === watched) return;
      if (watched) sizes.unobserve(watched);
      watched = foot;
      if (foot) sizes.observe(foot);
      measure();
    };
    const main = document.querySelector('main');
    const changes = new MutationObserver(look);
    if (main) changes.observe(main, { childList: true, subtree: true });
    look();
    return () => {
      sizes.disconnect();
      changes.disconnect();
    };
  }, []);
  return height;
}

/** Notices: at the left, above the foot of the place, so that they cover no button that mends something. */
export function Toasts() {
  const scheme = useScheme((s) => s.scheme);
  const foot = useFoot();
  return (
    <Toaster
      theme={scheme === 'up' ? 'light' : 'dark'}
      position="bottom-left"
      // What stays until it was read must be able to go.
      closeButton
      offset={{ bottom: ROLL_BAR + foot + 4, left: 14 }}
      style={{ '--width': WIDTH } as CSSProperties}
      toastOptions={{
        style: {
          background: 'var(--raised)',
          color: 'var(--text)',
          border: '1px solid var(--line)',
          fontFamily: 'var(--font-sans)',
        },
      }}
    />
  );
}
