import path from 'node:path';
import type { EditJson, SessionDoc, TakeFacts } from '@/core/session';
import { addMedia, FileSink, inForm, removeFile, toRef } from '../media';
import { serverEdit } from '../sessions';
import { channelsOf, docOf, fileOf, header, PARTS, setRow, type Row } from './row';

/** The edit that enters a recording as a take. */
export function takeEdit(
  row: Row,
  files: { media: ReturnType<typeof toRef>; dry: ReturnType<typeof toRef> | null },
  recovered: boolean,
): EditJson {
  return {
    type: 'addTake',
    id: row.id,
    track: row.track,
    start: row.start,
    ...files,
    chains: row.chains.length ? row.chains : [[]],
    recordedAt: row.startedAt.toISOString(),
    recovered,
    ...(row.purpose ?? {}),
    ...(row.facts ?? {}),
  };
}

/** What the media table says of a part of a recording. */
export const mediaOfPart = (doc: SessionDoc, row: Row, part: (typeof PARTS)[number], frames: number, file: string) => ({
  id: `${row.id}-${part}`,
  session: row.session,
  file,
  kind: part === 'dry' ? ('dry' as const) : ('take' as const),
  channels: row.channels,
  frames,
  sampleRate: row.format?.sampleRate ?? doc.format.sampleRate,
});

/** Enters `frames` frames of a recording as a take, with headers that say so. */
export async function enter(
  doc: SessionDoc,
  row: Row,
  frames: number,
  how: 'finished' | 'recovered' | 'complete',
): Promise<void> {
  const own = docOf(doc, row);
  const refs = [];
  const replaced: string[] = [];
  for (const part of PARTS) {
    const written = fileOf(row, part);
    await putHeader(written, header(doc, row, part, frames));
    if (part === 'dry' && !row.keepDry) continue;
    // One that was cut off may still grow, so it stays as it is written.
    const kept = how === 'finished' ? await inForm(own, written, channelsOf(doc, row)) : written;
    if (kept !== written) replaced.push(written);
    const media = mediaOfPart(doc, row, part, frames, path.basename(kept));
    await addMedia(media);
    refs.push(toRef(media));
  }
  const [media, dry] = refs as [(typeof refs)[0], (typeof refs)[0] | undefined];
  if (how === 'complete') await serverEdit(row.session, { type: 'lengthenTake', take: row.id, frames, ...row.facts });
  else if (doc.tracks.some((t) => t.id === row.track) && !doc.tracks.some((t) => t.takes.some((k) => k.id === row.id)))
    await serverEdit(row.session, takeEdit(row, { media, dry: dry ?? null }, how === 'recovered'));
  await setRow(row.id, { state: how === 'recovered' ? 'recovered' : 'finished', facts: row.facts });
  for (const file of replaced) await removeFile(file);
  // What was cut off may still be completed by the browser: until then its copy is needed.
  if (!row.keepDry && how !== 'recovered') await removeFile(fileOf(row, 'dry'));
}

async function putHeader(file: string, bytes: Uint8Array): Promise<void> {
  const sink = await FileSink.open(file);
  try {
    await sink.put(0, bytes);
    await sink.sync();
  } finally {
    await sink.close();
  }
}

/** Faults of a take as the list of them, once each. */
export const withFault = (facts: TakeFacts | null, fault: string): TakeFacts => ({
  ...facts,
  faults: [...new Set([...(facts?.faults ?? []), fault])],
});
