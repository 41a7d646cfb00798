// Who may come from another machine: seats with a role, each with a pass phrase of which only a hash is kept.
import { randomBytes } from 'node:crypto';
import { chmodSync, existsSync, mkdirSync, readFileSync, renameSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { argon2id, argon2Verify } from 'hash-wasm';
import { dataDir } from '../config';
import { Refused } from '../http/refused';

/** An engineer changes everything, a listener hears and sees. */
export type Role = 'engineer' | 'listener';
export const ROLES: readonly Role[] = ['engineer', 'listener'];

export interface KnownSeat {
  name: string;
  role: Role;
  /** Argon2id, encoded with its salt and parameters. */
  hash: string;
}

/** Shorter phrases are guessed. */
export const LEAST_PHRASE = 12;
const MOST_PHRASE = 200;
const NAME = /^[\p{L}\p{N} ._-]{1,30}$/u;
/** RFC 9106, section 4: the second recommended option (64 MiB, three passes), on one lane. */
const COST = { parallelism: 1, iterations: 3, memorySize: 65_536, hashLength: 32 };

/** Several servers of a house share one, wherever their own folders are. */
const file = (): string => path.resolve(process.env.WIDE_ROOM_SEATS ?? path.join(dataDir(), 'seats.json'));

/** Every seat that there is. They lie in a file of their own: a command changes them while the server runs. */
export function knownSeats(): KnownSeat[] {
  if (!existsSync(file())) return [];
  return (JSON.parse(readFileSync(file(), 'utf8')) as { seats: KnownSeat[] }).seats;
}

function write(seats: readonly KnownSeat[]): void {
  mkdirSync(path.dirname(file()), { recursive: true });
  const part = `${file()}.part`;
  writeFileSync(part, `${JSON.stringify({ format: 'wide-room-seats', version: 1, seats }, null, 2)}\n`, {
    mode: 0o600,
  });
  chmodSync(part, 0o600);
  renameSync(part, file());
}

const same = (a: string, b: string): boolean => a.toLowerCase() === b.toLowerCase();

/** Makes a seat, or gives one a new role and phrase. Throws Refused with what is wrong. */
export async function setSeat(name: string, role: string, phrase: string): Promise<void> {
  const called = name.trim();
  if (!NAME.test(called))
    throw new Refused(
      422,
      'A seat has a name of up to 30 letters, digits, spaces, dots and dashes. Nothing was changed.',
    );
  if (!ROLES.includes(role as Role))
    throw new Refused(
      422,
      `A seat is that of ${ROLES.map((r) => `a${r === 'engineer' ? 'n' : ''} ${r}`).join(' or ')}, not of "${role}". Nothing was changed.`,
    );
  if (phrase.length < LEAST_PHRASE || phrase.length > MOST_PHRASE)
    throw new Refused(
      422,
      `A pass phrase has ${LEAST_PHRASE} to ${MOST_PHRASE} characters; a few words do well. Nothing was changed.`,
    );
  const hash = await argon2id({ ...COST, password: phrase, salt: randomBytes(16), outputType: 'encoded' });
  write([...knownSeats().filter((s) => !same(s.name, called)), { name: called, role: role as Role, hash }]);
}

/** Takes a seat away; whoever is signed in with it is out at once. Throws Refused where there is none. */
export function removeSeat(name: string): void {
  const seats = knownSeats();
  const left = seats.filter((s) => !same(s.name, name));
  if (left.length === seats.length) throw new Refused(404, `There is no seat "${name}". Nothing was changed.`);
  write(left);
}

/** A phrase that nobody has, hashed as dearly as one that somebody has: a name that is wrong takes as long as a phrase. */
let nobody: Promise<string> | null = null;

/** The seat of a name and a phrase; null where they do not belong together. */
export async function seatBy(name: string, phrase: string): Promise<KnownSeat | null> {
  nobody ??= argon2id({ ...COST, password: 'nobody', salt: randomBytes(16), outputType: 'encoded' });
  const found = knownSeats().find((s) => same(s.name, name.trim()));
  const right = await argon2Verify({
    password: phrase.slice(0, MOST_PHRASE + 1) || ' ',
    hash: found?.hash ?? (await nobody),
  });
  return found && right ? found : null;
}
