'use client';
import { useSession } from '@/client';
import { PrintView } from './printView';

/** The brief's files, printed in one pass, with proof. */
export function Print() {
  const ready = useSession((s) => s.doc !== null);
  if (!ready) return null;
  return <PrintView />;
}
