'use client';
import { FolderInput, FolderOpen } from 'lucide-react';
import { useState } from 'react';
import { FileButton } from '@/parts';
import { useBringSession } from './bringSession';
import { NewSessionForm } from './newSessionForm';
import { SessionDesk } from './sessionDesk';

/** Without any session: how to make the first. */
export function Welcome() {
  const bring = useBringSession();
  const [desk, setDesk] = useState(false);
  return (
    <main className="mx-auto grid h-screen w-115 content-center gap-4">
      <h1 className="text-head font-[640] tracking-[0.16em]" style={{ fontStretch: '125%' }}>
        WIDE·ROOM
      </h1>
      <p className="text-quiet">There is no session yet. Say what the client asked for; tracks come next.</p>
      <NewSessionForm />
      <div className="flex gap-2">
        <FileButton
          label="Archive of a session"
          accept=".zip,application/zip"
          className="btn btn-bare justify-self-start"
          title="A whole session that was handed over as one archive, from this machine or another"
          onFile={(archive) => void bring(archive)}
        >
          <FolderInput size={14} /> Bring a session in…
        </FileButton>
        <button className="btn btn-bare" onClick={() => setDesk(true)}>
          <FolderOpen size={14} /> What was removed…
        </button>
      </div>
      {desk && <SessionDesk onClose={() => setDesk(false)} />}
    </main>
  );
}
