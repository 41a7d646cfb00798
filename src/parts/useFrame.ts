import { useEffect, useRef } from 'react';

/** Calls `draw` before every repaint while the component is there. */
export function useFrame(draw: () => void): void {
  const latest = useRef(draw);
  useEffect(() => {
    latest.current = draw;
  });
  useEffect(() => {
    let handle = 0;
    const loop = () => {
      latest.current();
      handle = requestAnimationFrame(loop);
    };
    handle = requestAnimationFrame(loop);
    return () => cancelAnimationFrame(handle);
  }, []);
}
