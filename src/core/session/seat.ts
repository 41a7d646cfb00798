import type { Bus, InputHearing, Monitor, Seat, SessionDoc, Track } from './document';

/** The cookie by which a browser says whose seat it is. */
export const SEAT_COOKIE = 'wide-room-seat';

export const NEW_MONITOR: Readonly<Monitor> = { level: -12, dimmed: false, muted: false };

/** How somebody begins who comes to a session for the first time. */
export const newSeat = (doc?: SessionDoc): Seat =>
  structuredClone(doc?.newcomer ?? { soloed: [], armed: [], hearing: {}, monitor: { ...NEW_MONITOR } });

/** How a track's input is heard where nothing else is said: a guide is no input. */
export const hearingOf = (track: Pick<Track, 'hearing' | 'guide'>): InputHearing =>
  track.hearing ?? (track.guide ? 'never' : 'armed');

export const monitorOf = (doc: SessionDoc): Monitor => doc.monitor ?? NEW_MONITOR;

interface Bits {
  armed?: true;
  soloed?: true;
  hearing?: InputHearing;
}

// A track that is as before must be the same object as before: what is drawn of it is not drawn again.
const laid = new WeakMap<Track | Bus, { key: string; with: Track | Bus }>();

function lay<T extends Track | Bus>(node: T, bits: Bits): T {
  const key = JSON.stringify(bits);
  if (key === '{}') return node;
  const known = laid.get(node);
  if (known?.key === key) return known.with as T;
  const made = Object.freeze({ ...node, ...bits }) as unknown as T;
  laid.set(node, { key, with: made });
  return made;
}

/** A document as it is seen and heard from a seat; nothing of it is stored with the session. */
export function seated(doc: SessionDoc, seat: Seat): SessionDoc {
  const [armed, soloed] = [new Set(seat.armed), new Set(seat.soloed)];
  const tracks = doc.tracks.map((t) =>
    lay(t, {
      ...(armed.has(t.id) ? { armed: true } : {}),
      ...(soloed.has(t.id) ? { soloed: true } : {}),
      ...(Object.hasOwn(seat.hearing, t.id) ? { hearing: seat.hearing[t.id]! } : {}),
    }),
  );
  const buses = doc.buses.map((b) => lay(b, soloed.has(b.id) ? { soloed: true } : {}));
  return Object.freeze({
    ...doc,
    monitor: seat.monitor,
    tracks: sameItems(doc.tracks, tracks),
    buses: sameItems(doc.buses, buses),
  });
}

const sameItems = <T>(a: T[], b: T[]): T[] => (a.every((x, i) => x === b[i]) ? a : (Object.freeze(b) as T[]));

/** The seat that lies over a document. */
export const seatOf = (doc: SessionDoc): Seat => ({
  soloed: [...doc.tracks, ...doc.buses].filter((n) => n.soloed).map((n) => n.id),
  armed: doc.tracks.filter((t) => t.armed).map((t) => t.id),
  hearing: Object.fromEntries(doc.tracks.flatMap((t) => (t.hearing ? [[t.id, t.hearing]] : []))),
  monitor: { ...monitorOf(doc) },
});
