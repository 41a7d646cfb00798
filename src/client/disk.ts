import { toast } from 'sonner';
import { create } from 'zustand';
import { ask } from './http';
import { useSession } from './session';

interface Disk {
  /** Bytes that the server's disk still takes; null while unknown. */
  diskFree: number | null;
  /** Files of the session that are not there any more. */
  missing: readonly string[];
}

/** What the server says of the session's disk. Looked at now and then while a session is open. */
export const useDisk = create<Disk>(() => ({ diskFree: null, missing: [] }));

const EVERY = 20_000;

async function look(session: string): Promise<void> {
  try {
    const { free, missing } = await ask<{ free: number; missing: string[] }>(`/api/disk?session=${session}`);
    const { doc } = useSession.getState();
    const names = missing.flatMap((id) => doc?.media[id]?.name ?? []);
    const before = useDisk.getState().missing;
    if (names.length && missing.some((id) => !before.includes(id)))
      toast.error(
        `${names.join(', ')} ${names.length === 1 ? 'is' : 'are'} missing from the session's folder; where ${names.length === 1 ? 'it sounds' : 'they sound'} there is silence. Files in the Floor brings ${names.length === 1 ? 'it' : 'them'} back.`,
        { id: 'missing', duration: Infinity },
      );
    if (missing.length === 0) toast.dismiss('missing');
    useDisk.setState({ diskFree: free, missing });
  } catch {
    // The server is away; the last figure stays.
  }
}

/** Looks again, after something was put back. */
export const lookAtDisk = (session: string): Promise<void> => look(session);

/** Follows the disk of a session; returns what ends it. */
export function followDisk(session: string): () => void {
  void look(session);
  const timer = setInterval(() => void look(session), EVERY);
  return () => clearInterval(timer);
}
