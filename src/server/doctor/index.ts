// Looks over everything that an installation lives on, and says what to do where something is wrong.
import { execFile } from 'node:child_process';
import { access, constants, readdir, stat, statfs } from 'node:fs/promises';
import path from 'node:path';
import { promisify } from 'node:util';
import { eq, ne } from 'drizzle-orm';
import { partNames } from '@/core/files';
import { wholeDocument } from '@/core/session';
import { dataDir, sessionDir } from '../config';
import { db, tables } from '../database';
import { copies } from '../database/copies';
import { diskPaths, mediaHere, mediaOf, unlike, type MediaRow } from '../media';
import { fetchAnew } from '../objects';
import { checkPrinted } from '../prints';
import { headOf } from '../sessions';
import { sha256 } from '../sha256';

export type Grade = 'good' | 'look' | 'bad';

export interface Finding {
  grade: Grade;
  what: string;
  /** What to do about it; empty where nothing needs to be done. */
  advice: string;
}

const good = (what: string): Finding => ({ grade: 'good', what, advice: '' });
const LEAST_FREE = 5e9;
/** A copy of the database is made every six hours while the server runs. */
const OLD_COPY = 2 * 24 * 3600_000;

/** The data folder: there, writable, with room. */
export async function folderFindings(): Promise<Finding[]> {
  const dir = dataDir();
  const there = await stat(dir).catch(() => null);
  if (!there?.isDirectory())
    return [
      {
        grade: 'bad',
        what: `There is no data folder ${dir}.`,
        advice: 'Name the right one with WIDE_ROOM_DATA, or start the server once.',
      },
    ];
  const writable = await access(dir, constants.R_OK | constants.W_OK).then(
    () => true,
    () => false,
  );
  const { bavail, bsize } = await statfs(dir);
  const free = bavail * bsize;
  return [
    writable
      ? good(`The data folder ${dir} can be read and written.`)
      : {
          grade: 'bad',
          what: `The data folder ${dir} cannot be written.`,
          advice: 'Give the user that runs the server the right to write there.',
        },
    free > LEAST_FREE
      ? good(`${(free / 1e9).toFixed(0)} GB are free.`)
      : {
          grade: 'look',
          what: `Only ${(free / 1e9).toFixed(1)} GB are free.`,
          advice: 'Make room: an hour of 16 lines at 48 kHz and 24 bit takes 8 GB, twice with untouched copies.',
        },
  ];
}

/** Programs beside Node that something needs. */
export async function toolFindings(): Promise<Finding[]> {
  const [major] = process.versions.node.split('.').map(Number);
  const found: Finding[] = [
    major! >= 20
      ? good(`Node ${process.versions.node}.`)
      : { grade: 'bad', what: `Node ${process.versions.node} is too old.`, advice: 'Install Node 20 or later.' },
  ];
  for (const tool of ['ffmpeg', 'ffprobe']) {
    const there = await promisify(execFile)(tool, ['-version']).then(
      ({ stdout }) => stdout.split('\n')[0]!,
      () => null,
    );
    found.push(
      there
        ? good(there)
        : {
            grade: 'look',
            what: `${tool} is not installed.`,
            advice: 'Install it to bring in pictures, and sound other than WAV, AIFF and FLAC.',
          },
    );
  }
  return found;
}

/** Copies of the database: there, and of late. */
export async function copyFindings(now = Date.now()): Promise<Finding[]> {
  const [newest] = copies();
  if (!newest)
    return [
      {
        grade: 'look',
        what: 'There is no copy of the database yet.',
        advice: 'The server makes one two minutes after its start; let it run.',
      },
    ];
  const age = now - (await stat(newest)).mtimeMs;
  const day = path.basename(newest, '.tar.gz');
  return age < OLD_COPY
    ? [good(`${copies().length} copies of the database are kept, the newest of ${day}.`)]
    : [
        {
          grade: 'look',
          what: `The newest copy of the database is of ${day}.`,
          advice: 'The server makes one every six hours while it runs.',
        },
      ];
}

/** Every session: its document whole, its files there and as long as they should be, nothing beside them; its prints as printed. */
export async function* sessionFindings(): AsyncGenerator<Finding> {
  const database = await db();
  const rows = await database.select().from(tables.sessions);
  for (const row of rows) {
    const { id, removedAt } = row;
    const doc = await headOf(row);
    const name = `${doc.name}${removedAt ? ' (in the bin)' : ''}`;
    const faults = [...documentFaults(doc), ...(await fileFaults(id, name)), ...(await printFaults(id, name))];
    yield* faults;
    if (faults.every((f) => f.grade === 'good')) yield good(`${name}: document, files and prints are whole.`);
  }
  const known = new Set(rows.map((r) => r.id));
  for (const dir of await readdir(path.join(dataDir(), 'sessions')).catch(() => []))
    if (!known.has(dir))
      yield {
        grade: 'look',
        what: `The folder sessions/${dir} belongs to no session.`,
        advice: 'If the database was put back from a copy, its files can be brought into a session; else remove it.',
      };
}

function documentFaults(doc: unknown): Finding[] {
  try {
    wholeDocument(doc, 'session');
    return [];
  } catch (error) {
    return [
      {
        grade: 'bad',
        what: (error as Error).message,
        advice: 'Open it and go back to a version, or bring it in from its archive.',
      },
    ];
  }
}

/** In what a file is not what was kept, in words. */
async function inWhat(m: MediaRow): Promise<string[]> {
  const file = await mediaHere(m);
  const other = await unlike(file, m);
  if (other.length > 0 || m.sha256 === null) return other;
  const same = async () => (await sha256(...diskPaths(file))) === m.sha256;
  if (await same()) return [];
  // What another server changed lies here as it was before.
  for (const path of diskPaths(file)) await fetchAnew(path);
  return (await same()) ? [] : ['another checksum'];
}

async function fileFaults(session: string, name: string): Promise<Finding[]> {
  const found: Finding[] = [];
  const media = await mediaOf(session);
  for (const m of media) {
    const other = await inWhat(m).catch((error: Error) => [error.message]);
    if (other.length > 0)
      found.push({
        grade: 'bad',
        what: `${name}: ${m.file} is not as it was: ${other.join(', ')}.`,
        advice: 'Bring it back from a backup, or in the list of files of the session.',
      });
  }
  const { recordings: r } = tables;
  const takes = await (await db()).select({ file: r.file, dry: r.dryFile }).from(r).where(eq(r.session, session));
  const known = new Set([...media.map((m) => m.file), ...takes.flatMap((t) => [t.file, t.dry])].flatMap(partNames));
  const there = await readdir(path.join(sessionDir(session), 'media')).catch(() => []);
  // What stands beside a file of sound is named after it: its peaks.
  const lost = there.filter((f) => /\.(wav|aiff?|flac|bw64|rf64)$/i.test(f) && !known.has(f));
  if (lost.length > 0)
    found.push({
      grade: 'look',
      what: `${name}: ${lost.slice(0, 5).join(', ')}${lost.length > 5 ? ` and ${lost.length - 5} more` : ''} belong to nothing in it.`,
      advice: 'Bring them in if they are missed; else remove them.',
    });
  return found;
}

async function printFaults(session: string, name: string): Promise<Finding[]> {
  const p = tables.prints;
  const rows = await (
    await db()
  )
    .select({ id: p.id, version: p.version, state: p.state })
    .from(p)
    .where(eq(p.session, session));
  const found: Finding[] = [];
  for (const { id, version } of rows.filter((r) => r.state === 'done'))
    await checkPrinted(id).catch((error: Error) =>
      found.push({ grade: 'bad', what: `${name}: print ${version}: ${error.message}`, advice: 'Print it once more.' }),
    );
  return found;
}

/** Recordings that wait for something. */
export async function recordingFindings(): Promise<Finding[]> {
  const r = tables.recordings;
  const rows = await (await db()).select().from(r).where(ne(r.state, 'finished'));
  return rows.flatMap(({ file, state, reason }): Finding[] =>
    state === 'aside'
      ? [
          {
            grade: 'look',
            what: `${file} was set aside: ${reason ?? 'it was read'}`,
            advice: 'Bring it in like any other file.',
          },
        ]
      : state === 'rolling'
        ? [
            {
              grade: 'look',
              what: `${file} is being recorded, or waits for its browser.`,
              advice: 'Open the browser that recorded it: it delivers what is missing.',
            },
          ]
        : [],
  );
}
