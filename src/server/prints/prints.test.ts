// Prints as the server runs them: asked once, and handed over only as they were printed.
import { existsSync, readdirSync, readFileSync, rmSync, utimesSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { freshDataFolder } from '../../../tests/support/dataFolder';
import { eventually } from '../../../tests/support/eventually';
import { FORMAT, monoTrack } from '../../../tests/support/session';
import { eq } from 'drizzle-orm';
import { newSession, type EditJson } from '@/core/session';

const removeFolder = freshDataFolder();
let sessions: typeof import('../sessions');
let prints: typeof import('.');
let database: typeof import('../database');

beforeAll(async () => {
  database = await import('../database');
  sessions = await import('../sessions');
  prints = await import('.');
  await database.openDatabase();
});
afterAll(async () => {
  await prints.closePrints();
  await database.closeDatabase();
  removeFolder();
});

let n = 0;
async function session(...edits: EditJson[]): Promise<string> {
  const id = await sessions.createSession(newSession('Test', 'TS', { ...FORMAT }));
  await sessions.edit(id, `e${n++}`, [monoTrack('a'), { type: 'setRange', start: 0, end: 4800 }, ...edits]);
  return id;
}
const done = async (id: string) => {
  await eventually(async () => expect((await prints.printFacts(id)).state).toMatch(/done|failed|cancelled/));
  return prints.printFacts(id);
};
const dirOf = (id: string) => path.join(process.env.WIDE_ROOM_DATA!, 'sessions', id, 'prints', 'v01');

describe('a print', () => {
  it('is started once, however many ask at the same moment', { timeout: 300_000 }, async () => {
    const id = await session();
    const answers = await Promise.allSettled(
      Array.from({ length: 5 }, () => prints.startPrint(id, { knowingly: true })),
    );
    const begun = answers.flatMap((a) => (a.status === 'fulfilled' ? [a.value] : []));
    expect(begun).toHaveLength(1);
    for (const a of answers)
      if (a.status === 'rejected')
        expect((a.reason as Error).message).toMatch(/of just this is (running|in line) already/);
    expect((await done(begun[0]!.id)).state).toBe('done');
    expect(await prints.listPrints(id)).toHaveLength(1);
  });
  it.each<[string, EditJson[], RegExp]>([
    [
      'a circle',
      [
        { type: 'sendBus', bus: 'nar', destination: 'dia' },
        { type: 'sendBus', bus: 'dia', destination: 'nar' },
      ],
      /run in a circle/,
    ],
    ['a track that reaches no stem', [{ type: 'sendTracks', tracks: ['a'], destination: 'ref' }], /reaches no stem/],
    ['a stem in a stem', [{ type: 'sendBus', bus: 'efx', destination: 'amb' }], /feeds the stem/],
    [
      'a file that is gone',
      [
        {
          type: 'addClip',
          id: 'c',
          track: 'a',
          start: 0,
          media: { id: 'm', name: 'gone.wav', channels: 1, frames: 4800, sampleRate: 48000, kind: 'file' },
        },
      ],
      /gone.wav is not known/,
    ],
  ])('asks here what the page would ask: %s', async (_, edits, message) => {
    const id = await session(...edits);
    await expect(prints.startPrint(id, { knowingly: false })).rejects.toThrow(message);
    expect(await prints.listPrints(id)).toEqual([]);
  });
  describe('handed over', () => {
    let id = '';
    let print = '';
    beforeAll(async () => {
      id = await session();
      print = (await done((await prints.startPrint(id, { knowingly: true })).id)).id;
    }, 90_000);
    const first = () => path.join(dirOf(id), readdirSync(dirOf(id)).sort()[0]!);
    it('comes whole', async () => {
      const { stream } = await prints.archive(print);
      const bytes: Buffer[] = [];
      for await (const piece of stream) bytes.push(piece as Buffer);
      expect(Buffer.concat(bytes).subarray(0, 2).toString()).toBe('PK');
      // A silent print, as the database gives it back: no figure of it became 0 dB.
      const { proof } = await prints.printFacts(print);
      expect(proof!.files.every((f) => f.facts.integrated === -Infinity && f.facts.truePeak === -Infinity)).toBe(true);
      expect(proof!.sum!.difference).toBe(-Infinity);
    });
    it('is refused with the name of a file that was altered, grew or is gone', async () => {
      const file = first();
      const whole = readFileSync(file);
      const other = Buffer.from(whole);
      other[whole.length - 1]! ^= 1;
      writeFileSync(file, other);
      utimesSync(file, new Date(0), new Date(0));
      const name = path.basename(file);
      await expect(prints.archive(print)).rejects.toThrow(new RegExp(`${name} of print 1 was changed: its checksum`));
      writeFileSync(file, Buffer.concat([whole, Buffer.from([0])]));
      await expect(prints.archive(print)).rejects.toThrow(/bytes and had/);
      rmSync(file);
      await expect(prints.archive(print)).rejects.toThrow(/is missing.*print again/s);
    });
  });
  it('of a session at time of day is made late in the evening too', { timeout: 300_000 }, async () => {
    // 23:59:00 at 48 kHz needs 32 bits and a sign.
    const start = 86_340 * 48_000;
    const id = await session(
      { type: 'setFormat', startTimecode: '00:00:00:00' },
      { type: 'setRange', start, end: start + 4800 },
    );
    const print = await done((await prints.startPrint(id, { knowingly: true })).id);
    expect(print).toMatchObject({ state: 'done', start, end: start + 4800 });
    expect(print.proof!.files[0]!.facts.timeReference).toBe(start);
  });
  describe('in line', () => {
    const states = async (ids: readonly string[]) =>
      Promise.all(ids.map(async (id) => (await prints.printFacts(id)).state));
    it('waits behind those of other sessions, and each is made', { timeout: 300_000 }, async () => {
      const all = [await session(), await session(), await session()];
      const begun: string[] = [];
      for (const id of all) begun.push((await prints.startPrint(id, { knowingly: true })).id);
      const line = await prints.openPrints();
      expect(line.map((p) => p.id)).toEqual(begun.filter((id) => line.some((p) => p.id === id)));
      for (const id of begun) expect((await done(id)).state).toBe('done');
      expect(await prints.openPrints()).toEqual([]);
    });
    it('is taken out of it, cancelled while it runs, and printed once more', { timeout: 300_000 }, async () => {
      // An hour: it runs for as long as it is not cancelled.
      const long = await session({ type: 'setRange', start: 0, end: 3600 * 48_000 });
      const first = await prints.startPrint(long, { knowingly: true });
      const second = await prints.startPrint(await session(), { knowingly: true });
      await eventually(async () => expect((await prints.printFacts(first.id)).share).toBeGreaterThan(0));
      expect((await prints.printFacts(second.id)).state).toBe('waiting');
      expect((await prints.cancelPrint(second.id)).state).toBe('cancelled');
      await prints.cancelPrint(first.id);
      expect(await done(first.id)).toMatchObject({ state: 'cancelled', message: expect.stringMatching(/removed/) });
      expect(readdirSync(dirOf(long))).toEqual([]);
      const again = await prints.printAgain(second.id);
      expect(again.version).toBe(second.version + 1);
      expect((await done(again.id)).state).toBe('done');
      await expect(prints.printAgain('none')).rejects.toThrow(/no print/);
    });
    it('is removed with its files, and its number is not given again', { timeout: 300_000 }, async () => {
      const id = await session();
      const made = await done((await prints.startPrint(id, { knowingly: true })).id);
      expect(existsSync(dirOf(id))).toBe(true);
      await prints.removePrint(made.id);
      expect(existsSync(dirOf(id))).toBe(false);
      expect(await prints.listPrints(id)).toEqual([]);
      await expect(prints.printFacts(made.id)).rejects.toThrow(/no print .* any more/);
      const next = await prints.startPrint(id, { knowingly: true });
      expect(next.version).toBe(made.version + 1);
      await expect(prints.removePrint(next.id)).rejects.toThrow(/cancel it first/);
      await done(next.id);
    });
    it(
      'comes into it again after the server stopped; what had begun goes; not for ever',
      { timeout: 300_000 },
      async () => {
        const id = await session();
        const started = await prints.startPrint(id, { knowingly: true });
        const proof = (await done(started.id)).proof!;
        const p = database.tables.prints;
        const cut = async (begun: number) => {
          await (
            await database.db()
          )
            .update(p)
            .set({ state: 'running', proof: null, begun })
            .where(eq(p.id, started.id));
          writeFileSync(path.join(dirOf(id), '.print-1.wav'), 'half');
          await prints.closePrints();
          await prints.resumePrints();
        };
        await cut(1);
        expect(await done(started.id)).toMatchObject({ state: 'done', version: 1 });
        const sums = (x: typeof proof) => x.files.flatMap((f) => f.parts.map((one) => one.bytes));
        expect(sums((await prints.printFacts(started.id)).proof!)).toEqual(sums(proof));
        expect(readdirSync(dirOf(id)).filter((f) => f.startsWith('.'))).toEqual([]);
        await cut(2);
        expect(await states([started.id])).toEqual(['failed']);
        expect((await prints.printFacts(started.id)).message).toMatch(/stopped twice/);
        expect(readdirSync(dirOf(id))).toEqual([]);
      },
    );
  });
});
