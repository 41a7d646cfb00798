import { layoutOf, reordering, widthOf, type LayoutId } from '@/core/speakers';
import type { MediaRef, SessionDoc } from './document';

/** For each channel of a track, the channel of a file that it plays; null: one by one. */
export function fileChannels(media: MediaRef | undefined, layout: LayoutId): number[] | null {
  if (!media?.order || media.order === 'wav' || media.channels !== widthOf(layout)) return null;
  return reordering(layoutOf(layout), media.order, 'wav');
}

/** What was said of the order of a file's channels: it goes along with a file that is made from it. */
export const channelsSaid = (media: MediaRef | undefined): Pick<MediaRef, 'order' | 'unsaid'> => ({
  ...(media?.order ? { order: media.order } : {}),
  ...(media?.unsaid ? { unsaid: media.unsaid } : {}),
});

/** Files of a session whose channels do not stand as WAV masks count. */
export const orderedMedia = (doc: SessionDoc): SessionDoc['media'] =>
  Object.fromEntries(Object.entries(doc.media).filter(([, m]) => m.order !== undefined));
