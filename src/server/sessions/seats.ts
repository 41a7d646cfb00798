import { and, eq } from 'drizzle-orm';
import { applyEdit, newSeat, readEdit, seated, seatOf, type Seat } from '@/core/session';
import { db, tables } from '../database';
import { Refused } from '../http';
import { publish } from './events';
import { inTurn } from '../turns';
import { loadSession } from './store';

const s = tables.seats;

async function rowOf(session: string, seat: string) {
  const [row] = await (
    await db()
  )
    .select()
    .from(s)
    .where(and(eq(s.session, session), eq(s.seat, seat)));
  return row;
}

export interface SeatAt {
  state: Seat;
  selected: { kind: string; id: string } | null;
}

/** A seat of a session; one who comes for the first time begins as the session says. */
export async function seatAt(session: string, seat: string | null): Promise<SeatAt> {
  const { doc } = await loadSession(session);
  const row = seat === null ? undefined : await rowOf(session, seat);
  return { state: row?.state ?? newSeat(doc), selected: row?.selected ?? null };
}

async function keep(session: string, seat: string, part: Partial<SeatAt>): Promise<void> {
  const now = { ...(await seatAt(session, seat)), ...part };
  await (
    await db()
  )
    .insert(s)
    .values({ session, seat, ...now })
    .onConflictDoUpdate({ target: [s.session, s.seat], set: now });
}

/** Changes what belongs to a seat; all or none of the edits. Nobody else's window is touched. */
export function editSeat(session: string, seat: string, jsons: readonly unknown[]): Promise<Seat> {
  return inTurn(`seat ${session} ${seat}`, async () => {
    const list = jsons.map(readEdit);
    const shared = list.find((one) => !one.personal);
    if (shared) throw new Refused(422, `"${shared.label}" changes the session, not a seat; nothing was changed.`);
    const { doc } = await loadSession(session);
    const { state } = await seatAt(session, seat);
    const next = seatOf(list.reduce((d, one) => applyEdit(d, one).doc, seated(doc, state)));
    await keep(session, seat, { state: next });
    publish(session, { kind: 'seat', seat, state: next });
    return next;
  });
}

const KINDS = ['line', 'track', 'bus', 'clip', 'take'];

/** What was selected last, for the next time the session is opened. */
export function keepSelected(session: string, seat: string, selected: unknown): Promise<void> {
  return inTurn(`seat ${session} ${seat}`, async () => {
    const { kind, id } = (selected ?? {}) as { kind?: unknown; id?: unknown };
    const known = typeof kind === 'string' && KINDS.includes(kind) && typeof id === 'string' && id.length <= 200;
    if (selected !== null && !known) throw new Refused(422, 'A selection names a kind and an id, or is null.');
    await keep(session, seat, { selected: selected === null ? null : { kind: kind as string, id: id as string } });
  });
}
