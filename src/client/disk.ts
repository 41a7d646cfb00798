import { create } from 'zustand';
import { ask } from './http';

/** Bytes that the server's disk still takes; null while unknown. Looked at now and then while a session is open. */
export const useDisk = create<{ diskFree: number | null }>(() => ({ diskFree: null }));

const EVERY = 20_000;

async function look(): Promise<void> {
  try {
    useDisk.setState({ diskFree: (await ask<{ free: number }>('/api/disk')).free });
  } catch {
    // The server is away; the last figure stays.
  }
}

/** Follows the disk; returns what ends it. */
export function followDisk(): () => void {
  void look();
  const timer = setInterval(() => void look(), EVERY);
  return () => clearInterval(timer);
}
