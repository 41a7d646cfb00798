'use client';
import { useState, type FormEvent } from 'react';
import { ask } from '@/client';

/** Name and pass phrase of a seat, for a browser on another machine. */
export function SignInForm() {
  const [fault, setFault] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const submit = (event: FormEvent<HTMLFormElement>) => {
    event.preventDefault();
    const form = new FormData(event.currentTarget);
    const text = (name: string) => {
      const value = form.get(name);
      return typeof value === 'string' ? value : '';
    };
    setBusy(true);
    ask('/api/sign-in', { name: text('name'), phrase: text('phrase') }).then(
      // Not a step of the page: everything is asked for anew, as somebody.
      () => window.location.assign('/'),
      (error: Error) => {
        setFault(error.message);
        setBusy(false);
      },
    );
  };
  return (
    <main className="mx-auto grid h-screen w-80 content-center gap-4">
      <h1 className="text-head font-[640] tracking-[0.16em]" style={{ fontStretch: '125%' }}>
        WIDE·ROOM
      </h1>
      <form className="grid gap-3" onSubmit={submit} aria-label="Sign in">
        <label className="grid gap-1">
          <span className="small text-quiet">Seat</span>
          <input className="field" name="name" autoComplete="username" autoFocus required maxLength={40} />
        </label>
        <label className="grid gap-1">
          <span className="small text-quiet">Pass phrase</span>
          <input
            className="field"
            name="phrase"
            type="password"
            autoComplete="current-password"
            required
            maxLength={200}
            aria-describedby={fault ? 'sign-in-fault' : undefined}
          />
        </label>
        {fault && (
          <p id="sign-in-fault" role="alert" className="text-stop">
            {fault}
          </p>
        )}
        <button className="btn btn-main justify-self-start" disabled={busy}>
          {busy ? 'Signing in…' : 'Sign in'}
        </button>
      </form>
      <p className="small text-quiet">
        A seat is made on the machine that the server runs on:{' '}
        <code className="whitespace-nowrap">wide-room seat add</code>
      </p>
    </main>
  );
}
