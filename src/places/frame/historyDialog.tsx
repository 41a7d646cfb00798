'use client';
import { useQuery } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { create } from 'zustand';
import { ask, offer, travel, useSession } from '@/client';
import { Dialog } from '@/parts';

interface Step {
  revision: number;
  label: string;
  subject: string;
  at: string;
  /** Whether it counts now, or was undone. */
  done: boolean;
}

const useOpen = create<{ open: boolean }>(() => ({ open: false }));
export const showHistory = (): void => useOpen.setState({ open: true });

/** What was done, newest first; a click goes back to there, or forward again. */
export function HistoryDialog() {
  const { open } = useOpen();
  const { id, revision } = useSession();
  const [busy, setBusy] = useState(false);
  useEffect(
    () =>
      offer('history', [
        { id: 'history', label: 'History of the session', keys: 'mod+shift+h', group: 'Session', run: showHistory },
      ]),
    [],
  );
  const { data = [] } = useQuery({
    queryKey: ['history', id, revision],
    queryFn: () => ask<Step[]>(`/api/sessions/${id}/history`),
    enabled: open,
  });
  const go = async (to: number) => {
    // Steps that count and come after it are undone; undone ones up to it are done again.
    const undo = data.filter((s) => s.done && s.revision > to).length;
    const redo = data.filter((s) => !s.done && s.revision <= to).length;
    setBusy(true);
    for (let i = 0; i < undo; i++) await travel('undo');
    for (let i = 0; i < redo; i++) await travel('redo');
    setBusy(false);
  };
  return (
    <Dialog
      open={open}
      onClose={() => useOpen.setState({ open: false })}
      title="History"
      note="It survives a reload. Nothing is lost by going back, until you make a new change."
    >
      <ol className="max-h-[420px] overflow-y-auto" aria-busy={busy}>
        {data.map((s) => (
          <li key={s.revision}>
            <button
              className={`flex w-full items-baseline gap-3 px-1 py-1 text-left hover:bg-raised ${s.done ? '' : 'text-quiet line-through'}`}
              disabled={busy}
              onClick={() => void go(s.revision)}
            >
              <span>{s.label}</span>
              <span className="min-w-0 truncate text-quiet">{s.subject}</span>
              <time className="figure ml-auto text-quiet" dateTime={s.at}>
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
