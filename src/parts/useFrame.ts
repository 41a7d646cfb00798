import { useEffect, useRef } from 'react';
import { FramePace } from './framePace';

const drawings = new Set<() => void>();
const pace = new FramePace();
/** Time between drawings where the reader asks for little motion (ms): figures and levels still follow the sound. */
const CALM = 100;
const calm = typeof matchMedia === 'undefined' ? null : matchMedia('(prefers-reduced-motion: reduce)');
let stop = (): void => {};
let turn = 0;

const drawAll = (): void => {
  for (const draw of drawings) draw();
};

function everyFrame(): void {
  pace.forget();
  const loop = (now: number) => {
    handle = requestAnimationFrame(loop);
    if (++turn % pace.every !== 0) return;
    pace.note(now);
    drawAll();
  };
  let handle = requestAnimationFrame(loop);
  stop = () => cancelAnimationFrame(handle);
}

function calmly(): void {
  // No frame is asked for: where nothing is drawn anew, none is made.
  const timer = setInterval(() => {
    if (!document.hidden) drawAll();
  }, CALM);
  stop = () => clearInterval(timer);
}

const start = (): void => (calm?.matches ? calmly() : everyFrame());

/**
 * Calls `draw` before the repaints while the component is there: every one, or every second on a busy machine; ten times
 * a second where the system asks for reduced motion (Media Queries Level 5, 11.1).
 */
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
      if (drawings.size === 0) stop();
    };
  }, []);
}

calm?.addEventListener('change', () => {
  stop();
  if (drawings.size > 0) start();
});
// A hidden page is not drawn: how long that took tells nothing of the machine.
if (typeof document !== 'undefined') document.addEventListener('visibilitychange', () => pace.forget());
