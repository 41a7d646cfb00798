import { useEffect, useMemo, useState } from 'react';
import { allChecks, placeDots, type Check } from '@/core/checks';
import { ask } from './http';
import { onPrint, useSession } from './session';
import { live } from './transport';

/** All findings on the session as it is now, looked at again each second for what arrives on the lines. */
export function useChecks(): { checks: Check[]; dots: ReturnType<typeof placeDots> | null } {
  const doc = useSession((s) => s.doc);
  const id = useSession((s) => s.id);
  const [second, tick] = useState(0);
  const [printed, setPrinted] = useState(false);
  useEffect(() => {
    const look = () =>
      void ask<{ state: string }[]>(`/api/sessions/${id}/prints`).then(
        (list) => setPrinted(list.some((p) => p.state === 'done')),
        () => {},
      );
    if (id) look();
    return onPrint((print) => (print as { state: string }).state === 'done' && setPrinted(true));
  }, [id]);
  useEffect(() => {
    const timer = setInterval(() => tick((n) => n + 1), 1000);
    return () => clearInterval(timer);
  }, []);
  return useMemo(() => {
    void second;
    if (!doc) return { checks: [], dots: null };
    const checks = allChecks(doc, live());
    return { checks, dots: placeDots(doc, checks, printed) };
  }, [doc, second, printed]);
}
