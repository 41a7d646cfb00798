import { nanoid } from 'nanoid';
import { toast } from 'sonner';
import { create } from 'zustand';
import { applyEdit, EditRefused, patchDoc, readEdit, type EditJson, type Patch, type SessionDoc } from '@/core/session';
import { ask, ServerRefusal } from './http';
import { keepUnsent, unsent, type Pending } from './unsent';

interface ChangeEvent {
  revision: number;
  editId: string;
  patches: Patch[];
  undo?: string | null;
  redo?: string | null;
}

interface SessionState {
  id: string | null;
  /** The document as the server has it. */
  base: SessionDoc | null;
  revision: number;
  /** Edits on their way. */
  pending: Pending[];
  /** Edits of a drag that has not ended; never sent. */
  preview: EditJson[];
  /** What is shown and heard: base, pending and preview. */
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
  pending: [],
  preview: [],
  doc: null,
  undo: null,
  redo: null,
  online: true,
  missing: null,
}));

const { getState: get, setState } = useSession;
let events: EventSource | null = null;
let sending = false;

function shown(base: SessionDoc | null, pending: readonly Pending[], preview: readonly EditJson[]): SessionDoc | null {
  if (!base) return null;
  let doc = base;
  for (const json of [...pending.flatMap((p) => p.edits), ...preview]) {
    try {
      doc = applyEdit(doc, readEdit(json)).doc;
    } catch {
      // It no longer fits what others have changed; the server will say so.
    }
  }
  return doc;
}

function set(part: Partial<SessionState>): void {
  const next = { ...get(), ...part };
  if (part.pending && next.base) keepUnsent(next.id!, part.pending);
  setState({ ...part, doc: shown(next.base, next.pending, next.preview) });
}

/** Opens a session and follows its changes until another is opened. */
export async function openSession(id: string): Promise<void> {
  if (get().id === id && get().base) return;
  events?.close();
  set({ id, base: null, pending: [], preview: [], missing: null });
  await refetch(id);
  if (get().missing) return;
  set({ pending: [...unsent(id), ...get().pending] });
  events = new EventSource(`/api/sessions/${id}/events`);
  let away = false;
  events.onopen = () => {
    setState({ online: true });
    if (away) void refetch(id);
    away = false;
    void send();
  };
  events.onerror = () => {
    away = true;
    setState({ online: false });
  };
  events.onmessage = ({ data }) => {
    const event = JSON.parse(data as string) as {
      kind: string;
      revision?: number;
      change?: ChangeEvent;
      print?: unknown;
    };
    if (event.kind === 'hello') {
      // What was changed between the fetch and the first event would be missed otherwise.
      if (event.revision! > get().revision) void refetch(id);
    } else if (event.change) take(event.change);
    else printListeners.forEach((l) => l(event.print));
  };
}

const printListeners = new Set<(print: unknown) => void>();

/** Called with a print's facts whenever they change. */
export function onPrint(listener: (print: unknown) => void): () => void {
  printListeners.add(listener);
  return () => void printListeners.delete(listener);
}

async function refetch(id: string): Promise<void> {
  try {
    const { doc, revision, undo, redo } = await ask<{
      doc: SessionDoc;
      revision: number;
      undo: string | null;
      redo: string | null;
    }>(`/api/sessions/${id}`);
    if (get().id === id) set({ base: doc, revision, undo, redo, online: true });
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
  if (!state.base || change.revision <= state.revision) return;
  if (change.revision > state.revision + 1) {
    void refetch(state.id!);
    return;
  }
  set({
    base: patchDoc(state.base, change.patches),
    revision: change.revision,
    pending: state.pending.filter((p) => p.id !== change.editId),
    ...(change.undo !== undefined ? { undo: change.undo } : {}),
    ...(change.redo !== undefined ? { redo: change.redo } : {}),
  });
}

/** Makes edits: shown at once, stored by the server. False when one is refused; then the user was told. */
export function edit(...edits: EditJson[]): boolean {
  const { doc } = get();
  if (!doc) return false;
  try {
    let next = get().preview.length ? shown(get().base, get().pending, [])! : doc;
    for (const json of edits) next = applyEdit(next, readEdit(json)).doc;
  } catch (error) {
    set({ preview: [] });
    if (error instanceof EditRefused) toast.error(error.message);
    else throw error;
    return false;
  }
  set({ pending: [...get().pending, { id: nanoid(), edits }], preview: [] });
  void send();
  return true;
}

/** Shows edits without storing them, while something is dragged. None: back to what is stored. */
export function preview(...edits: EditJson[]): void {
  set({ preview: edits });
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
        set({ pending: get().pending.filter((p) => p.id !== first!.id), online: true });
      } catch (error) {
        if (!(error instanceof ServerRefusal)) {
          setState({ online: false });
          setTimeout(() => void send(), 1500);
          return;
        }
        set({ pending: get().pending.filter((p) => p.id !== first!.id) });
        toast.error(`${error.message} The change was taken back.`);
      }
    }
  } finally {
    sending = false;
  }
}

/** Resolves once every edit is stored. */
export async function settled(): Promise<void> {
  while (get().pending.length > 0) await new Promise((resolve) => setTimeout(resolve, 20));
}

export async function travel(direction: 'undo' | 'redo'): Promise<void> {
  await settled();
  try {
    take(await ask<ChangeEvent>(`/api/sessions/${get().id}/history`, { direction }));
  } catch (error) {
    toast.message((error as Error).message);
  }
}

/** The document; only where a session is open. */
export function useDoc(): SessionDoc {
  return useSession((s) => s.doc)!;
}
