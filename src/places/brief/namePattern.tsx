'use client';
import { toast } from 'sonner';
import { edit, useDoc, docNow } from '@/client';
import { exampleName, NAME_TOKENS } from '@/core/print';
import type { SessionDoc } from '@/core/session';
import { TextField } from '@/parts';

/** Why a pattern gives no names for the files of a brief; null: it does. */
export function patternFault(doc: SessionDoc, namePattern: string): string | null {
  const d = doc.deliverables[0] ?? {
    ...{ id: 'example', bus: doc.buses[0]?.id ?? '', token: 'REF' },
    layout: doc.format.layout,
  };
  try {
    exampleName({ ...doc, namePattern }, d);
    return null;
  } catch (error) {
    return (error as Error).message;
  }
}

/** The pattern of the file names; the rows below show what it gives. One that gives none is refused. */
export function NamePattern() {
  const doc = useDoc('namePattern');
  return (
    <label className="small ml-auto flex min-w-0 items-center gap-2 text-quiet">
      names
      <TextField
        label="Name pattern"
        action="brief.names"
        title={`Tokens: ${NAME_TOKENS.map((t) => `{${t}}`).join(' ')}`}
        value={doc.namePattern}
        className="figure w-[44ch] text-text"
        onChange={(text) => {
          const fault = patternFault(docNow(), text);
          if (fault) toast.error(`${fault[0]!.toUpperCase()}${fault.slice(1)}. It stays at ${doc.namePattern}.`);
          else edit({ type: 'setSession', namePattern: text });
        }}
      />
    </label>
  );
}
