'use client';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { useState } from 'react';
import { useSession } from '@/client';
import { PrintView } from './printView';

/** The brief's files, printed in one pass, with proof. */
export function Print() {
  const ready = useSession((s) => s.doc !== null);
  const [client] = useState(() => new QueryClient());
  if (!ready) return null;
  return (
    <QueryClientProvider client={client}>
      <PrintView />
    </QueryClientProvider>
  );
}
