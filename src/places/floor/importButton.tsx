'use client';
import { useRef, type ReactNode } from 'react';
import { IMPORTED, importFiles, stopImport, useImports } from './media/importFiles';

/** Brings files in from a picker; shows how far it is, and ends it. */
export function ImportButton({ children }: { children: ReactNode }) {
  const input = useRef<HTMLInputElement>(null);
  const { done, total, name, share } = useImports();
  return (
    <>
      {total > 0 ? (
        <span className="flex items-center gap-2" role="status">
          <progress
            className="h-[6px] w-[120px] accent-brass"
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
        <button className="btn btn-bare" onClick={() => input.current?.click()}>
          {children}
        </button>
      )}
      <input
        ref={input}
        type="file"
        accept={IMPORTED}
        multiple
        hidden
        data-testid="import"
        onChange={(e) => {
          const files = [...(e.target.files ?? [])];
          e.target.value = '';
          void importFiles(files);
        }}
      />
    </>
  );
}
