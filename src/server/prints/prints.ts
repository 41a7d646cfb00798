import { createReadStream } from 'node:fs';
import { readdir, rm, stat } from 'node:fs/promises';
import { availableParallelism } from 'node:os';
import path from 'node:path';
import type { Worker } from 'node:worker_threads';
import { and, desc, eq, max } from 'drizzle-orm';
import { nanoid } from 'nanoid';
import yazl from 'yazl';
import { printedDoc, safeName, type FileProof, type Proof, type SealedFile } from '@/core/print';
import { beforePrinting, type Check } from '@/core/checks';
import type { SessionDoc } from '@/core/session';
import { appDir, mediaPath, sessionDir } from '../config';
import { db, tables } from '../database';
import { Refused } from '../http';
import { log } from '../log';
import { mediaOf, sourceChecks } from '../media';
import { loadSession, publish } from '../sessions';
import { shared } from '../shared';
import { REPORT_KINDS, reportAs, reportName, type Printed, type ReportKind } from './report';
import type { PrintPhase } from './printJob';
import { sha256 } from './sha256';

type Row = typeof tables.prints.$inferSelect;

export interface PrintFacts {
  id: string;
  version: number;
  state: Row['state'];
  start: number;
  end: number;
  proof: Proof | null;
  message: string | null;
  /** How long the print and its measuring took. */
  milliseconds: number | null;
  phase: PrintPhase | null;
  share: number;
  /** Milliseconds that are likely left; null while unknown. */
  left: number | null;
}

/** At least two parts, at most four; with more than two processors one is left to playing and recording. */
const PRINT_THREADS = Math.max(2, Math.min(4, availableParallelism() - 1));

interface Running {
  worker: Worker;
  phase: PrintPhase;
  share: number;
  began: number;
}

const running = () => shared('prints-running', () => new Map<string, Running>());

// Printing is about half the work, measuring the other.
const overall = (r: Running): number => (r.phase === 'printing' ? r.share / 2 : 0.5 + r.share / 2);

function factsOf(row: Row): PrintFacts {
  const r = running().get(row.id);
  const share = r ? overall(r) : row.state === 'done' ? 1 : 0;
  return {
    id: row.id,
    version: row.version,
    state: row.state,
    start: row.start,
    end: row.end,
    proof: row.proof,
    message: row.message,
    milliseconds: row.seconds,
    phase: r?.phase ?? null,
    share,
    left: r && share > 0.03 ? ((Date.now() - r.began) * (1 - share)) / share : null,
  };
}

async function rowOf(id: string): Promise<Row> {
  const [row] = await (await db()).select().from(tables.prints).where(eq(tables.prints.id, id));
  if (!row) throw new Refused(404, `There is no print "${id}".`);
  return row;
}

export async function listPrints(session: string): Promise<PrintFacts[]> {
  const rows = await (
    await db()
  )
    .select()
    .from(tables.prints)
    .where(eq(tables.prints.session, session))
    .orderBy(desc(tables.prints.version));
  return rows.map(factsOf);
}

export const printFacts = async (id: string): Promise<PrintFacts> => factsOf(await rowOf(id));

const dirOf = (session: string, version: number): string =>
  path.join(sessionDir(session), 'prints', `v${String(version).padStart(2, '0')}`);

/** Paths of a session's files by media. */
export const filesOf = async (session: string): Promise<Record<string, string>> =>
  Object.fromEntries((await mediaOf(session)).map((m) => [m.id, mediaPath(session, m.file)]));

/** What must be passed by knowingly before a session is printed: on the page, here, and on the command line. */
export async function printStops(
  doc: SessionDoc,
  files: Record<string, string>,
): Promise<{ stops: Check[]; lacking: Record<string, string> }> {
  const sources = await sourceChecks(printedDoc(doc), files, doc.range);
  return {
    stops: [...beforePrinting(doc).filter((c) => c.grade === 'stop'), ...sources],
    lacking: Object.fromEntries(sources.map((c) => [c.id.slice('source/'.length), `${c.title}. ${c.why}`])),
  };
}

const starting = () => shared('prints-starting', () => ({ now: false }));

/** Starts a print of the session's range. `knowingly` passes by what stands in the way. */
export async function startPrint(session: string, knowingly: boolean): Promise<PrintFacts> {
  // Before the first wait: of two requests at once one is too late.
  if (starting().now || running().size > 0)
    throw new Refused(409, 'A print is running already; wait for it or cancel it.');
  starting().now = true;
  try {
    return await start(session, knowingly);
  } finally {
    starting().now = false;
  }
}

async function start(session: string, knowingly: boolean): Promise<PrintFacts> {
  const { doc } = await loadSession(session);
  const files = await filesOf(session);
  const { stops, lacking } = await printStops(doc, files);
  if (stops.length && !knowingly)
    throw new Refused(409, `Before printing: ${stops.map((c) => c.title).join('; ')}.`, { stops });
  if (doc.deliverables.length === 0) throw new Refused(422, 'The brief asks for no file; add a deliverable first.');
  const p = tables.prints;
  const [top] = await (
    await db()
  )
    .select({ version: max(p.version) })
    .from(p)
    .where(eq(p.session, session));
  const { start, end } = doc.range;
  const row: Row = {
    id: nanoid(10),
    session,
    version: (top?.version ?? 0) + 1,
    state: 'running',
    start,
    end,
    doc,
    proof: null,
    message: null,
    seconds: null,
    startedAt: new Date(),
  };
  await (await db()).insert(p).values(row);
  launch(
    row,
    files,
    lacking,
    stops.map((c) => `${c.title}. ${c.why}`),
  );
  return factsOf(row);
}

function launch(row: Row, media: Record<string, string>, lacking: Record<string, string>, passedBy: string[]): void {
  // Asked of Node at run time: the bundler would take a worker that it sees for a module of its own.
  const { Worker: Thread } = process.getBuiltinModule('node:worker_threads');
  const worker: Worker = new Thread(path.join(appDir(), 'dist', 'workers', 'print.mjs'), {
    workerData: {
      doc: row.doc,
      media,
      range: { start: row.start, end: row.end },
      version: row.version,
      out: dirOf(row.session, row.version),
      made: row.startedAt.toISOString(),
      threads: PRINT_THREADS,
      lacking,
      passedBy,
    },
  });
  const r: Running = { worker, phase: 'printing', share: 0, began: Date.now() };
  running().set(row.id, r);
  const tell = async () => publish(row.session, { kind: 'print', print: await printFacts(row.id) });
  const end = async (set: Partial<Row>) => {
    if (!running().delete(row.id)) return;
    await (
      await db()
    )
      .update(tables.prints)
      .set({ ...set, seconds: Date.now() - r.began })
      .where(eq(tables.prints.id, row.id));
    await tell();
  };
  worker.on('message', (m: { phase?: PrintPhase; share?: number; proof?: Proof; cancelled?: true; error?: string }) => {
    if (m.phase) {
      Object.assign(r, { phase: m.phase, share: m.share });
      void tell();
    } else if (m.proof) void end({ state: 'done', proof: m.proof });
    else if (m.cancelled)
      void end({ state: 'cancelled', message: 'Cancelled; the files that had begun were removed.' });
    else
      void end({
        state: 'failed',
        message: `The print failed: ${m.error}. The session is unchanged; no file was left behind.`,
      });
  });
  worker.on('error', (error) => {
    log.error(error);
    void end({ state: 'failed', message: `The print failed: ${error.message}. The session is unchanged.` });
  });
  worker.on(
    'exit',
    () => void end({ state: 'failed', message: 'The print ended unexpectedly. The session is unchanged.' }),
  );
}

export async function cancelPrint(id: string): Promise<PrintFacts> {
  const row = await rowOf(id);
  running().get(id)?.worker.postMessage('cancel');
  return factsOf(row);
}

/** Prints that ran when the server stopped are over; what they had begun and not sealed goes. */
export async function endBrokenPrints(): Promise<void> {
  const p = tables.prints;
  const broken = await (
    await db()
  )
    .update(p)
    .set({
      state: 'failed',
      message:
        'The server stopped during this print; what it had begun was removed. Print again; the version counts up.',
    })
    .where(and(eq(p.state, 'running')))
    .returning({ session: p.session, version: p.version });
  for (const { session, version } of broken) {
    const dir = dirOf(session, version);
    const names = await readdir(dir).catch(() => []);
    for (const name of names)
      await rm(path.join(dir, name), { force: true }).catch((error: unknown) => log.warn(error));
  }
}

// Proofs of earlier releases have one file each, without parts.
const sealedOf = (f: FileProof): SealedFile[] => f.parts ?? [f as unknown as SealedFile];

/** What a file is now, where it is not what was printed; null when it is. */
async function unlike(dir: string, f: SealedFile): Promise<string | null> {
  const there = await stat(path.join(dir, f.file)).catch(() => null);
  if (!there) return 'is missing';
  if (there.size !== f.bytes) return `has ${there.size} bytes and had ${f.bytes}`;
  return (await sha256(path.join(dir, f.file))) === f.sha256 ? null : 'was changed: its checksum is another one';
}

/** Throws Refused where a finished print, or one of its files as it was printed, is not there any more. */
export async function checkPrinted(id: string): Promise<{ row: Row; proof: Proof; dir: string; parts: SealedFile[] }> {
  const row = await rowOf(id);
  if (row.state !== 'done' || !row.proof) throw new Refused(409, 'Only a finished print can be downloaded.');
  const dir = dirOf(row.session, row.version);
  const parts = row.proof.files.flatMap(sealedOf);
  for (const f of parts) {
    const why = await unlike(dir, f);
    if (why)
      throw new Refused(
        409,
        `${f.file} of print ${row.version} ${why}. It is not handed over; print again, the version counts up. The other files are untouched in ${dir}.`,
      );
  }
  return { row, proof: row.proof, dir, parts };
}

/** For whom it is and whom to ask are told as they are now: they are no sound. */
async function printedOf(row: Row, proof: Proof): Promise<Printed> {
  const about = await loadSession(row.session).then(
    (now) => now.doc.about,
    () => row.doc.about,
  );
  const { about: _, ...doc } = row.doc;
  return {
    ...{ doc: about ? { ...doc, about } : doc, proof, version: row.version },
    range: { start: row.start, end: row.end },
  };
}

/** The report of a finished print. Throws Refused where it is not finished. */
export async function printReport(id: string, kind: ReportKind): Promise<{ name: string; bytes: Buffer }> {
  const row = await rowOf(id);
  if (row.state !== 'done' || !row.proof) throw new Refused(409, 'Only a finished print has a report.');
  const name = `${safeName(row.doc.code)}_v${String(row.version).padStart(2, '0')}_${reportName(kind)}`;
  return { name, bytes: await reportAs(await printedOf(row, row.proof), kind) };
}

/**
 * A zip with the files, their SHA-256 list and a report; the files are stored, not packed. They are looked at whole
 * before the first byte goes out: an archive with a false checksum, or one that never ends, is none.
 */
export async function archive(id: string): Promise<{ name: string; stream: NodeJS.ReadableStream }> {
  const { row, proof, dir, parts } = await checkPrinted(id);
  const zip = new yazl.ZipFile();
  zip.on('error', (error: Error) => zip.outputStream.emit('error', error));
  for (const f of parts)
    zip.addReadStreamLazy(f.file, { compress: false, size: f.bytes }, (done) =>
      done(null, createReadStream(path.join(dir, f.file))),
    );
  zip.addBuffer(Buffer.from(parts.map((f) => `${f.sha256}  ${f.file}\n`).join('')), 'SHA256SUMS');
  const printed = await printedOf(row, proof);
  for (const kind of REPORT_KINDS) zip.addBuffer(await reportAs(printed, kind), reportName(kind));
  zip.end();
  return { name: `${safeName(row.doc.code)}_v${String(row.version).padStart(2, '0')}.zip`, stream: zip.outputStream };
}
