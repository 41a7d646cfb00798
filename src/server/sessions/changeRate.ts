import path from 'node:path';
import { nanoid } from 'nanoid';
import { safeName } from '@/core/print';
import { atRate, SAMPLE_RATES, type MediaRef } from '@/core/session';
import type { ChangeEvent } from '@/core/wire';
import { makeSessionDir, mediaPath } from '../config';
import { Refused } from '../http';
import { addMedia, mediaHere, mediaOf, toRate, toRef } from '../media';
import { loadSession, refuseWhileRecording, replaceDoc } from './store';
import { keepVersion } from './versions';

/**
 * Converts every file of a session to another rate, beside the old ones, and moves the session over. One undo
 * goes back to the old files. Nothing changes when a file cannot be converted.
 */
export async function changeRate(session: string, sampleRate: number): Promise<ChangeEvent> {
  if (!SAMPLE_RATES.includes(sampleRate as (typeof SAMPLE_RATES)[number]))
    throw new Refused(422, `A session runs at ${SAMPLE_RATES.join(', ')} Hz, not at ${sampleRate}.`);
  const { doc } = await loadSession(session);
  if (doc.format.sampleRate === sampleRate) throw new Refused(409, `The session is at ${sampleRate} Hz already.`);
  // Files are converted for minutes: what would refuse the end of it is asked before.
  await refuseWhileRecording(session, doc, { ...doc, format: { ...doc.format, sampleRate } });
  const rows = (await mediaOf(session)).filter((r) => doc.media[r.id]);
  const made = new Map<string, MediaRef>();
  makeSessionDir(session);
  for (const row of rows) {
    const file = `${safeName(path.parse(row.file).name)}_${sampleRate / 1000}k_${nanoid(4)}.wav`;
    const frames = await toRate(await mediaHere(row), mediaPath(session, file), sampleRate);
    const next = { ...row, id: nanoid(12), file, frames, sampleRate };
    await addMedia(next);
    made.set(row.id, toRef(next));
  }
  await keepVersion(session, `before ${sampleRate / 1000} kHz`, true);
  return replaceDoc(session, `convert to ${sampleRate / 1000} kHz`, (now) => atRate(now, sampleRate, made));
}
