'use client';
import { clsx } from 'clsx';
import { useEffect, useState } from 'react';
import { create } from 'zustand';
import { offer, travel, useSaid, useSession, type Command } from '@/client';
import { Dialog } from '@/parts';
import type { HistoryStep } from '@/core/wire';

const useOpen = create<{ open: boolean }>(() => ({ open: false }));
export const showHistory = (): void => useOpen.setState({ open: true });

export const historyKeys = (): Command[] => [
  { id: 'history', label: 'History of the session', keys: 'mod+shift+h', group: 'Session', run: showHistory },
];

/** What was done, newest first; a click goes back to there, or forward again. */
export function HistoryDialog() {
  const { open } = useOpen();
  const id = useSession((s) => s.id);
  const [busy, setBusy] = useState(false);
  useEffect(() => offer('history', historyKeys()), []);
  const data = useSaid<HistoryStep[]>(open ? `/api/sessions/${id}/history` : null) ?? [];
  const go = async (to: number) => {
    // Steps that count and come after it are undone; undone ones up to it are done again.
    const undo = data.filter((s) => s.mine && s.done && s.revision > to).length;
    const redo = data.filter((s) => s.mine && !s.done && s.revision <= to).length;
    setBusy(true);
    // One that cannot be taken back has been told: what lies before it waits.
    for (let i = 0; i < undo && (await travel('undo')); i++);
    for (let i = 0; i < redo && (await travel('redo')); i++);
    setBusy(false);
  };
  return (
    <Dialog
      open={open}
      onClose={() => useOpen.setState({ open: false })}
      title="History"
      note="A click goes back to there by your own steps; those of others stay. It survives a reload, and nothing is lost by going back, until you make a new change."
    >
      <ol className="max-h-105 overflow-y-auto" aria-busy={busy}>
        {data.map((s) => (
          <li key={s.revision}>
            <button
              className={clsx(
                'flex w-full items-baseline gap-3 px-1 py-1 text-left enabled:hover:bg-raised',
                !s.done && 'line-through',
                !(s.done && s.mine) && 'text-quiet',
              )}
              disabled={busy || !s.mine}
              onClick={() => void go(s.revision)}
            >
              <span>{s.label}</span>
              <span className="min-w-0 truncate text-quiet">{s.subject}</span>
              {s.by && !s.mine && <span className="small ml-auto text-quiet">{s.by}</span>}
              <time className={clsx('figure text-quiet', !(s.by && !s.mine) && 'ml-auto')} dateTime={s.at}>
                {new Date(s.at).toLocaleTimeString('en-GB')}
              </time>
            </button>
          </li>
        ))}
        {data.length === 0 && <li className="text-quiet">Nothing has been changed yet.</li>}
      </ol>
    </Dialog>
  );
}
