import { useQuery } from '@tanstack/react-query';
import { useEffect, useRef } from 'react';
import { ask } from './http';
import { useSession } from './session';

/**
 * What the server says of the session at `url`; null: nothing is asked. Asked again after each change of the session, and
 * what was said before stands until then: one answer is kept, not one for each change.
 */
export function useSaid<T>(url: string | null): T | undefined {
  const revision = useSession((s) => s.revision);
  const { data, refetch } = useQuery({ queryKey: ['said', url], queryFn: () => ask<T>(url!), enabled: url !== null });
  const asked = useRef({ url, revision });
  useEffect(() => {
    const before = asked.current;
    asked.current = { url, revision };
    // Another address is asked by itself.
    if (url !== null && before.url === url && before.revision !== revision) void refetch();
  }, [url, revision, refetch]);
  return data;
}
