import { toast } from 'sonner';
import { formatDuration } from '@/core/units';
import { useSession } from './session';

const KEY = 'wide-room/told-recovered';

function told(): Set<string> {
  try {
    return new Set(JSON.parse(localStorage.getItem(KEY) ?? '[]') as string[]);
  } catch {
    return new Set();
  }
}

/** Says once of each take that was cut off and is there again: which, how long, and where it stands. */
export function tellRecovered(): () => void {
  const known = told();
  const look = () => {
    const { doc } = useSession.getState();
    const fresh = (doc?.tracks ?? []).flatMap((track) =>
      track.takes.filter((t) => t.recovered && !known.has(t.id)).map((take) => ({ track, take })),
    );
    if (fresh.length === 0) return;
    for (const { track, take } of fresh) {
      known.add(take.id);
      toast.success(
        `Recovered: take ${take.number} of ${track.name}, ${formatDuration(take.length / doc!.format.sampleRate)} until it was cut off. It stands on its track; what this browser still holds of it is added by itself.`,
        { duration: 20_000 },
      );
    }
    try {
      localStorage.setItem(KEY, JSON.stringify([...known].slice(-500)));
    } catch {
      // Then it is said once more next time.
    }
  };
  look();
  return useSession.subscribe(look);
}
