import { RotateCcw } from 'lucide-react';
import { toast } from 'sonner';
import { ask } from '@/client';
import type { PrintFacts } from '@/core/print';

/** Prints once more what this print was of: the session as it was then. */
export function Again({ print }: { print: PrintFacts }) {
  const again = () =>
    ask(`/api/prints/${print.id}`, {}).catch((error: Error) => toast.error(error.message, { duration: 10_000 }));
  return (
    <button
      className="btn px-2"
      aria-label={`Print ${print.version} once more`}
      title={`Once more what print ${print.version} is of, as the session was then, as a new version`}
      onClick={() => void again()}
    >
      <RotateCcw size={14} />
    </button>
  );
}
