import { nanoid } from 'nanoid';
import { toast } from 'sonner';
import { edit } from '@/client';
import type { Clip, EditJson, SessionDoc } from '@/core/session';

/** What was cut or copied, as it was then: a clip that is gone since can still be placed. */
let kept: readonly { track: string; clip: Clip }[] = [];

const told = (n: number) => (n === 1 ? '1 clip' : `${n} clips`);

function keep(doc: SessionDoc, clips: readonly Clip[]): boolean {
  if (clips.length === 0) {
    toast.message('No clip is chosen.', { id: 'no-clip' });
    return false;
  }
  kept = doc.tracks.flatMap((t) => t.clips.filter((c) => clips.includes(c)).map((clip) => ({ track: t.id, clip })));
  return true;
}

export function copyClips(doc: SessionDoc, clips: readonly Clip[]): void {
  if (keep(doc, clips)) toast.message(`${told(clips.length)} copied.`, { id: 'copied' });
}

export function cutClips(doc: SessionDoc, clips: readonly Clip[]): void {
  const before = kept;
  if (!keep(doc, clips)) return;
  if (edit({ type: 'removeClips', clips: clips.map((c) => c.id) }))
    toast.message(`${told(clips.length)} cut out. Ctrl V places them at the playhead.`, { id: 'copied' });
  else kept = before;
}

/** Places what was cut or copied on the tracks it came from, the first of it at `at` (samples). */
export function pasteClips(at: number): void {
  if (kept.length === 0) return void toast.message('Nothing was cut or copied yet.', { id: 'copied' });
  const first = Math.min(...kept.map((k) => k.clip.start));
  const tracks = [...new Set(kept.map((k) => k.track))];
  edit(
    ...tracks.map((track): EditJson => ({
      type: 'layClips',
      track,
      clips: kept
        .filter((k) => k.track === track)
        .map(({ clip: { media, name, start, offset, length, gain, fadeIn, fadeOut, muted } }) => ({
          id: `copy-${nanoid(8)}`,
          media,
          name,
          start: at + start - first,
          offset,
          length,
          gain,
          ...(fadeIn ? { fadeIn } : {}),
          ...(fadeOut ? { fadeOut } : {}),
          ...(muted ? { muted } : {}),
        })),
    })),
  );
}
