'use client';
import { NewSessionForm } from './newSessionForm';

/** Without any session: how to make the first. */
export function Welcome() {
  return (
    <main className="mx-auto grid h-screen w-[460px] content-center gap-4">
      <h1 className="text-[20px] font-[640] tracking-[0.16em]" style={{ fontStretch: '125%' }}>
        WIDE·ROOM
      </h1>
      <p className="text-quiet">There is no session yet. Say what the client asked for; tracks come next.</p>
      <NewSessionForm />
    </main>
  );
}
