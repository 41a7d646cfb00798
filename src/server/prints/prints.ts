import { readdir } from 'node:fs/promises';
import { availableParallelism } from 'node:os';
import path from 'node:path';
import type { Worker } from 'node:worker_threads';
import { and, asc, eq, inArray, max } from 'drizzle-orm';
import { nanoid } from 'nanoid';
import {
  hullOf,
  printRanges,
  withFiles,
  type FilesAsked,
  type PrintFacts,
  type PrintInLine,
  type Proof,
} from '@/core/print';
import { appDir } from '../config';
import { alone, db, tables } from '../database';
import { Refused } from '../http';
import { log } from '../log';
import { keepFolder, removeFolder, removeKept } from '../objects';
import { loadSession, onOthers, publish, tellOthers } from '../sessions';
import { inTurn } from '../turns';
import { filesOf, printStops } from './before';
import { isDead, keepHold, LOOK_FOR_DEAD, me } from './hold';
import { closeQueue, enqueue, openQueue } from './queue';
import { dirOf, factsOf, printFacts, rowOf, running, type Row, type Running } from './rows';
import type { PrintProgress } from './printJob';

/** At least two parts, at most four; with more than two processors one is left to playing and recording. */
const PRINT_THREADS = Math.max(2, Math.min(4, availableParallelism() - 1));
/** A print that is cancelled ends by itself within this time, or is ended (ms). */
const CANCELS = 600;
/** A print that a server did not survive is begun once more, and then no more. */
const MOST_BEGUN = 2;

// One after another: a version number is given once, and of two requests at once the second sees the first.
const oneByOne = <T>(work: () => Promise<T>): Promise<T> => inTurn('prints', work);

export interface PrintRequest {
  /** Passes by what stands in the way. */
  knowingly: boolean;
  /** What of the brief is printed, and what beside it. */
  files?: FilesAsked;
}

const tell = async (row: Row) => publish(row.session, { kind: 'print', print: await printFacts(row.id) });

/** Puts a print of a session as it is now into line. Throws Refused where something stands in its way. */
export const startPrint = (session: string, request: PrintRequest): Promise<PrintFacts> =>
  oneByOne(() => put(session, request));

async function put(session: string, { knowingly, files: asked }: PrintRequest): Promise<PrintFacts> {
  const { doc: whole, revision } = await loadSession(session);
  const doc = withFiles(whole, asked);
  const { stops } = await printStops(doc, await filesOf(session, doc));
  if (stops.length && !knowingly)
    throw new Refused(409, `Before printing: ${stops.map((c) => c.title).join('; ')}.`, { stops });
  if (doc.deliverables.length === 0) throw new Refused(422, 'The brief asks for no file; add a deliverable first.');
  const ranges = printRanges(doc);
  if (ranges.length === 0) throw new Refused(422, 'There is no range to print; choose another one first.');
  await notTwice(session, revision, doc.deliverables);
  const passedBy = stops.map((c) => `${c.title}. ${c.why}`);
  return insert(session, doc, { ranges, revision, knowingly, passedBy });
}

// A second press of the button means the same print.
async function notTwice(session: string, revision: number, deliverables: readonly { id: string }[]): Promise<void> {
  const p = tables.prints;
  const open = await (
    await db()
  )
    .select()
    .from(p)
    .where(inArray(p.state, ['waiting', 'running']));
  const ids = (list: readonly { id: string }[]) => list.map((d) => d.id).join();
  const same = open.find(
    (r) => r.session === session && r.asked?.revision === revision && ids(r.doc.deliverables) === ids(deliverables),
  );
  if (same)
    throw new Refused(
      409,
      `Print ${same.version} of just this is ${same.state === 'running' ? 'running' : 'in line'} already.`,
    );
}

async function insert(session: string, doc: Row['doc'], asked: NonNullable<Row['asked']>): Promise<PrintFacts> {
  const p = tables.prints;
  const [top] = await (
    await db()
  )
    .select({ version: max(p.version) })
    .from(p)
    .where(eq(p.session, session));
  const row: Row = {
    id: nanoid(10),
    session,
    version: (top?.version ?? 0) + 1,
    state: 'waiting',
    ...hullOf(asked.ranges),
    doc,
    asked,
    begun: 0,
    worker: null,
    seenAt: null,
    proof: null,
    message: null,
    milliseconds: null,
    startedAt: new Date(),
  };
  await (await db()).insert(p).values(row);
  await opened();
  await enqueue(row.id);
  await tell(row);
  return factsOf(row);
}

/** Prints what was printed, or was to be, once more, as the session was then. */
export const printAgain = (id: string): Promise<PrintFacts> =>
  oneByOne(async () => {
    const row = await rowOf(id);
    if (row.state === 'waiting' || row.state === 'running')
      throw new Refused(409, `Print ${row.version} is ${row.state === 'running' ? 'running' : 'in line'} already.`);
    return insert(row.session, row.doc, askedOf(row));
  });

/** What a print was asked for; one of an earlier release had its range alone. */
const askedOf = (row: Row): NonNullable<Row['asked']> =>
  row.asked ?? {
    ranges: [{ name: '', start: row.start, end: row.end }],
    revision: 0,
    knowingly: true,
    passedBy: row.proof?.passedBy ?? [],
  };

async function change(id: string, set: Partial<Row>): Promise<Row> {
  const p = tables.prints;
  const [row] = await (await db()).update(p).set(set).where(eq(p.id, id)).returning();
  await tell(row!);
  return row!;
}

/** Runs a print whose turn it is; one that was cancelled meanwhile is passed over. */
async function run(id: string): Promise<void> {
  const waiting = await rowOf(id).catch(() => null);
  if (waiting?.state !== 'waiting') return;
  // Known from its first moment on: one that is cancelled while its sources are looked at is not begun.
  const r: Running = { share: 0, range: 0, began: Date.now(), cancelled: false, cancel: () => (r.cancelled = true) };
  running().set(id, r);
  const row = await claim(waiting).catch((error: unknown) => {
    running().delete(id);
    throw error;
  });
  if (!row) {
    running().delete(id);
    return;
  }
  // Where nobody else could take it over, nobody needs to be told.
  const beat = alone()
    ? undefined
    : keepHold(id, () => {
        r.lost = true;
        r.cancel();
      });
  try {
    const files = await filesOf(row.session, row.doc);
    const asked = askedOf(row);
    // What is missing now may have been there when it was asked for.
    const { stops, lacking } = await printStops(row.doc, files);
    const sources = stops.filter((c) => c.id.startsWith('source/'));
    if (sources.length && !asked.knowingly)
      throw new Error(`while it waited, ${sources.map((c) => c.title).join('; ')}`);
    if (r.cancelled) await change(id, CANCELLED);
    else await launched(row, r, { media: files, lacking, asked });
  } catch (error) {
    log.error(error);
    await change(id, { state: 'failed', message: failed((error as Error).message) });
  } finally {
    clearInterval(beat);
    running().delete(id);
  }
}

/** Takes a print that waits, unless another process was first. One that is taken over says that it was made when it was begun. */
async function claim(waiting: Row): Promise<Row | null> {
  const p = tables.prints;
  const [row] = await (
    await db()
  )
    .update(p)
    .set({
      ...{ state: 'running', begun: waiting.begun + 1, worker: me(), seenAt: new Date() },
      startedAt: waiting.begun > 0 ? waiting.startedAt : new Date(),
    })
    .where(and(eq(p.id, waiting.id), eq(p.state, 'waiting')))
    .returning();
  if (row) await tell(row);
  return row ?? null;
}

const CANCELLED = { state: 'cancelled', message: 'Cancelled; the files that had begun were removed.' } as const;

const failed = (why: string): string => `The print failed: ${why}. The session is unchanged; no file was left behind.`;

interface Launch {
  media: Record<string, string>;
  lacking: Record<string, string>;
  asked: NonNullable<Row['asked']>;
}

async function launched(row: Row, r: Running, { media, lacking, asked }: Launch): Promise<void> {
  // Asked of Node at run time: the bundler would take a worker that it sees for a module of its own.
  const { Worker: Thread } = process.getBuiltinModule('node:worker_threads');
  const worker: Worker = new Thread(path.join(appDir(), 'dist', 'workers', 'print.mjs'), {
    workerData: {
      doc: row.doc,
      media,
      ranges: asked.ranges,
      version: row.version,
      out: dirOf(row.session, row.version),
      made: row.startedAt.toISOString(),
      threads: PRINT_THREADS,
      lacking,
      passedBy: asked.passedBy,
    },
  });
  r.cancel = () => {
    r.cancelled = true;
    worker.postMessage('cancel');
    setTimeout(() => void worker.terminate(), CANCELS).unref();
  };
  await tell(row);
  const ended = await new Promise<Partial<Row>>((resolve) => {
    worker.on('message', (m: Partial<PrintProgress> & { proof?: Proof; error?: string }) => {
      if (m.proof) resolve({ state: 'done', proof: m.proof });
      else if (m.error !== undefined) resolve({ state: 'failed', message: failed(m.error) });
      else if (m.share !== undefined) {
        Object.assign(r, { share: m.share, range: m.range });
        void tell(row);
      }
    });
    worker.on('error', (error) => {
      log.error(error);
      resolve({ state: 'failed', message: failed(error.message) });
    });
    worker.on('exit', () =>
      resolve({ state: 'failed', message: 'The print ended unexpectedly. The session is unchanged.' }),
    );
  });
  // Another process has taken it over: what is in its folder is that one's.
  if (r.lost) {
    await worker.terminate();
    return;
  }
  if (ended.state === 'done')
    await keepFolder(dirOf(row.session, row.version)).catch((error: Error) =>
      Object.assign(ended, { state: 'failed', proof: null, message: failed(error.message) }),
    );
  const over: Partial<Row> = r.cancelled && ended.state !== 'done' ? CANCELLED : ended;
  if (over.state !== 'done') {
    await worker.terminate();
    await clear(row);
  }
  running().delete(row.id);
  await change(row.id, { ...over, milliseconds: Date.now() - r.began });
}

/** Takes away what a print had begun. Its folder is its own: nothing else lies there. */
async function clear({ session, version }: Pick<Row, 'session' | 'version'>): Promise<void> {
  const dir = dirOf(session, version);
  const names = await readdir(dir).catch(() => []);
  await removeKept(names.map((name) => path.join(dir, name))).catch((error: unknown) => log.warn(error));
}

/** Ends a print that runs, or takes it out of the line. */
export async function cancelPrint(id: string): Promise<PrintFacts> {
  const row = await rowOf(id);
  const p = tables.prints;
  // Unless somebody takes it out of the line at this moment to make it.
  const [gone] = await (
    await db()
  )
    .update(p)
    .set({ state: 'cancelled', message: 'Taken out of the line.' })
    .where(and(eq(p.id, id), eq(p.state, 'waiting')))
    .returning();
  if (gone) {
    await tell(gone);
    return factsOf(gone);
  }
  if (running().has(id)) running().get(id)!.cancel();
  else tellOthers(row.session, { kind: 'cancel', print: id });
  return factsOf(row);
}

/** All prints that wait or run, of any session, in the order in which they come. */
export async function openPrints(): Promise<PrintInLine[]> {
  const p = tables.prints;
  const rows = await (
    await db()
  )
    .select()
    .from(p)
    .where(inArray(p.state, ['waiting', 'running']))
    .orderBy(asc(p.startedAt));
  // What runs was begun after those that wait behind it had come.
  const order = (r: Row) => (r.state === 'running' ? 0 : 1);
  return rows.sort((a, b) => order(a) - order(b)).map((r) => ({ ...factsOf(r), name: r.doc.name }));
}

const opened = () => openQueue(run);

/**
 * Opens the line. Prints that ran or waited when the server stopped come into it again, as the session was when they were asked
 * for; what they had begun and not sealed goes. One that stopped the server twice is over. Beside other processes only those
 * are taken over that nobody makes any more, now and as long as this one runs.
 */
export async function resumePrints(): Promise<void> {
  onOthers({ print: printFacts, cancel: (id) => running().get(id)?.cancel() });
  await opened();
  await takeOver();
  if (!alone()) setInterval(() => void takeOver().catch((error: unknown) => log.warn(error)), LOOK_FOR_DEAD).unref();
}

async function takeOver(): Promise<void> {
  const p = tables.prints;
  const open = await (
    await db()
  )
    .select()
    .from(p)
    .where(inArray(p.state, ['waiting', 'running']))
    .orderBy(asc(p.startedAt));
  for (const row of open) {
    if (running().has(row.id)) continue;
    if (!alone() && row.state === 'running' && !isDead(row)) continue;
    if (row.state === 'waiting' && !alone()) {
      await enqueue(row.id);
      continue;
    }
    await clear(row);
    if (row.begun >= MOST_BEGUN) {
      await change(row.id, {
        state: 'failed',
        message:
          'The server stopped twice during this print; what it had begun was removed. Print again; the version counts up.',
      });
      continue;
    }
    await change(row.id, { state: 'waiting', worker: null });
    await enqueue(row.id);
  }
}

/**
 * Takes a print that is over out of the list, with its files. Its number stays taken: no two prints of a session ever had one
 * name.
 */
export async function removePrint(id: string): Promise<PrintFacts> {
  const row = await rowOf(id);
  if (row.state === 'waiting' || row.state === 'running')
    throw new Refused(
      409,
      `Print ${row.version} is ${row.state === 'running' ? 'running' : 'in line'}; cancel it first.`,
    );
  await removeFolder(dirOf(row.session, row.version));
  const p = tables.prints;
  const [gone] = await (await db()).update(p).set({ state: 'removed', proof: null }).where(eq(p.id, id)).returning();
  const facts = factsOf(gone!);
  publish(row.session, { kind: 'print', print: facts });
  return facts;
}

export const closePrints = closeQueue;
