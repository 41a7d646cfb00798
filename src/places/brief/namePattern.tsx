'use client';
import { edit, useDoc } from '@/client';
import { NAME_TOKENS } from '@/core/print';
import { TextField } from '@/parts';

/** The pattern of the file names; the rows below show what it gives. */
export function NamePattern() {
  const { namePattern } = useDoc();
  return (
    <label className="small ml-auto flex min-w-0 items-center gap-2 text-quiet">
      names
      <TextField
        label="Name pattern"
        action="brief.names"
        title={`Tokens: ${NAME_TOKENS.map((t) => `{${t}}`).join(' ')}`}
        value={namePattern}
        className="figure w-[44ch] text-text"
        onChange={(text) => edit({ type: 'setSession', namePattern: text })}
      />
    </label>
  );
}
