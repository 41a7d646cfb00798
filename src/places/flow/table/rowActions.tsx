'use client';
import { useState } from 'react';
import { toast } from 'sonner';
import { edit, freeze } from '@/client';
import { freezeFault, isBus, isFresh, type EditJson, type SessionDoc, type Track } from '@/core/session';
import { Pop, type Rows } from './actionParts';
import { pickRows } from './picked';

export function Freeze({ doc, tracks }: { doc: SessionDoc; tracks: readonly Track[] }) {
  const [left, setLeft] = useState<number | null>(null);
  if (tracks.length === 0) return null;
  // What was changed since plays from its clips again: it is frozen anew.
  const frozen = tracks.every((t) => isFresh(doc, t));
  const run = async () => {
    if (frozen) {
      edit(...tracks.map((t) => ({ type: 'thawTrack' as const, track: t.id })));
      return;
    }
    const wanted = tracks.filter((t) => !isFresh(doc, t));
    const able = wanted.filter((t) => freezeFault(doc, t) === null);
    const not = wanted.filter((t) => !able.includes(t));
    if (not.length > 0) toast.warning(`Not frozen: ${not.map((t) => `${t.name} (${freezeFault(doc, t)})`).join('; ')}`);
    try {
      for (const [i, t] of able.entries()) {
        setLeft(able.length - i);
        await freeze(t.id);
      }
    } catch (error) {
      toast.error((error as Error).message);
    } finally {
      setLeft(null);
    }
  };
  return (
    <button className="btn" disabled={left !== null} onClick={() => void run()}>
      {left !== null ? `Freezing, ${left} to go` : `${frozen ? 'Thaw' : 'Freeze'} ${tracks.length}`}
    </button>
  );
}

export function Remove({ rows }: { rows: Rows }) {
  const edits = rows.map((r): EditJson =>
    isBus(r) ? { type: 'removeBus', bus: r.id } : { type: 'removeTrack', track: r.id },
  );
  return (
    <Pop label="Remove…">
      {(close) => (
        <>
          <p>
            {rows.length === 1 ? rows[0]!.name : `${rows.length} rows`} will be taken out of the session. Files stay in
            its folder; what went through a bus goes on to where it went. One undo brings all of it back.
          </p>
          <button
            className="btn btn-main self-end"
            onClick={() => {
              if (!edit(...edits)) return;
              pickRows([]);
              close();
            }}
          >
            Remove {rows.length}
          </button>
        </>
      )}
    </Pop>
  );
}
