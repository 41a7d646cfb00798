'use client';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { useEffect, useState, type ReactNode } from 'react';
import { shareNonce, TipProvider } from '@/parts';
import { Toasts } from './toasts';

/** What every page of the engineer's needs, with a session and without one: what it asks the server, tips, notices. */
export function Surround({ children }: { children: ReactNode }) {
  const [queries] = useState(() => new QueryClient());
  useEffect(shareNonce, []);
  return (
    <QueryClientProvider client={queries}>
      <TipProvider>
        {children}
        <Toasts />
      </TipProvider>
    </QueryClientProvider>
  );
}
