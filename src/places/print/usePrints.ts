import { useEffect } from 'react';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { ask, onPrint, useSession } from '@/client';
import type { Proof } from '@/core/print';

/** A print as the server tells of it. */
export interface PrintFacts {
  id: string;
  version: number;
  state: 'running' | 'done' | 'failed' | 'cancelled';
  start: number;
  end: number;
  proof: Proof | null;
  message: string | null;
  milliseconds: number | null;
  phase: 'printing' | 'measuring' | null;
  share: number;
  left: number | null;
}

/** The session's prints, newest first, kept up to date by the server's events. */
export function usePrints(): PrintFacts[] {
  const id = useSession((s) => s.id);
  const client = useQueryClient();
  const { data } = useQuery({
    queryKey: ['prints', id],
    queryFn: () => ask<PrintFacts[]>(`/api/sessions/${id}/prints`),
    enabled: id !== null,
  });
  useEffect(
    () =>
      onPrint((event) => {
        const print = event as PrintFacts;
        client.setQueryData<PrintFacts[]>(['prints', id], (list = []) =>
          [print, ...list.filter((p) => p.id !== print.id)].sort((a, b) => b.version - a.version),
        );
      }),
    [client, id],
  );
  return data ?? [];
}
