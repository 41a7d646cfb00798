import { useEffect, useState } from 'react';

/** Draws the component again every `ms`, for what is read from outside React. */
export function useTick(ms: number): void {
  const [, tick] = useState(0);
  useEffect(() => {
    const timer = setInterval(() => tick((n) => n + 1), ms);
    return () => clearInterval(timer);
  }, [ms]);
}
