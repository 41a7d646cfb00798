import { eq } from 'drizzle-orm';
import { db, tables } from '../database';
import { Refused } from '../http';
import { shared } from '../shared';
import { publish, type Here, type PersonHere } from './events';
import { onOthers, tellOthers, type WindowBeat } from './others';

/** Colours that people may have: places in the interface's row of them. */
const PEOPLE_HUES = 6;
const LONGEST_NAME = 30;

export interface Person {
  name: string;
  hue: number;
}

/** Who sits at a browser; until they have come to a session they have no name and the first colour. */
export async function personOf(seat: string): Promise<Person> {
  const [row] = await (await db()).select().from(tables.people).where(eq(tables.people.seat, seat));
  return row ? { name: row.name, hue: row.hue } : { name: '', hue: 0 };
}

export async function namesOf(): Promise<Map<string, string>> {
  const rows = await (await db()).select().from(tables.people);
  return new Map(rows.filter((r) => r.name).map((r) => [r.seat, r.name]));
}

/** Keeps the name and colour of a browser, and tells those who are here. */
export async function namePerson(seat: string, { name, hue }: { name?: unknown; hue?: unknown }): Promise<Person> {
  if (name !== undefined && (typeof name !== 'string' || name.trim().length > LONGEST_NAME))
    throw new Refused(422, `A name has up to ${LONGEST_NAME} letters; yours was kept as it was.`);
  if (hue !== undefined && !(Number.isInteger(hue) && (hue as number) >= 0 && (hue as number) < PEOPLE_HUES))
    throw new Refused(422, `There are ${PEOPLE_HUES} colours, numbered from 0; yours was kept as it was.`);
  // Only what was given is written: a name and a colour that are sent at the same moment both stay.
  const given = {
    ...(name === undefined ? {} : { name: name.trim() }),
    ...(hue === undefined ? {} : { hue: hue as number }),
  };
  const { people } = tables;
  if (Object.keys(given).length > 0)
    await (
      await db()
    )
      .insert(people)
      .values({ seat, name: '', hue: 0, ...given })
      .onConflictDoUpdate({ target: people.seat, set: given });
  const person = await personOf(seat);
  for (const [session, windows] of here())
    if ([...windows.values()].some((w) => w.seat === seat)) await tellHere(session);
  return person;
}

interface Window {
  seat: string;
  until: number;
  /** A take rolls in it. */
  recording: boolean;
}

/** A window that has not been heard of for so long is gone (ms); windows tell of themselves more often. */
const GONE_AFTER = 60_000;
const here = () => shared('people-here', () => new Map<string, Map<string, Window>>());

function windowsOf(session: string): Map<string, Window> {
  const windows = here().get(session) ?? new Map<string, Window>();
  here().set(session, windows);
  for (const [id, w] of windows) if (w.until < Date.now()) windows.delete(id);
  return windows;
}

/** Seats that have the session open. */
export const seatsHere = (session: string): string[] => [
  ...new Set([...windowsOf(session).values()].map((w) => w.seat)),
];

export async function peopleHere(session: string): Promise<PersonHere[]> {
  return Promise.all(seatsHere(session).map(async (seat) => ({ seat, ...(await personOf(seat)) })));
}

/** Who has the session open, and in which windows a take rolls. */
export async function hereNow(session: string): Promise<Here> {
  const people = await peopleHere(session);
  const recording = [...windowsOf(session)].flatMap(([window, w]) =>
    w.recording ? [{ window, seat: w.seat, name: people.find((p) => p.seat === w.seat)?.name ?? '' }] : [],
  );
  return { people, recording };
}

const tellHere = async (session: string): Promise<void> =>
  publish(session, { kind: 'here', ...(await hereNow(session)) });

const seenOf = (session: string): string =>
  JSON.stringify([seatsHere(session).sort(), [...windowsOf(session)].filter(([, w]) => w.recording).map(([id]) => id)]);

// Who comes for the first time gets a colour that nobody here has.
async function freeColour(session: string, seat: string): Promise<void> {
  const p = tables.people;
  const [known] = await (await db()).select().from(p).where(eq(p.seat, seat));
  if (known) return;
  const taken = new Set((await peopleHere(session)).filter((o) => o.seat !== seat).map((o) => o.hue));
  const free = Array.from({ length: PEOPLE_HUES }, (_, hue) => hue).find((hue) => !taken.has(hue)) ?? 0;
  await (await db()).insert(p).values({ seat, name: '', hue: free }).onConflictDoNothing();
}

/** A window of a seat has the session open (and records, or not), or has it no more. */
export async function noteHere(
  session: string,
  seat: string,
  window: string,
  { going = false, recording = false }: { going?: boolean; recording?: boolean },
): Promise<Here> {
  const beat: WindowBeat = { kind: 'window', window, seat, going, recording };
  tellOthers(session, beat);
  if (!going) await freeColour(session, seat);
  await noted(session, beat);
  return hereNow(session);
}

async function noted(session: string, { window, seat, going, recording }: WindowBeat): Promise<void> {
  const before = seenOf(session);
  const windows = windowsOf(session);
  if (going) windows.delete(window);
  else windows.set(window, { seat, until: Date.now() + GONE_AFTER, recording });
  if (seenOf(session) !== before) await tellHere(session);
}

onOthers({ window: noted });
