import { nanoid } from 'nanoid';
import { create } from 'zustand';
import { ask } from './http';
import { mySeat } from './me';

export interface Person {
  seat: string;
  name: string;
  hue: number;
}

/** As whom this browser came in, where it is on another machine. */
export interface SignedIn {
  role: 'engineer' | 'listener';
  /** Name of the seat; null: it is on the server's own machine. */
  login: string | null;
}

interface People {
  signedIn: SignedIn;
  /** Who has this session open, this browser among them. */
  here: Person[];
  me: Person | null;
  /** Other windows in which a take rolls, by who sits there. */
  elsewhere: { window: string; name: string; seat: string }[];
}

/** Who is here, as the server tells it. */
export interface Here {
  people: Person[];
  recording: { window: string; seat: string; name: string }[];
}

/** This window, among all that have the session open. */
const WINDOW = nanoid(10);

/** Who is here. */
export const usePeople = create<People>(() => ({
  here: [],
  me: null,
  elsewhere: [],
  signedIn: { role: 'engineer', login: null },
}));

export const tellHere = ({ people, recording }: Here): void =>
  usePeople.setState({ here: people, elsewhere: recording.filter((r) => r.window !== WINDOW) });

let records = false;
let beatNow = () => {};

/** Tells all other windows whether a take rolls in this one. */
export function tellRecording(on: boolean): void {
  if (on === records) return;
  records = on;
  beatNow();
}

/** Windows tell of themselves so often (ms); the server forgets one that is silent for a minute. */
const BEAT = 20_000;

/** Tells the server that this window has the session open, until it is closed or the returned function is called. */
export function beHere(session: string): () => void {
  const url = `/api/sessions/${session}/here`;
  const beat = async () => {
    try {
      tellHere(await ask<Here>(url, { window: WINDOW, recording: records }));
      // A colour is given to who comes for the first time: asked for afterwards.
      if (usePeople.getState().me) return;
      const { role, login, ...me } = await ask<Omit<Person, 'seat'> & SignedIn>('/api/me');
      usePeople.setState({ me: { seat: mySeat(), ...me }, signedIn: { role, login } });
    } catch {
      // The server is away; the next beat tells it.
    }
  };
  const going = () =>
    void ask(url, { window: WINDOW, going: true }).catch(() => {
      // It finds out by itself.
    });
  void beat();
  beatNow = () => void beat();
  const timer = setInterval(beatNow, BEAT);
  window.addEventListener('pagehide', going);
  return () => {
    clearInterval(timer);
    beatNow = () => {};
    usePeople.setState({ elsewhere: [] });
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
