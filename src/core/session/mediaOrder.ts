import { layoutOf, reordering, widthOf, type LayoutId } from '@/core/speakers';
import type { MediaRef, SessionDoc } from './document';

/** For each channel of a track, the channel of a file that it plays; null: one by one. */
export function fileChannels(media: MediaRef | undefined, layout: LayoutId): number[] | null {
  if (!media?.order || media.order === 'wav' || media.channels !== widthOf(layout)) return null;
  return reordering(layoutOf(layout), media.order, 'wav');
}

/** Files of a session whose channels do not stand as WAV masks count. */
export const orderedMedia = (doc: SessionDoc): SessionDoc['media'] =>
  Object.fromEntries(Object.entries(doc.media).filter(([, m]) => m.order !== undefined));
