'use client';
import { useRouter } from 'next/navigation';
import { toast } from 'sonner';

/** Brings a whole session in from its archive, and opens it. */
export function useBringSession(): (archive: File) => Promise<void> {
  const router = useRouter();
  return async (archive) => {
    const waiting = toast.loading(`${archive.name} is brought in…`);
    try {
      const answer = await fetch('/api/archives', { method: 'POST', body: archive });
      const said = (await answer.json()) as { id?: string; name?: string; notes?: string[]; message?: string };
      if (!said.id) throw new Error(said.message ?? 'The server did not answer.');
      toast.success([`${said.name} is here.`, ...(said.notes ?? [])].join(' '), { duration: 10_000 });
      router.push(`/s/${said.id}/brief`);
    } catch (error) {
      toast.error(`${archive.name}: ${(error as Error).message}`, { duration: 12_000 });
    } finally {
      toast.dismiss(waiting);
    }
  };
}
