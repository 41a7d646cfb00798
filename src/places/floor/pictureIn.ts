import { toast } from 'sonner';
import { ask, edit, position, useSession } from '@/client';
import type { Picture, SessionDoc } from '@/core/session';
import { sampleOf } from '@/parts';
import { askAbout, type AskedRate } from './media/importFiles';
import { enter, type TakenIn } from './media/entering';

interface Kept {
  file: string;
  facts: { rate: string | null; timecode: string | null; hasSound: boolean } | null;
}

/** A browser that has not found out within this time will not show the picture either (ms). */
const PATIENCE = 20_000;

/** Whether this browser can show a picture: found out before it takes the place of one that it shows. */
export function canShow(file: string): Promise<boolean> {
  const video = document.createElement('video');
  video.muted = true;
  video.preload = 'auto';
  return new Promise<boolean>((resolve) => {
    const timer = setTimeout(() => resolve(false), PATIENCE);
    const done = (well: boolean) => {
      clearTimeout(timer);
      resolve(well);
    };
    // Sound alone has no size.
    video.onloadeddata = () => done(video.videoWidth > 0);
    video.onerror = () => done(false);
    video.src = file;
  }).finally(() => video.removeAttribute('src'));
}

/** Where a picture begins: where its own timecode says, as far as that lies in the session. */
export function startOf(
  doc: SessionDoc,
  timecode: string | null,
): { start: number; by: 'timecode' | 'picture before' | 'session' } {
  if (timecode) {
    try {
      return { start: sampleOf(doc, timecode), by: 'timecode' };
    } catch {
      // It lies before the session, or does not exist at its frame rate.
    }
  }
  return doc.picture ? { start: doc.picture.start, by: 'picture before' } : { start: 0, by: 'session' };
}

const where = (doc: SessionDoc, timecode: string | null, by: ReturnType<typeof startOf>['by']): string =>
  by === 'timecode'
    ? `It begins at ${timecode}, as its own timecode says.`
    : `${timecode ? `Its own timecode, ${timecode}, does not lie in this session: it` : 'It'} begins ${by === 'session' ? `at ${doc.format.startTimecode}` : 'where the picture before it began'}.`;

/** Takes a picture in from a file; what this browser cannot show never takes the place of one that it shows. */
export async function takePictureIn(file: File): Promise<void> {
  const { id } = useSession.getState();
  try {
    const url = `/api/sessions/${id}/picture?name=${encodeURIComponent(file.name)}`;
    const response = await fetch(url, { method: 'POST', body: file });
    const kept = (await response.json()) as Kept & { message?: string };
    if (!response.ok) throw new Error(kept.message);
    if (!(await canShow(kept.file))) {
      await ask(kept.file, undefined, 'DELETE');
      throw new Error(
        'this browser cannot show it. Convert it to H.264 or VP9 (an MP4 or WebM file) and bring it in again. What was shown before stays',
      );
    }
    const { doc } = useSession.getState();
    const { rate = null, timecode = null, hasSound = false } = kept.facts ?? {};
    const { start, by } = startOf(doc!, timecode);
    const told = timecode && /^\d\d:\d\d:\d\d[:;.]\d\d$/.test(timecode) ? { timecode } : {};
    const made = edit({
      type: 'setPicture',
      file: kept.file,
      start,
      ...(rate ? { rate } : {}),
      ...told,
      ...(hasSound ? { sound: true } : {}),
    });
    if (made) toast.message(`${file.name} is the picture now. ${where(doc!, timecode, by)}`);
  } catch (error) {
    toast.error(`${file.name} was not taken in: ${(error as Error).message}.`.replace(/\.\.$/, '.'), {
      duration: 12_000,
    });
  }
}

/** Brings the sound of the picture in, on a track of its own, where the picture stands. */
export async function takePictureSound({ file, start }: Picture): Promise<void> {
  const name = file.split('/').at(-1)!;
  const { id } = useSession.getState();
  try {
    const answer = await ask<TakenIn | { asked: AskedRate }>(`/api/sessions/${id}/picture/${name}/sound`, {});
    if ('asked' in answer) return askAbout(answer.asked, start);
    if (enter('Picture sound', answer, position(), { track: null, at: start }))
      toast.success(`The sound of the picture is in, where the picture stands. ${answer.notes.join(' ')}`);
  } catch (error) {
    toast.error((error as Error).message, { duration: 12_000 });
  }
}
