import { stat } from 'node:fs/promises';
import { parseAudio } from '@/core/files';
import { sourceCheck, usesOf, type Check } from '@/core/checks';
import { entryOf, type MediaRef, type SessionDoc } from '@/core/session';
import { diskPaths, openFile } from './fileSource';

/** What of a file's outside tells that it is another one: size and time of its last change, of each part. */
export async function stampOf(file: string): Promise<string> {
  const parts = await Promise.all(diskPaths(file).map((p) => stat(p)));
  return parts.map((s) => `${s.size}/${s.mtimeMs}/${s.ino}`).join(' ');
}

/** What is wrong with a file that the session relies on; null when it is there, as long and wide as it should be. */
async function faultOfFile(file: string, ref: MediaRef): Promise<string | null> {
  let source;
  try {
    source = await openFile(file);
  } catch (error) {
    return (error as NodeJS.ErrnoException).code === 'ENOENT'
      ? 'is missing'
      : `cannot be opened (${(error as Error).message})`;
  }
  try {
    const info = await parseAudio(source);
    if (info.sampleRate !== ref.sampleRate || info.channels !== ref.channels)
      return `has ${info.channels} channels at ${info.sampleRate} Hz now, and had ${ref.channels} at ${ref.sampleRate}`;
    if (info.frames < ref.frames)
      return `ends ${((ref.frames - info.frames) / ref.sampleRate).toFixed(2)} s before its end: it was cut short`;
    return null;
  } catch (error) {
    return `cannot be read any more (${(error as Error).message})`;
  } finally {
    await source.close();
  }
}

/** Findings on the files that a range of the session is made of; asked before they are printed. */
export async function sourceChecks(
  doc: SessionDoc,
  files: Readonly<Record<string, string>>,
  range: { start: number; end: number },
): Promise<Check[]> {
  const found: Check[] = [];
  for (const [media, uses] of usesOf(doc, range)) {
    const ref = entryOf(doc.media, media);
    const file = entryOf(files, media);
    const fault = !ref || !file ? 'is not known to the server' : await faultOfFile(file, ref);
    if (!fault) continue;
    found.push(sourceCheck(doc, media, fault, uses));
  }
  return found;
}
