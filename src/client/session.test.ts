import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { FORMAT } from '../../tests/support/session';
import { eventually } from '../../tests/support/eventually';
import {
  applyEdit,
  newSeat,
  newSession,
  readEdit,
  seated,
  seatOf,
  type EditJson,
  type Patch,
  type Seat,
  type SessionDoc,
} from '@/core/session';
import { mySeat } from './me';
import { edit, openSession, preview, previewSound, settled, travel, useSession } from './session';

/** A server in memory that orders edits like ours, and its stream of events. */
class FakeServer {
  doc: SessionDoc = newSession('Test', 'TS', { ...FORMAT });
  revision = 0;
  changes: { revision: number; editId: string; patches: Patch[] }[] = [];
  away = false;
  refuse: string | null = null;
  seen: string[] = [];
  sources: {
    onmessage: ((e: { data: string }) => void) | null;
    onopen: (() => void) | null;
    onerror: (() => void) | null;
  }[] = [];

  apply(editId: string, edits: EditJson[]): void {
    const patches: Patch[] = [];
    for (const e of edits) {
      const change = applyEdit(this.doc, readEdit(e));
      this.doc = change.doc;
      patches.push(...change.patches);
    }
    this.changes.push({ revision: ++this.revision, editId, patches });
  }

  seat: Seat = newSeat();

  /** Edits of the seat; the last of its states. */
  sit(edits: EditJson[]): Seat {
    const over = edits.reduce((d, e) => applyEdit(d, readEdit(e)).doc, seated(this.doc, this.seat));
    return (this.seat = seatOf(over));
  }

  /** An edit of another window. */
  other(...edits: EditJson[]): void {
    this.apply(`other-${this.revision}`, edits);
    const change = { ...this.changes.at(-1)!, undo: 'something', redo: null };
    this.sources.at(-1)!.onmessage?.({ data: JSON.stringify({ kind: 'change', session: now().id, change }) });
  }

  fetch = async (url: string, init?: RequestInit): Promise<Response> => {
    if (this.away) throw new TypeError('Failed to fetch');
    if (url.includes('/none')) return Response.json({ message: 'There is no session "none".' }, { status: 404 });
    if (url.endsWith('/me')) return Response.json({ name: 'Ada', hue: 1 });
    if (!init?.method || init.method === 'GET')
      return Response.json({
        doc: this.doc,
        revision: this.revision,
        undo: null,
        redo: null,
        state: this.seat,
        selected: null,
      });
    const body = JSON.parse(init.body as string) as { id: string; base: number; edits: EditJson[] };
    if (url.endsWith('/here')) return Response.json([{ seat: 'me', name: 'Ada', hue: 1 }]);
    if (url.endsWith('/seat')) return Response.json({ state: this.sit(body.edits) });
    if (url.endsWith('/history')) return Response.json({ message: 'There is nothing left to undo.' }, { status: 409 });
    if (this.refuse) return Response.json({ message: this.refuse }, { status: 422 });
    this.seen.push(body.id);
    this.apply(body.id, body.edits);
    return Response.json({ revision: this.revision, changes: this.changes.filter((c) => c.revision > body.base) });
  };
}

// What is on its way may come after a test: they stay.
Object.assign(globalThis, {
  document: { cookie: '' },
  window: { addEventListener() {}, removeEventListener() {} },
});

let server: FakeServer;
let count = 0;

beforeEach(async () => {
  server = new FakeServer();
  vi.stubGlobal('fetch', server.fetch);
  vi.stubGlobal(
    'EventSource',
    class {
      onmessage = null;
      onopen = null;
      onerror = null;
      constructor() {
        server.sources.push(this);
      }
      close() {}
    },
  );
  await openSession(`s${count++}`);
});
afterEach(() => vi.unstubAllGlobals());

const now = () => useSession.getState();
const addTrack = (id: string): EditJson => ({ type: 'addTrack', id, name: id, layout: 'mono', destination: null });

describe('the open session', () => {
  it('keeps what belongs to the seat out of the session, at once and on the server', async () => {
    edit(addTrack('a'));
    expect(edit({ type: 'setTrack', track: 'a', level: -3 }, { type: 'seatTrack', track: 'a', armed: true })).toBe(
      true,
    );
    expect(now().doc!.tracks[0]).toMatchObject({ level: -3, armed: true });
    await settled();
    await eventually(() => expect(server.seat.armed).toEqual(['a']));
    expect(server.doc.tracks[0]).toMatchObject({ level: -3 });
    expect(server.doc.tracks[0]!.armed).toBeUndefined();
  });
  it('a seat’s change that could not be sent is sent when the server is back', async () => {
    edit(addTrack('a'));
    await settled();
    server.away = true;
    edit({ type: 'seatTrack', track: 'a', soloed: true });
    edit({ type: 'setMonitor', dimmed: true });
    preview({ type: 'setMonitor', level: -30 });
    expect(now().doc!.monitor).toMatchObject({ level: -30, dimmed: true });
    preview();
    expect(now().doc!.tracks[0]!.soloed).toBe(true);
    server.away = false;
    await eventually(() => expect(server.seat).toMatchObject({ soloed: ['a'], monitor: { dimmed: true, level: -12 } }));
  });
  it('follows its other windows, and nobody else’s', async () => {
    edit(addTrack('a'));
    await settled();
    const tell = (seat: string, state: Seat) =>
      server.sources.at(-1)!.onmessage?.({ data: JSON.stringify({ kind: 'seat', session: now().id, seat, state }) });
    tell('somebody', { ...newSeat(), armed: ['a'] });
    expect(now().doc!.tracks[0]!.armed).toBeUndefined();
    tell(mySeat(), { ...newSeat(), armed: ['a'] });
    expect(now().doc!.tracks[0]!.armed).toBe(true);
  });
  it('shows an edit at once and has it stored', async () => {
    expect(edit(addTrack('a'))).toBe(true);
    expect(now().doc!.tracks.map((t) => t.id)).toEqual(['a']);
    expect(now().base!.tracks).toEqual([]);
    await settled();
    expect(now().base!.tracks.map((t) => t.id)).toEqual(['a']);
    expect(server.doc).toEqual(now().base);
  });
  it('agrees with another window, whoever was first', async () => {
    edit(addTrack('mine'));
    server.other(addTrack('theirs'));
    await settled();
    expect(now().base).toEqual(server.doc);
    expect(
      now()
        .doc!.tracks.map((t) => t.id)
        .sort(),
    ).toEqual(['mine', 'theirs']);
  });
  it('fetches all anew when it has missed a change', async () => {
    server.apply('missed', [addTrack('x')]);
    server.other(addTrack('y'));
    await eventually(() => expect(now().doc!.tracks.map((t) => t.id)).toEqual(['x', 'y']));
  });
  it('refuses nonsense before it is sent', () => {
    expect(edit({ type: 'setTrack', track: 'nobody', level: 0 })).toBe(false);
    expect(now().pending).toEqual([]);
  });
  it('takes a change back that the server refuses', async () => {
    server.refuse = 'That is not possible any more.';
    edit(addTrack('a'));
    await settled();
    expect(now().doc!.tracks).toEqual([]);
  });
  it('keeps edits while the server is away, in order, and sends them when it is back', async () => {
    server.away = true;
    edit(addTrack('a'));
    edit({ type: 'setTrack', track: 'a', level: -6 });
    await eventually(() => expect(now().online).toBe(false));
    expect(now().doc!.tracks[0]!.level).toBe(-6);
    server.away = false;
    server.sources.at(-1)!.onopen?.();
    await settled();
    expect(server.doc.tracks[0]!.level).toBe(-6);
    expect(new Set(server.seen).size).toBe(2);
    expect(now().online).toBe(true);
  });
  it('sends after a reload what the page before could not', async () => {
    const kept = new Map<string, string>();
    vi.stubGlobal('sessionStorage', {
      getItem: (key: string) => kept.get(key) ?? null,
      setItem: (key: string, value: string) => kept.set(key, value),
      removeItem: (key: string) => kept.delete(key),
    });
    server.away = true;
    edit(addTrack('a'));
    edit({ type: 'setTrack', track: 'a', level: -6 });
    await eventually(() => expect(now().online).toBe(false));
    // The page is loaded anew: what it held in memory is gone.
    const { id } = now();
    useSession.setState({ id: null, base: null, pending: [], doc: null });
    server.away = false;
    await openSession(id!);
    expect(now().doc!.tracks[0]!.level).toBe(-6);
    server.sources.at(-1)!.onopen?.();
    await settled();
    expect(server.doc.tracks[0]!.level).toBe(-6);
    expect(kept.size).toBe(0);
  });
  it('shows a drag without storing it, and only its end is stored', async () => {
    edit(addTrack('a'));
    await settled();
    const revision = server.revision;
    preview({ type: 'setTrack', track: 'a', level: -3 });
    preview({ type: 'setTrack', track: 'a', level: -4 });
    expect(now().doc!.tracks[0]!.level).toBe(-4);
    expect(server.revision).toBe(revision);
    edit({ type: 'setTrack', track: 'a', level: -5 });
    await settled();
    expect(server.doc.tracks[0]!.level).toBe(-5);
    expect(server.revision).toBe(revision + 1);
    preview({ type: 'setTrack', track: 'a', level: 0 });
    preview();
    expect(now().doc!.tracks[0]!.level).toBe(-5);
  });
  it('sounds a drag at once, and draws it when the hand rests', async () => {
    edit(addTrack('a'));
    await settled();
    const drawn = now().doc;
    previewSound({ type: 'setTrack', track: 'a', level: -3 });
    previewSound({ type: 'setTrack', track: 'a', level: -4 });
    expect(now().sounding!.tracks[0]!.level).toBe(-4);
    expect(now().doc).toBe(drawn);
    await eventually(() => expect(now().doc).toBe(now().sounding));
    expect(now().doc!.tracks[0]!.level).toBe(-4);
    previewSound({ type: 'setTrack', track: 'a', level: -6 });
    edit({ type: 'setTrack', track: 'a', level: -5 });
    expect(now().doc!.tracks[0]!.level).toBe(-5);
    expect(now().sounding).toBe(now().doc);
    await settled();
    expect(now().doc!.tracks[0]!.level).toBe(-5);
  });
  it('says when there is no such session, and when there is nothing to undo', async () => {
    await travel('undo');
    expect(now().base).toEqual(server.doc);
    await openSession('none');
    expect(now().missing).toMatch(/no session "none"/);
  });
});
