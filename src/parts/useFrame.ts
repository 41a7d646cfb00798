import { useEffect, useRef } from 'react';
import { FramePace } from './framePace';

const drawings = new Set<() => void>();
const pace = new FramePace();
let handle = 0;
let turn = 0;

function loop(now: number): void {
  handle = requestAnimationFrame(loop);
  if (++turn % pace.every !== 0) return;
  pace.note(now);
  for (const draw of drawings) draw();
}

function start(): void {
  pace.forget();
  handle = requestAnimationFrame(loop);
}

/** Calls `draw` before the repaints while the component is there: every one, or every second on a busy machine. */
export function useFrame(draw: () => void): void {
  const latest = useRef(draw);
  useEffect(() => {
    latest.current = draw;
  });
  useEffect(() => {
    const own = () => latest.current();
    drawings.add(own);
    if (drawings.size === 1) start();
    return () => {
      drawings.delete(own);
      if (drawings.size === 0) cancelAnimationFrame(handle);
    };
  }, []);
}

// A hidden page is not drawn: how long that took tells nothing of the machine.
if (typeof document !== 'undefined') document.addEventListener('visibilitychange', () => pace.forget());
