'use client';
import { useState } from 'react';
import { edit, useDoc } from '@/client';
import type { Owner, OwnerKind } from '@/core/session';
import { Dialog } from '../dialog';

const HEADS: Record<OwnerKind, string> = { line: 'Lines', track: 'Tracks', bus: 'Buses' };

/** Copies a chain, or one stage, to any number of lines, tracks and buses in one action. */
export function CopyDialog({ owner, stage, onClose }: { owner: Owner; stage?: string; onClose: () => void }) {
  const doc = useDoc('lines', 'tracks', 'buses');
  const [to, setTo] = useState<readonly string[]>([]);
  const all: (Owner & { name: string })[] = [
    ...doc.lines.map((l) => ({ kind: 'line' as const, id: l.id, name: l.name })),
    ...doc.tracks.map((t) => ({ kind: 'track' as const, id: t.id, name: t.name })),
    ...doc.buses.map((b) => ({ kind: 'bus' as const, id: b.id, name: b.name })),
  ].filter((o) => o.kind !== owner.kind || o.id !== owner.id);
  const key = (o: Owner) => `${o.kind} ${o.id}`;
  const chosen = all.filter((o) => to.includes(key(o)));
  const toggle = (o: Owner) =>
    setTo((now) => (now.includes(key(o)) ? now.filter((k) => k !== key(o)) : [...now, key(o)]));
  return (
    <Dialog
      open
      wide
      onClose={onClose}
      title={stage ? 'Copy the stage to' : 'Copy the chain to'}
      note={
        stage ? 'It is put at the end of their chains.' : 'It takes the place of theirs. One undo takes all of it back.'
      }
    >
      <div className="grid max-h-95 grid-cols-3 gap-5 overflow-auto">
        {(Object.keys(HEADS) as OwnerKind[]).map((kind) => {
          const group = all.filter((o) => o.kind === kind);
          const whole = group.every((o) => to.includes(key(o)));
          return (
            <fieldset key={kind}>
              <legend className="mb-1 flex w-full items-baseline justify-between font-[580]">
                {HEADS[kind]}
                {group.length > 0 && (
                  <button
                    type="button"
                    className="small text-quiet hover:text-brass"
                    onClick={() => {
                      const keys = group.map(key);
                      setTo((now) => (whole ? now.filter((k) => !keys.includes(k)) : [...new Set([...now, ...keys])]));
                    }}
                  >
                    {whole ? 'none' : 'all'}
                  </button>
                )}
              </legend>
              {group.map((o) => (
                <label key={o.id} className="flex h-6.5 items-center gap-2 border-b">
                  <input
                    type="checkbox"
                    className="accent-(--brass)"
                    checked={to.includes(key(o))}
                    onChange={() => toggle(o)}
                  />
                  <span className="truncate">{o.name}</span>
                </label>
              ))}
            </fieldset>
          );
        })}
      </div>
      <div className="mt-4 flex justify-end">
        <button
          className="btn btn-main"
          disabled={chosen.length === 0}
          onClick={() => {
            const targets = chosen.map(({ kind, id }) => ({ kind, id }));
            if (edit({ type: 'copyChain', owner, to: targets, ...(stage ? { stage } : {}) })) onClose();
          }}
        >
          Copy to {chosen.length}
        </button>
      </div>
    </Dialog>
  );
}
