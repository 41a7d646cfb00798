import { Trash2 } from 'lucide-react';
import { toast } from 'sonner';
import { ask } from '@/client';
import type { PrintFacts } from '@/core/print';
import { AskFirst } from '@/parts';

/** Takes a print that is over out of the list, with its files. */
export function RemovePrint({ print }: { print: PrintFacts }) {
  const remove = () =>
    ask(`/api/prints/${print.id}/files`, undefined, 'DELETE').then(
      () => toast.success(`Print ${print.version} is removed, with its files. Its number is not given again.`),
      (error: Error) => toast.error(error.message, { duration: 10_000 }),
    );
  return (
    <AskFirst act={`Remove print ${print.version}`} leave="Keep it" onAct={() => void remove()}>
      {(askFirst) => (
        <button
          className="btn px-2"
          aria-label={`Remove print ${print.version}`}
          title={`Removes print ${print.version} and its files`}
          onClick={askFirst}
        >
          <Trash2 size={14} />
        </button>
      )}
    </AskFirst>
  );
}
