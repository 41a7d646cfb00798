import { toast } from 'sonner';
import { createStore } from 'zustand/vanilla';
import { ask } from '../http';
import type { SessionAccess } from './access';

interface DiskState {
  /** Bytes that the server's disk still takes; null while unknown. */
  diskFree: number | null;
  /** Files of the session that are not there any more. */
  missing: readonly string[];
}

/** Looked at so often (ms). */
const EVERY = 20_000;

/** What the server says of the session's disk. */
export class Disk {
  readonly state = createStore<DiskState>(() => ({ diskFree: null, missing: [] }));
  private readonly timer: ReturnType<typeof setInterval>;

  constructor(private readonly session: SessionAccess) {
    void this.look();
    this.timer = setInterval(() => void this.look(), EVERY);
  }

  /** Looks again, now and then, and after something was put back. */
  async look(): Promise<void> {
    const { id } = this.session.getState();
    try {
      const { free, missing } = await ask<{ free: number; missing: string[] }>(`/api/disk?session=${id}`);
      const { id: now, doc } = this.session.getState();
      if (now !== id) return;
      const names = missing.flatMap((m) => doc?.media[m]?.name ?? []);
      const before = this.state.getState().missing;
      if (names.length && missing.some((m) => !before.includes(m)))
        toast.error(
          `${names.join(', ')} ${names.length === 1 ? 'is' : 'are'} missing from the session's folder; where ${names.length === 1 ? 'it sounds' : 'they sound'} there is silence. Files in the Floor brings ${names.length === 1 ? 'it' : 'them'} back.`,
          { id: 'missing', duration: Infinity },
        );
      if (missing.length === 0) toast.dismiss('missing');
      this.state.setState({ diskFree: free, missing });
    } catch {
      // The server is away; the last figure stays.
    }
  }

  close(): void {
    clearInterval(this.timer);
    toast.dismiss('missing');
  }
}
