import { useEffect, useMemo, useState } from 'react';
import { allChecks, placeDots, type Check } from '@/core/checks';
import { useSession } from './session';
import { live } from './transport';

/** All findings on the session as it is now, looked at again each second for what arrives on the lines. */
export function useChecks(): { checks: Check[]; dots: ReturnType<typeof placeDots> | null } {
  const doc = useSession((s) => s.doc);
  const [second, tick] = useState(0);
  useEffect(() => {
    const timer = setInterval(() => tick((n) => n + 1), 1000);
    return () => clearInterval(timer);
  }, []);
  return useMemo(() => {
    void second;
    if (!doc) return { checks: [], dots: null };
    const checks = allChecks(doc, live());
    return { checks, dots: placeDots(doc, checks, false) };
  }, [doc, second]);
}
