import path from 'node:path';
import { formName, plainForm } from '@/core/print';
import type { SessionDoc } from '@/core/session';
import { log } from '../log';
import { removeFile } from './layOut';
import { onThread } from './onThread';

/**
 * Writes a finished interleaved Broadcast WAV in the form that the session asks for, beside it, and gives the new
 * path; the WAV stays until the caller has noted that. Where it cannot be done (an AIFF ends at 4 GB) the WAV is kept
 * and its own path given: sound goes before form.
 */
export async function inForm(doc: SessionDoc, file: string, channels: readonly string[]): Promise<string> {
  if (plainForm(doc)) return file;
  const to = path.join(path.dirname(file), formName(doc, path.parse(file).name, channels));
  if (to === file) return file;
  try {
    await onThread({ task: 'layOut', from: file, to });
    return to;
  } catch (error) {
    log.error({ file, error }, 'a file could not be written in the form of the session; it stays as it is');
    return file;
  }
}

/** The same, and the WAV is gone where another form took its place. */
export async function settle(doc: SessionDoc, file: string, channels: readonly string[]): Promise<string> {
  const to = await inForm(doc, file, channels);
  if (to !== file) await removeFile(file);
  return to;
}
