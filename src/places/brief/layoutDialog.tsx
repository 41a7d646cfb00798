'use client';
import { edit, useDoc } from '@/client';
import { layoutChange } from '@/core/session';
import { layoutOf, type LayoutId } from '@/core/speakers';
import { Dialog } from '@/parts';

/** What becomes of a session with material whose mix gets another layout, before it does. */
export function LayoutDialog({ to, onClose }: { to: LayoutId; onClose: () => void }) {
  const doc = useDoc();
  return (
    <Dialog open title={`Mix in ${layoutOf(to).name}`} onClose={onClose}>
      <ul className="flex list-disc flex-col gap-1 pl-5">
        {layoutChange(doc, to).map((line) => (
          <li key={line}>{line}</li>
        ))}
      </ul>
      <div className="mt-3 flex items-center justify-between gap-4">
        <span className="small text-quiet">One undo brings all of it back.</span>
        <button
          className="btn btn-main"
          onClick={() => {
            if (edit({ type: 'setFormat', layout: to })) onClose();
          }}
        >
          Mix in {layoutOf(to).name}
        </button>
      </div>
    </Dialog>
  );
}
