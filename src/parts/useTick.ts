import { useEffect, useState } from 'react';

/** Draws the component again every `ms`, for what is read from outside React; null: not by itself. */
export function useTick(ms: number | null): void {
  const [, tick] = useState(0);
  useEffect(() => {
    if (ms === null) return;
    const timer = setInterval(() => tick((n) => n + 1), ms);
    return () => clearInterval(timer);
  }, [ms]);
}
