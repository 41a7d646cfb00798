import { EditRefused, type Clip, type SessionDoc, type Track } from '../document';

/** A clip with the track it lies on. Throws EditRefused when it is gone. */
export function clipOf(doc: SessionDoc, id: string): { clip: Clip; track: Track } {
  for (const track of doc.tracks) {
    const clip = track.clips.find((c) => c.id === id);
    if (clip) return { clip, track };
  }
  throw new EditRefused('That clip is not in the session any more.');
}

/** The same for a clip that is about to change. */
export function freeClip(doc: SessionDoc, id: string): { clip: Clip; track: Track } {
  const found = clipOf(doc, id);
  if (found.clip.locked) throw new EditRefused(`${found.clip.name} is locked; unlock it first.`);
  return found;
}
