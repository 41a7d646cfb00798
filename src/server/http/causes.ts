import path from 'node:path';
import { FileFault } from '@/core/files';
import { EditRefused } from '@/core/session';
import { NoSuchPath } from '../config';
import { Refused } from './refused';

interface Answer {
  status: number;
  body: { message: string; [fact: string]: unknown };
}

/** What the file system says, for a reader who is no programmer: what happened, what was kept, what to do. */
const DISK: Readonly<Record<string, { status: number; says: (file: string) => string }>> = {
  ENOENT: {
    status: 410,
    says: (file) =>
      `${file} is missing from the session's folder. Everything else is untouched; put the file back under its name and try again.`,
  },
  ENOSPC: {
    status: 507,
    says: () =>
      'The disk of the server is full. What was stored before is kept, and a recording goes on in this browser. Make room; it is delivered by itself.',
  },
  EDQUOT: {
    status: 507,
    says: () =>
      'The server may store no more on its disk (its quota is used up). What was stored before is kept. Make room and try again.',
  },
  EACCES: {
    status: 403,
    says: (file) =>
      `The server may not use ${file}: its rights do not allow it. Nothing was changed; give the server the right to read and write it.`,
  },
  EPERM: {
    status: 403,
    says: (file) =>
      `The server may not use ${file}: its rights do not allow it. Nothing was changed; give the server the right to read and write it.`,
  },
  EROFS: {
    status: 403,
    says: (file) => `${file} lies on a disk that can only be read. Nothing was changed; choose another data folder.`,
  },
  ENAMETOOLONG: {
    status: 422,
    says: () => 'The name is too long for the disk. Nothing was stored; choose a shorter one.',
  },
  EEXIST: {
    status: 409,
    says: (file) => `${file} is there already, and nothing is written over. Choose another name.`,
  },
  EMFILE: {
    status: 503,
    says: () => 'The server has too many files open at the moment. Nothing was changed; try again.',
  },
  ENFILE: {
    status: 503,
    says: () => 'The machine has too many files open at the moment. Nothing was changed; try again.',
  },
  EIO: {
    status: 500,
    says: (file) => `The disk could not read or write ${file}. What was stored before is kept; look after the disk.`,
  },
  EISDIR: { status: 422, says: (file) => `${file} is a folder where a file should be. Nothing was changed.` },
};

/** The answer to what a handler threw, where its cause is known; null where it is not. */
export function answerTo(error: unknown): Answer | null {
  if (error instanceof NoSuchPath) return { status: 404, body: { message: error.message } };
  if (error instanceof Refused) return { status: error.status, body: { message: error.message, ...error.facts } };
  if (error instanceof EditRefused || error instanceof FileFault)
    return { status: 422, body: { message: error.message } };
  const { code, path: file, cause } = (error ?? {}) as NodeJS.ErrnoException & { cause?: unknown };
  // As the database says it: its code of a full disk, or the system's words where it stopped at its own log.
  const full =
    code === '53100' || /no space left on device|disk quota exceeded/i.test(String((error as Error | null)?.message));
  const known = full ? DISK.ENOSPC : code ? DISK[code] : undefined;
  if (known) return { status: known.status, body: { message: known.says(file ? path.basename(file) : 'The file') } };
  return cause instanceof Error ? answerTo(cause) : null;
}
