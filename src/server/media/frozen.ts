import { nanoid } from 'nanoid';
import { frozenSpan, safeName } from '@/core/print';
import { freezeFault, frozenFrom, trackOf, type MediaRef, type SessionDoc } from '@/core/session';
import { widthOf } from '@/core/speakers';
import { mediaPath } from '../config';
import { Refused } from '../http';
import { onThread } from './onThread';
import { addMedia, mediaOf, toRef } from './store';

export interface FrozenFile {
  media: MediaRef;
  start: number;
  from: number;
}

/** Makes the file that a track is frozen to. Refuses what cannot be frozen, in a sentence. */
export async function frozenFile(session: string, doc: SessionDoc, id: string): Promise<FrozenFile> {
  const track = trackOf(doc, id);
  const fault = freezeFault(doc, track);
  if (fault) throw new Refused(422, fault);
  const paths = (await mediaOf(session)).map((m) => [m.id, mediaPath(session, m.file)] as const);
  const file = `${safeName(doc.code)}_${safeName(track.name)}_frozen_${nanoid(4)}.wav`;
  const { frames } = await onThread({
    task: 'freeze',
    doc,
    track: id,
    media: Object.fromEntries(paths),
    to: mediaPath(session, file),
    made: new Date().toISOString(),
  });
  const row = {
    id: nanoid(12),
    session,
    file,
    kind: 'file' as const,
    channels: widthOf(track.layout),
    frames,
    sampleRate: doc.format.sampleRate,
  };
  await addMedia(row);
  return { media: toRef(row), start: frozenSpan(doc, id).start, from: frozenFrom(doc, track) };
}
