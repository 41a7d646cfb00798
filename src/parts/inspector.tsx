'use client';
import { PanelRightClose, PanelRightOpen } from 'lucide-react';
import type { ReactNode } from 'react';
import { foldInspector, useSelection } from '@/client';

/** The panel on the right for what is selected; folds to a strip. */
export function Inspector({ label, children }: { label: string; children: ReactNode }) {
  const folded = useSelection((s) => s.folded);
  if (folded) {
    return (
      <aside className="w-9 shrink-0 border-l bg-panel pt-3 text-center" aria-label={label}>
        <button
          aria-label="Unfold the inspector"
          title="Unfold the inspector"
          className="text-quiet hover:text-text"
          onClick={foldInspector}
        >
          <PanelRightOpen size={16} />
        </button>
      </aside>
    );
  }
  return (
    <aside className="relative w-79.5 shrink-0 overflow-y-auto border-l bg-panel p-4" aria-label={label}>
      <button
        aria-label="Fold the inspector"
        title="Fold the inspector"
        className="absolute right-3 top-3.5 text-quiet hover:text-text"
        onClick={foldInspector}
      >
        <PanelRightClose size={16} />
      </button>
      {children}
    </aside>
  );
}
