import { toast } from 'sonner';
import type { SetAside } from '@/core/wire';
import { ask } from './http';
import { useSession } from './session';

interface Notice {
  id: string;
  text: string;
}

/** Says what the server set aside, with the reason and what to do, until somebody has read it. */
export async function tellNotices(session: string): Promise<void> {
  const [notices, aside] = await Promise.all([
    ask<Notice[]>('/api/notices').catch(() => []),
    ask<SetAside[]>(`/api/sessions/${session}/recordings`).catch(() => []),
  ]);
  for (const { id, text } of notices)
    toast.error(text, {
      id: `notice-${id}`,
      duration: Infinity,
      action: { label: 'Read', onClick: () => void ask(`/api/notices/${id}`, undefined, 'DELETE').catch(() => {}) },
    });
  for (const { id, file, track, reason } of aside) {
    const name = useSession.getState().doc?.tracks.find((t) => t.id === track)?.name ?? track;
    toast.error(
      `A recording of ${name} could not be entered: ${reason} Its sound is kept as ${file} in the session's media folder; bring that file in to use it.`,
      {
        id: `aside-${id}`,
        duration: Infinity,
        action: { label: 'Read', onClick: () => void ask(`/api/recordings/${id}/read`, {}).catch(() => {}) },
      },
    );
  }
}
