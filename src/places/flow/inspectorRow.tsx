import type { ReactNode } from 'react';

/** A value with its name, on a line of the inspector. */
export function Row({ label, children }: { label: string; children: ReactNode }) {
  return (
    <div className="flex min-h-8 items-center justify-between gap-3 border-b">
      <span className="text-quiet">{label}</span>
      {children}
    </div>
  );
}
