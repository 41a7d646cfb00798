'use client';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useEffect, type ReactNode } from 'react';
import {
  deliverLeftTakes,
  followDesk,
  openStudio,
  refreshDevices,
  useSession,
  watchChecks,
  tellNotices,
  tellPrompt,
  tellRecovered,
} from '@/client';
import { followFocus } from '@/parts';
import { ChainQuestion } from './chainQuestion';
import { CommandSearch } from './commandSearch';
import { ControllerDialog } from './controllerDialog';
import { GlobalKeys } from './globalKeys';
import { HistoryDialog } from './historyDialog';
import { KeysSheet } from './keysSheet';
import { RollBar } from './rollBar';
import { RollQuestion } from './rollQuestion';
import { Surround } from './surround';
import { TopBar } from './topBar';

/** What surrounds every place: the path above, the roll bar below. */
export function Frame({ session, children }: { session: string; children: ReactNode }) {
  const ready = useSession((s) => s.id === session && s.doc !== null);
  const missing = useSession((s) => s.missing);
  const router = useRouter();
  useEffect(() => {
    const close = openStudio(session);
    void refreshDevices();
    deliverLeftTakes();
    void tellNotices(session);
    const plugged = () => void refreshDevices();
    navigator.mediaDevices?.addEventListener('devicechange', plugged);
    const ends = [followFocus(), followDesk(session), watchChecks(session), tellPrompt(session), tellRecovered()];
    return () => {
      ends.forEach((end) => end());
      close();
      navigator.mediaDevices?.removeEventListener('devicechange', plugged);
    };
  }, [session]);

  if (missing) {
    return (
      <Notice>
        <p>{missing}</p>
        <button className="btn btn-main" onClick={() => router.push('/')}>
          Open the newest session
        </button>
      </Notice>
    );
  }
  if (!ready)
    return (
      <Notice>
        <p className="text-quiet">Opening the session…</p>
      </Notice>
    );
  return (
    <Surround>
      <div className="grid h-screen min-w-250 grid-cols-[minmax(0,1fr)] grid-rows-[48px_minmax(0,1fr)_61px]">
        <TopBar session={session} />
        <main className="flex min-h-0">{children}</main>
        <RollBar />
      </div>
      <GlobalKeys session={session} />
      <CommandSearch session={session} />
      <KeysSheet />
      <RollQuestion />
      <ChainQuestion />
      <HistoryDialog />
      <ControllerDialog />
    </Surround>
  );
}

function Notice({ children }: { children: ReactNode }) {
  return (
    <div className="grid h-screen place-content-center gap-4 text-center">
      <Link href="/" className="text-word font-[640] tracking-[0.2em]" style={{ fontStretch: '125%' }}>
        WIDE·ROOM
      </Link>
      {children}
    </div>
  );
}
