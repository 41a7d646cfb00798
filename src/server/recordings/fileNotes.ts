import { open } from 'node:fs/promises';
import { eq } from 'drizzle-orm';
import { parseAudio, renotedHeader } from '@/core/files';
import type { Patch, SessionDoc, Take } from '@/core/session';
import { db, tables } from '../database';
import { log } from '../log';
import { diskPaths, FileSource, mediaHere, mediaRow, sealAgain, writeAll } from '../media';
import { loadSession, subscribeAll } from '../sessions';
import { gapNote, USUAL_NOTE } from './notes';

/** The takes that patches touch. */
function touched(doc: SessionDoc, patches: readonly Patch[]): Take[] {
  const found = new Set<Take>();
  for (const { path } of patches) {
    const [root, track, part, take] = path;
    if (root === 'cues') for (const t of doc.tracks.flatMap((x) => x.takes)) if (t.cue) found.add(t);
    if (root !== 'tracks' || part !== 'takes') continue;
    const takes = doc.tracks[track as number]?.takes ?? [];
    for (const t of take === undefined ? takes : takes.slice(take as number, (take as number) + 1)) found.add(t);
  }
  return [...found];
}

/** Whether the file of a take may still grow, and its header with it. */
async function growing(take: string): Promise<boolean> {
  const r = tables.recordings;
  const [row] = await (await db()).select({ state: r.state }).from(r).where(eq(r.id, take));
  return row !== undefined && row.state !== 'finished';
}

/** Writes into the header of a take's file what the session says of it; a file of another kind is left alone. */
async function noteInFile(doc: SessionDoc, take: Take): Promise<void> {
  if (await growing(take.id)) return;
  const row = await mediaRow(take.media);
  let written = false;
  const scene = doc.cues.find((c) => c.id === take.cue)?.number;
  const notes = {
    ...(scene === undefined ? {} : { scene }),
    note: [take.note || USUAL_NOTE, gapNote(take.gaps, doc.format.sampleRate)].filter(Boolean).join('. '),
    circled: take.circled ?? false,
  };
  for (const path of diskPaths(await mediaHere(row))) {
    const source = await FileSource.open(path);
    const header = await parseAudio(source)
      .then((info) => renotedHeader(info, source.size, notes))
      .finally(() => source.close());
    if (!header) continue;
    const handle = await open(path, 'r+');
    await writeAll(handle, header, 0).finally(() => handle.close());
    written = true;
  }
  if (written) await sealAgain(row);
}

/** Keeps what the files of takes say of themselves (circled, note, cue) as the session has it. */
export function followTakes(): () => void {
  let turn: Promise<unknown> = Promise.resolve();
  return subscribeAll((session, event, remote) => {
    if (event.kind !== 'change' || remote) return;
    const { patches } = event.change;
    if (!patches.some((p) => p.path[0] === 'cues' || p.path[2] === 'takes')) return;
    turn = turn
      .then(async () => {
        const { doc } = await loadSession(session);
        for (const take of touched(doc, patches)) await noteInFile(doc, take);
      })
      .catch((error: unknown) => log.warn({ session, error }, 'the notes in the file of a take stay as they were'));
  });
}
