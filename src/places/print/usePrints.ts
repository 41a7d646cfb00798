import { useEffect } from 'react';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { ask, onPrint, useSession } from '@/client';
import type { PrintFacts, PrintInLine } from '@/core/print';

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
        const there = print.state === 'removed' ? [] : [print];
        client.setQueryData<PrintFacts[]>(['prints', id], (list = []) =>
          [...there, ...list.filter((p) => p.id !== print.id)].sort((a, b) => b.version - a.version),
        );
      }),
    [client, id],
  );
  return data ?? [];
}

/** How often the line is looked at while somebody is in it (ms): prints of other sessions tell nothing here. */
const EVERY = 1_500;

/** All prints that wait or run, of whatever session. */
export function useLine(): PrintInLine[] {
  const client = useQueryClient();
  const { data } = useQuery({
    queryKey: ['print-line'],
    queryFn: () => ask<PrintInLine[]>('/api/prints'),
    refetchInterval: (query) => (query.state.data?.length ? EVERY : 4 * EVERY),
  });
  useEffect(() => onPrint(() => void client.invalidateQueries({ queryKey: ['print-line'] })), [client]);
  return data ?? [];
}
