// Several processes on one database: what happens in one is told in all. Only what is short travels; the rest is read.
import { nanoid } from 'nanoid';
import type { ChangeEvent } from '@/core/wire';
import { alone, databaseUrl, listenToAll, notifyAll } from '../database';
import { log } from '../log';
import { shared } from '../shared';
import { deliver, onPublish, type SessionEvent } from './events';

/** A window tells one process that it is here; all know it. */
export interface WindowBeat {
  kind: 'window';
  window: string;
  seat: string;
  recording: boolean;
  going: boolean;
}

type Told =
  | { kind: 'changed'; revision: number }
  | { kind: 'printed'; print: string; share: number; range: number | null; left: number | null }
  | { kind: 'forget' }
  | { kind: 'cancel'; print: string }
  | WindowBeat
  | Exclude<SessionEvent, { kind: 'change' } | { kind: 'print' } | { kind: 'here' }>;

interface Message {
  from: string;
  session: string;
  told: Told;
}

interface Hands {
  /** A change as it was stored; null where it is packed by now. */
  change?: (session: string, revision: number) => Promise<ChangeEvent | null>;
  /** What is kept of a session for reading is read anew. */
  forget?: (session: string) => void;
  /** Facts of a print, as they stand in the database. */
  print?: (id: string) => Promise<object>;
  cancel?: (id: string) => void;
  window?: (session: string, beat: WindowBeat) => Promise<void>;
}

const me = () => shared('process-name', () => nanoid(8));
const hands = () => shared('others-hands', (): Hands => ({}));

/** What other parts of the server do when another process asks for it. */
export const onOthers = (part: Hands): void => void Object.assign(hands(), part);

/** Tells all other processes; nothing where there are none. */
export function tellOthers(session: string, told: Told): void {
  if (alone()) return;
  const message: Message = { from: me(), session, told };
  notifyAll(JSON.stringify(message)).catch((error: unknown) => log.warn(error, 'other servers could not be told'));
}

function short(event: SessionEvent): Told | null {
  switch (event.kind) {
    case 'change':
      return { kind: 'changed', revision: event.change.revision };
    case 'print': {
      const { id, share, range, left } = event.print as {
        id: string;
        share: number;
        range: number | null;
        left: number | null;
      };
      return { kind: 'printed', print: id, share, range, left };
    }
    case 'here':
      // Each process knows all windows by their beats.
      return null;
    default:
      return event;
  }
}

async function heard({ session, told }: Message): Promise<void> {
  switch (told.kind) {
    case 'changed': {
      const change = await hands().change?.(session, told.revision);
      if (change) deliver(session, { kind: 'change', change }, true);
      return;
    }
    case 'printed': {
      const facts = await hands().print?.(told.print);
      const { share, range, left } = told;
      if (facts) deliver(session, { kind: 'print', print: { ...facts, share, range, left } }, true);
      return;
    }
    case 'forget':
      return hands().forget?.(session);
    case 'cancel':
      return hands().cancel?.(told.print);
    case 'window':
      return hands().window?.(session, told);
    default:
      deliver(session, told, true);
  }
}

/** Begins to hear of other processes, where there may be some. */
export async function followOthers(): Promise<void> {
  const url = databaseUrl();
  if (!url) return;
  onPublish((session, event) => {
    const told = short(event);
    if (told) tellOthers(session, told);
  });
  // In the order in which it was told.
  let turn: Promise<unknown> = Promise.resolve();
  await listenToAll(
    url,
    (text) => {
      const message = JSON.parse(text) as Message;
      if (message.from === me()) return;
      turn = turn
        .then(() => heard(message))
        .catch((error: unknown) => log.warn(error, 'what another server told was not understood'));
    },
    // Windows look again by themselves when their stream says which revision each session has.
    () => {},
  );
}
