import { create } from 'zustand';
import { ask } from './http';

/** Bytes that the server's disk still takes; null while unknown. Looked at now and then while a session is open. */
export const useDisk = create<{ diskFree: number | null }>(() => ({ diskFree: null }));

const EVERY = 20_000;

async function look(session: string): Promise<void> {
  try {
    useDisk.setState({ diskFree: (await ask<{ free: number }>(`/api/disk?session=${session}`)).free });
  } catch {
    // The server is away; the last figure stays.
  }
}

/** Follows the disk of a session; returns what ends it. */
export function followDisk(session: string): () => void {
  void look(session);
  const timer = setInterval(() => void look(session), EVERY);
  return () => clearInterval(timer);
}
