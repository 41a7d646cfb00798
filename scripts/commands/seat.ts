import { read } from 'read';
import { knownSeats, removeSeat, setSeat } from '@/server/gate';

async function lineOfInput(): Promise<string> {
  const parts: Buffer[] = [];
  for await (const part of process.stdin) parts.push(part as Buffer);
  return Buffer.concat(parts).toString('utf8').split(/\r?\n/)[0]!;
}

/** A phrase that is typed twice without being shown; from a pipe, its first line. */
async function phrase(): Promise<string> {
  if (!process.stdin.isTTY) return lineOfInput();
  const first = await read({ prompt: 'Pass phrase: ', silent: true });
  if ((await read({ prompt: 'Once more: ', silent: true })) !== first)
    throw new Error('The two are not the same. Nothing was changed.');
  return first;
}

export async function seatAdd(name: string, { role }: { role: string }): Promise<void> {
  await setSeat(name, role, await phrase());
  console.log(`${name} may sign in as ${role}.`);
}

export function seatRemove(name: string): void {
  removeSeat(name);
  console.log(`${name} may not sign in any more; whoever was is out.`);
}

export function seatList(): void {
  const seats = knownSeats();
  if (seats.length === 0) console.log('There is no seat; nobody comes in from another machine.');
  for (const { name, role } of seats) console.log(`${name}  ${role}`);
}
