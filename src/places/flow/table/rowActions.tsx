'use client';
import { useState } from 'react';
import { toast } from 'sonner';
import { edit, freeze, thawEdits, useTransport } from '@/client';
import { freezeFault, isBus, isFresh, type EditJson, type SessionDoc } from '@/core/session';
import { Pop, type Rows } from './actionParts';
import { pickRows } from './picked';

export function Freeze({ doc, rows }: { doc: SessionDoc; rows: Rows }) {
  const [left, setLeft] = useState<number | null>(null);
  const recording = useTransport((s) => s.state === 'recording');
  // A reference is the sum of its stems.
  const nodes = rows.filter((r) => !isBus(r) || r.kind !== 'reference');
  if (nodes.length === 0) return null;
  // What was changed since plays from what feeds it again: it is frozen anew.
  const frozen = nodes.every((n) => isFresh(doc, n));
  const run = async () => {
    if (frozen) {
      edit(
        ...thawEdits(
          doc,
          nodes.map((n) => n.id),
        ),
      );
      return;
    }
    const wanted = nodes.filter((n) => !isFresh(doc, n));
    const able = wanted.filter((n) => freezeFault(doc, n) === null);
    const not = wanted.filter((n) => !able.includes(n));
    if (not.length > 0) toast.warning(`Not frozen: ${not.map((n) => `${n.name} (${freezeFault(doc, n)})`).join('; ')}`);
    try {
      for (const [i, n] of able.entries()) {
        setLeft(able.length - i);
        await freeze(n.id);
      }
    } catch (error) {
      toast.error((error as Error).message);
    } finally {
      setLeft(null);
    }
  };
  return (
    <button className="btn" disabled={left !== null || recording} onClick={() => void run()}>
      {left !== null ? `Freezing, ${left} to go` : `${frozen ? 'Thaw' : 'Freeze'} ${nodes.length}`}
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
