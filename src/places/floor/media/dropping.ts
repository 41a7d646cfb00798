import { nanoid } from 'nanoid';
import { toast } from 'sonner';
import { edit, docNow } from '@/client';
import { layoutOf, widthOf } from '@/core/speakers';
import { enter, type DropPlace } from './entering';

/** What a dragged file of the session carries: its id. */
const KIND = 'application/x-wide-room-media';

export const carryMedia = (data: DataTransfer, media: string): void => {
  data.setData(KIND, media);
  data.effectAllowed = 'copy';
};

/** The file of the session that is let go; null: files from elsewhere are, or nothing. */
export const mediaCarried = (data: DataTransfer): string | null => data.getData(KIND) || null;

/** Lays a file of the session where it is let go: on the row, where it is as wide, else on a track of its own. */
export function layMedia(media: string, { track, at }: DropPlace): boolean {
  const doc = docNow();
  const file = doc.media[media];
  if (!file) return false;
  const row = doc.tracks.find((t) => t.id === track);
  if (!row) {
    const how = enter(
      file.name,
      {
        media: file,
        layout: file.channels === 1 ? 'mono' : file.channels === 2 ? 'stereo' : null,
        timeReference: null,
        notes: [],
      },
      at,
      { track: null, at },
    );
    return how !== null;
  }
  if (widthOf(row.layout) !== file.channels) {
    toast.error(
      `${file.name} has ${file.channels} ${file.channels === 1 ? 'channel' : 'channels'}, ${row.name} is ${layoutOf(row.layout).name}. Nothing was laid; let it go below the rows for a track of its own.`,
    );
    return false;
  }
  const clip = { id: `clip-${nanoid(8)}`, media, name: file.name, start: at, offset: 0, length: file.frames };
  return edit({ type: 'layClips', track: row.id, clips: [clip] });
}
