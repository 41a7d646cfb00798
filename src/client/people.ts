import { nanoid } from 'nanoid';
import { create } from 'zustand';
import { ask } from './http';
import { mySeat } from './me';

export interface Person {
  seat: string;
  name: string;
  hue: number;
}

interface People {
  /** Who has this session open, this browser among them. */
  here: Person[];
  me: Person | null;
}

/** Who is here. */
export const usePeople = create<People>(() => ({ here: [], me: null }));

export const tellHere = (here: Person[]): void => usePeople.setState({ here });

/** Windows tell of themselves so often (ms); the server forgets one that is silent for a minute. */
const BEAT = 20_000;

/** Tells the server that this window has the session open, until it is closed or the returned function is called. */
export function beHere(session: string): () => void {
  const id = nanoid(10);
  const url = `/api/sessions/${session}/here`;
  const beat = () =>
    ask<Person[]>(url, { window: id }).then(tellHere, () => {
      // The server is away; the next beat tells it.
    });
  const going = () =>
    void ask(url, { window: id, going: true }).catch(() => {
      // It finds out by itself.
    });
  // A colour is given to who comes for the first time: asked for afterwards.
  void beat()
    .then(() => ask<Omit<Person, 'seat'>>('/api/me'))
    .then(
      (me) => usePeople.setState({ me: { seat: mySeat(), ...me } }),
      () => {},
    );
  const timer = setInterval(() => void beat(), BEAT);
  window.addEventListener('pagehide', going);
  return () => {
    clearInterval(timer);
    window.removeEventListener('pagehide', going);
    going();
  };
}

let named: Promise<unknown> = Promise.resolve();

/** Keeps what the person at this browser is called, and the colour. Throws with a sentence when it may not be. */
export function nameMe(part: { name?: string; hue?: number }): Promise<void> {
  // One after the other: an answer that comes late never takes back a later one.
  const done = named.then(async () => {
    const me = await ask<Omit<Person, 'seat'>>('/api/me', part, 'PUT');
    usePeople.setState({ me: { seat: mySeat(), ...me } });
  });
  named = done.catch(() => {});
  return done;
}
