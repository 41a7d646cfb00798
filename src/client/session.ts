import { nanoid } from 'nanoid';
import { toast } from 'sonner';
import { create } from 'zustand';
import {
  applyEdit,
  EditRefused,
  newSeat,
  patchDoc,
  readEdit,
  seated,
  seatOf,
  type EditJson,
  type Seat,
  type SessionDoc,
} from '@/core/session';
import type { ChangeEvent } from '@/core/wire';
import { listen, readEvent, type ServerEvent } from './events';
import { ask, ServerRefusal } from './http';
import { mySeat, sitDown } from './me';
import { beHere, tellHere } from './people';
import { SeatSender } from './seat';
import { followSelection, selectAgain, type Selected } from './selection';
import { keepUnsent, unsent, type Pending } from './unsent';

interface SessionState {
  id: string | null;
  /** The document as the server has it. */
  base: SessionDoc | null;
  revision: number;
  /** What belongs to this seat; laid over the document. */
  seat: Seat;
  /** Edits on their way. */
  pending: Pending[];
  /** Edits of a drag that has not ended; never sent. */
  preview: EditJson[];
  /** What is heard: base, pending, seat and preview. */
  sounding: SessionDoc | null;
  /** What is drawn: the same, while something is dragged that is only heard at once a moment later. */
  doc: SessionDoc | null;
  undo: string | null;
  redo: string | null;
  online: boolean;
  missing: string | null;
}

export const useSession = create<SessionState>(() => ({
  id: null,
  base: null,
  revision: 0,
  seat: newSeat(),
  pending: [],
  preview: [],
  sounding: null,
  doc: null,
  undo: null,
  redo: null,
  online: true,
  missing: null,
}));

const { getState: get, setState } = useSession;
let stopEvents: (() => void) | null = null;
let seatSender: SeatSender | null = null;
let sending = false;

type Shown = Pick<SessionState, 'base' | 'seat' | 'pending' | 'preview'>;

/** The document and the seat that were laid over each other last. */
let over: { doc: SessionDoc; seat: Seat; with: SessionDoc } | null = null;

function shown({ base, seat, pending, preview }: Shown): SessionDoc | null {
  if (!base) return null;
  const doc = edited(
    base,
    pending.flatMap((p) => p.edits),
  );
  if (over?.doc !== doc || over.seat !== seat) over = { doc, seat, with: seated(doc, seat) };
  return edited(over.with, preview);
}

function edited(doc: SessionDoc, edits: readonly EditJson[]): SessionDoc {
  let next = doc;
  for (const json of edits) {
    try {
      next = applyEdit(next, readEdit(json)).doc;
    } catch {
      // It no longer fits what others have changed; the server will say so.
    }
  }
  return next;
}

function set(part: Partial<SessionState>): void {
  const next = { ...get(), ...part };
  if (part.pending && next.base) keepUnsent(next.id!, part.pending);
  clearTimeout(drawing);
  drawing = undefined;
  const doc = shown(next);
  setState({ ...part, sounding: doc, doc });
}

/** All that shows the session is drawn anew when the hand rests so long, and at the latest after that (ms). */
const RESTS = 150;
const LATEST = 1000;

let drawing: ReturnType<typeof setTimeout> | undefined;
let drawn = 0;

function drawSoon(): void {
  const now = performance.now();
  if (drawing === undefined) drawn = now;
  clearTimeout(drawing);
  drawing = setTimeout(
    () => {
      drawing = undefined;
      setState({ doc: get().sounding });
    },
    Math.max(0, Math.min(RESTS, drawn + LATEST - now)),
  );
}

/** Opens a session and follows its changes until another is opened. */
export async function openSession(id: string): Promise<void> {
  if (get().id === id && get().base) return;
  stopEvents?.();
  seatSender = new SeatSender(id, (state) => get().id === id && takeSeat(state));
  sitDown();
  set({ id, base: null, seat: newSeat(), pending: [], preview: [], missing: null });
  await refetch(id);
  if (get().missing) return;
  set({ pending: [...unsent(id), ...get().pending] });
  let away = false;
  const ends = [beHere(id), followSelection(id)];
  const stop = listen((news) => {
    if (get().id !== id) return;
    if (news.kind === 'open') {
      setState({ online: true });
      if (away) void refetch(id);
      away = false;
      void send();
    } else if (news.kind === 'error') {
      away = true;
      setState({ online: false });
    } else hear(id, readEvent(news.data));
  });
  stopEvents = () => [stop, ...ends].forEach((end) => end());
}

function hear(id: string, event: ServerEvent): void {
  if (event.kind === 'hello') {
    // What was changed between the fetch and the first event would be missed otherwise.
    if ((event.revisions[id] ?? 0) > get().revision) void refetch(id);
  } else if (event.kind === 'rooms') roomListeners.forEach((l) => l());
  else if (event.session !== id) return;
  else if (event.kind === 'change') take(event.change as ChangeEvent);
  else if (event.kind === 'here') tellHere(event);
  else if (event.kind === 'print') printListeners.forEach((l) => l(event.print));
  else if (event.kind === 'freezing') freezingListeners.forEach((l) => l(event));
  else if (event.seat === mySeat() && !seatSender?.busy) takeSeat(event.state);
}

const roomListeners = new Set<() => void>();

/** Called when rooms were changed, here or in another window. */
export const onRooms = (listener: () => void): void => void roomListeners.add(listener);

const freezingListeners = new Set<(news: { node: string; share: number }) => void>();

/** Called with how much of a frozen file is made. */
export const onFreezing = (listener: (news: { node: string; share: number }) => void): void =>
  void freezingListeners.add(listener);

const printListeners = new Set<(print: unknown) => void>();

/** Called with a print's facts whenever they change. */
export function onPrint(listener: (print: unknown) => void): () => void {
  printListeners.add(listener);
  return () => void printListeners.delete(listener);
}

async function refetch(id: string): Promise<void> {
  try {
    const { doc, revision, undo, redo, state, selected } = await ask<{
      doc: SessionDoc;
      revision: number;
      undo: string | null;
      redo: string | null;
      state: Seat;
      selected: Selected;
    }>(`/api/sessions/${id}`);
    // Frozen like what comes of edits: what is worked out from a document is remembered with it.
    if (get().id !== id) return;
    const first = get().base === null;
    set({ base: Object.freeze(doc), revision, undo, redo, online: true });
    takeSeat(state);
    if (first) selectAgain(selected, get().doc!);
  } catch (error) {
    if (error instanceof ServerRefusal) set({ missing: error.message });
    else {
      setState({ online: false });
      setTimeout(() => get().id === id && void refetch(id), 1000);
    }
  }
}

function take(change: ChangeEvent): void {
  const state = get();
  // What is known already may still tell what would be undone next.
  if (state.base && change.revision === state.revision) setState(historyOf(change));
  if (!state.base || change.revision <= state.revision) return;
  if (change.revision > state.revision + 1) {
    void refetch(state.id!);
    return;
  }
  set({
    base: patchDoc(state.base, change.patches),
    revision: change.revision,
    pending: state.pending.filter((p) => p.id !== change.editId),
    ...historyOf(change),
  });
}

// The answer to one's own step tells of one's own history; what all are told has everybody's.
function historyOf({ by, histories, undo, redo }: ChangeEvent): Partial<SessionState> {
  const me = mySeat();
  const mine = histories?.[me] ?? (by === me ? { undo, redo } : null);
  return mine?.undo === undefined ? {} : { undo: mine.undo, redo: mine.redo ?? null };
}

// What is on its way counts already.
function takeSeat(state: Seat): void {
  const { base, seat } = get();
  const pending = seatSender?.pending ?? [];
  const next = base && pending.length ? seatOf(edited(seated(base, state), pending)) : state;
  if (JSON.stringify(next) !== JSON.stringify(seat)) set({ seat: next });
}

/**
 * Looks at a change before it is made; null: it may be. Otherwise why it may not, in a sentence, or 'asked' when the
 * user was asked first.
 */
export type Guard = (before: SessionDoc, after: SessionDoc, again: () => void) => string | 'asked' | null;
const guards = new Set<Guard>();

/** Asks `guard` about every change from now on; returns what ends that. */
export function addGuard(guard: Guard): () => void {
  guards.add(guard);
  return () => void guards.delete(guard);
}

function held(before: SessionDoc, after: SessionDoc, again: () => void): boolean {
  for (const guard of guards) {
    const found = guard(before, after, again);
    if (found && found !== 'asked') toast.error(found, { id: 'held' });
    if (found) return true;
  }
  return false;
}

/** Makes edits: shown at once, stored by the server. False when one is refused; then the user was told. */
export function edit(...edits: EditJson[]): boolean {
  const { doc } = get();
  if (!doc) return false;
  let own: EditJson[] = [];
  let seat: Seat | null = null;
  try {
    const now = get().preview.length ? shown({ ...get(), preview: [] })! : doc;
    let next = now;
    const read = edits.map(readEdit);
    for (const one of read) next = applyEdit(next, one).doc;
    if (held(now, next, () => void edit(...edits))) {
      set({ preview: [] });
      return false;
    }
    own = edits.filter((_, i) => read[i]!.personal);
    if (own.length) seat = seatOf(next);
  } catch (error) {
    set({ preview: [] });
    if (error instanceof EditRefused) toast.error(error.message);
    else throw error;
    return false;
  }
  const shared = edits.filter((json) => !own.includes(json));
  set({
    pending: shared.length ? [...get().pending, { id: nanoid(), edits: shared }] : get().pending,
    preview: [],
    ...(seat ? { seat } : {}),
  });
  if (own.length) seatSender?.send(own);
  if (shared.length) void send();
  return true;
}

/** Shows edits without storing them, while something is dragged. None: back to what is stored. */
export function preview(...edits: EditJson[]): void {
  const now = shown({ ...get(), preview: [] });
  const next = shown({ ...get(), preview: edits });
  if (edits.length && now && next && held(now, next, () => {})) return;
  set({ preview: edits });
}

/**
 * Sounds edits without storing them, while something is dragged whose own control shows where it stands: the rest of the page
 * follows when the hand rests, and does not hold it up.
 */
export function previewSound(...edits: EditJson[]): void {
  const now = shown({ ...get(), preview: [] });
  const next = shown({ ...get(), preview: edits });
  if (edits.length && now && next && held(now, next, () => {})) return;
  setState({ preview: edits, sounding: next });
  drawSoon();
}

async function send(): Promise<void> {
  if (sending) return;
  sending = true;
  try {
    for (let first = get().pending[0]; first; first = get().pending[0]) {
      const { id, revision } = get();
      try {
        const answer = await ask<{ revision: number; changes: ChangeEvent[] }>(`/api/sessions/${id}/edits`, {
          id: first.id,
          base: revision,
          edits: first.edits,
        });
        answer.changes.forEach(take);
        // An edit that changes nothing has no revision of its own.
        set({ pending: get().pending.filter((p) => p.id !== first.id), online: true });
      } catch (error) {
        if (!(error instanceof ServerRefusal)) {
          setState({ online: false });
          setTimeout(() => void send(), 1500);
          return;
        }
        set({ pending: get().pending.filter((p) => p.id !== first.id) });
        toast.error(`${error.message} The change was taken back.`);
      }
    }
  } finally {
    sending = false;
  }
}

/** Resolves once every edit is stored, the server is known to be away, or `within` ms have passed; tells whether all are. */
export async function settled(within = Infinity): Promise<boolean> {
  const until = performance.now() + within;
  while (get().pending.length > 0 && get().online && performance.now() < until)
    await new Promise((resolve) => setTimeout(resolve, 20));
  return get().pending.length === 0;
}

/** The same for what the server must have first. Throws while it is away. */
export async function stored(): Promise<void> {
  if (!(await settled()))
    throw new Error(
      'The server is away. What you changed is kept in this window and sent when it is back; try again then',
    );
}

/**
 * Takes back one's own last step, or makes it again; `past`: only steps before that revision. False where it could not
 * be; then the user was told.
 */
export async function travel(direction: 'undo' | 'redo', past?: number): Promise<boolean> {
  try {
    await stored();
    take(await ask<ChangeEvent>(`/api/sessions/${get().id}/history`, { direction, past }));
    return true;
  } catch (error) {
    const stands = error instanceof ServerRefusal ? error.facts.revision : undefined;
    toast.message((error as Error).message, {
      id: 'travel',
      ...(typeof stands === 'number'
        ? { duration: 12_000, action: { label: 'The step before', onClick: () => void travel(direction, stands) } }
        : {}),
    });
    return false;
  }
}
