'use client';
import { clsx } from 'clsx';
import { dismissAsked, live, record, useTransport, useDocPart } from '@/client';
import { beforeRecording } from '@/core/checks';
import { CheckCard, Dialog } from '@/parts';

/** The roll check: what would go wrong, with its mends, before recording begins. */
export function RollQuestion() {
  const asked = useTransport((s) => s.asked);
  // Looked at anew after each mend.
  const doc = useDocPart((d) => (asked ? d : null));
  const now = doc ? beforeRecording(doc, live()) : [];
  const grave = now.filter((c) => c.grade !== 'note');
  return (
    <Dialog
      open={asked !== null}
      onClose={dismissAsked}
      title={grave.length ? 'Before recording' : 'Ready to record'}
      note={grave.length ? 'Nothing has been recorded yet.' : 'Nothing stands in the way any more.'}
    >
      <div className="flex flex-col gap-2.5">
        {now.map((c) => (
          <CheckCard key={c.id} check={c} />
        ))}
      </div>
      <div className="mt-4 flex justify-end gap-2">
        <button className="btn btn-bare" onClick={dismissAsked}>
          Not now
        </button>
        <button
          // Enter records.
          autoFocus
          className={clsx('btn', !grave.length && 'btn-main')}
          disabled={!doc?.tracks.some((t) => t.armed)}
          onClick={() => void record(true)}
        >
          {grave.length ? 'Record anyway' : 'Record'}
        </button>
      </div>
    </Dialog>
  );
}
