import { nanoid } from 'nanoid';
import { toast } from 'sonner';
import { edit, docNow } from '@/client';
import { stemsOf, type EditJson, type MediaRef, type SessionDoc } from '@/core/session';
import { layoutOf, widthOf, type LayoutId } from '@/core/speakers';
import { frameRate, frameToSample, timecodeToFrames } from '@/core/units';

/** A file that the server has taken in. */
export interface TakenIn {
  media: MediaRef;
  layout: LayoutId | null;
  timeReference: number | null;
  notes: string[];
}

/** Where files were let go: a row, where there is one, and a time. */
export interface DropPlace {
  track: string | null;
  at: number;
}

/** Where a file stands: by its time reference when that lies in the session, otherwise at `playhead`. */
export function placeOf(
  doc: SessionDoc,
  timeReference: number | null,
  playhead: number,
): { start: number; stamped: boolean } {
  const rate = frameRate(doc.format.frameRate);
  const zero = frameToSample(timecodeToFrames(doc.format.startTimecode, rate), rate, doc.format.sampleRate);
  const at = timeReference === null ? -1 : timeReference - zero;
  return at >= 0 ? { start: at, stamped: true } : { start: Math.round(playhead), stamped: false };
}

/** What a file is taken for: the layout that it names, or that of the mix where it is as wide and names none. */
export function layoutFor(doc: SessionDoc, { media, layout }: Pick<TakenIn, 'media' | 'layout'>): LayoutId | null {
  const mix = doc.format.layout;
  return media.channels === widthOf(mix) && (layout === null || media.unsaid) ? mix : layout;
}

/** How a file came to stand where it stands; null: it does not, and it was said why. */
export type Entered = 'stamped' | 'playhead' | 'dropped' | null;

function ownTrack(doc: SessionDoc, name: string, layout: LayoutId, start: number, media: MediaRef): EditJson[] {
  const track = `track-${nanoid(8)}`;
  const destination = doc.destinations[layout] ?? stemsOf(doc)[0]?.id ?? null;
  return [
    { type: 'addTrack', id: track, name, layout, destination },
    { type: 'addClip', id: `clip-${nanoid(8)}`, track, start, media },
  ];
}

/**
 * Puts a file that was taken in onto the timeline: on the row it was let go on, else on a track of its own; where it was
 * let go, else by its time reference, else at `playhead` (samples).
 */
export function enter(name: string, taken: TakenIn, playhead: number, drop: DropPlace | null): Entered {
  const doc = docNow();
  const { media } = taken;
  const row = doc.tracks.find((t) => t.id === drop?.track);
  if (row && widthOf(row.layout) === media.channels)
    return edit({ type: 'addClip', id: `clip-${nanoid(8)}`, track: row.id, start: drop!.at, media }) ? 'dropped' : null;
  if (row)
    toast.message(
      `${name} has ${media.channels} ${media.channels === 1 ? 'channel' : 'channels'}, ${row.name} is ${layoutOf(row.layout).name}: it has a track of its own.`,
    );
  const layout = layoutFor(doc, taken);
  if (!layout) {
    toast.error(`${name} has ${media.channels} channels; no track can be that wide. The file is in the media folder.`);
    return null;
  }
  const { start, stamped } = placeOf(doc, drop ? null : taken.timeReference, drop?.at ?? playhead);
  const called = name.replace(/\.\w+$/, '').slice(0, 60);
  if (!edit(...ownTrack(doc, called, layout, start, media))) return null;
  return drop ? 'dropped' : stamped ? 'stamped' : 'playhead';
}
