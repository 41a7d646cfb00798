'use client';
import type { ReactNode } from 'react';
import { useFilePicker } from '@/parts';
import { IMPORTED, importFiles, stopImport, useImports } from './media/importFiles';

/** Brings files in from a picker; shows how far it is, and ends it. */
export function ImportButton({ children }: { children: ReactNode }) {
  const { pick, input } = useFilePicker({
    label: 'Files to bring in',
    accept: IMPORTED,
    multiple: true,
    onFiles: (files) => void importFiles(files),
    testId: 'import',
  });
  const { done, total, name, share } = useImports();
  return (
    <>
      {total > 0 ? (
        <span className="flex items-center gap-2" role="status">
          <progress
            className="h-1.5 w-30 accent-brass"
            max={1}
            value={(done + share) / total}
            aria-label="Files brought in"
          />
          <span className="small text-quiet">
            {done + 1} of {total}: {name} {share >= 1 ? '· looking at it' : `· ${Math.round(share * 100)} %`}
          </span>
          <button className="chip" onClick={stopImport}>
            Stop after this one
          </button>
        </span>
      ) : (
        <button className="btn btn-bare" onClick={pick}>
          {children}
        </button>
      )}
      {input}
    </>
  );
}
