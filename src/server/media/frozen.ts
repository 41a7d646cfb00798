import { nanoid } from 'nanoid';
import { frozenSpan, safeName } from '@/core/print';
import { freezeFault, frozenFrom, nodeOf, type MediaRef, type SessionDoc } from '@/core/session';
import { widthOf } from '@/core/speakers';
import { makeSessionDir, mediaPath } from '../config';
import { Refused } from '../http';
import { onThread } from './onThread';
import { addMedia, mediaHere, mediaOf, toRef } from './store';

export interface FrozenFile {
  media: MediaRef;
  start: number;
  from: number;
}

/** Told at every twentieth, so that a long one is followed and a short one makes no noise. */
function steps(tell: (share: number) => void): (share: number) => void {
  let told = 0;
  return (share) => {
    if (share - told < 0.05) return;
    told = share;
    tell(share);
  };
}

/** Makes the file that a track or bus is frozen to. Refuses what cannot be frozen, in a sentence. */
export async function frozenFile(
  session: string,
  doc: SessionDoc,
  id: string,
  onShare: (share: number) => void = () => {},
): Promise<FrozenFile> {
  const node = nodeOf(doc, id);
  const fault = freezeFault(doc, node);
  if (fault) throw new Refused(422, fault);
  const paths: [string, string][] = [];
  for (const m of await mediaOf(session)) if (doc.media[m.id]) paths.push([m.id, await mediaHere(m)]);
  const file = `${safeName(doc.code)}_${safeName(node.name)}_frozen_${nanoid(4)}.wav`;
  makeSessionDir(session);
  const task = {
    task: 'freeze' as const,
    doc,
    node: id,
    media: Object.fromEntries(paths),
    to: mediaPath(session, file),
    made: new Date().toISOString(),
  };
  const { frames } = await onThread(task, steps(onShare));
  const row = {
    id: nanoid(12),
    session,
    file,
    kind: 'file' as const,
    channels: widthOf(node.layout),
    frames,
    sampleRate: doc.format.sampleRate,
  };
  await addMedia(row);
  return { media: toRef(row), start: frozenSpan(doc, id).start, from: frozenFrom(doc, node) };
}
