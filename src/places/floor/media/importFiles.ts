import { nanoid } from 'nanoid';
import { toast } from 'sonner';
import { create } from 'zustand';
import { edit, position, useSession } from '@/client';
import { stemsOf, type EditJson, type MediaRef, type SessionDoc } from '@/core/session';
import { widthOf, type LayoutId } from '@/core/speakers';
import { frameRate, frameToSample, timecodeToFrames } from '@/core/units';

interface Imports {
  /** How many of the files that were given are in, how many there are, and the one that comes now. */
  done: number;
  total: number;
  name: string;
  /** Share of the present file that has arrived, 0 to 1; 1: the server looks at it. */
  share: number;
}

export const useImports = create<Imports>(() => ({ done: 0, total: 0, name: '', share: 0 }));
export const IMPORTED = '.wav,.bwf,.rf64,.aif,.aiff,.aifc,.flac,audio/wav,audio/x-wav,audio/aiff,audio/flac';

interface Answer {
  media: MediaRef;
  layout: LayoutId | null;
  timeReference: number | null;
  notes: string[];
  message?: string;
}

let stopped = false;
export const stopImport = (): void => void (stopped = true);

// fetch tells nothing of how far a body has gone.
function send(file: File, session: string, onShare: (share: number) => void): Promise<Answer> {
  return new Promise((resolve, reject) => {
    const request = new XMLHttpRequest();
    request.open('POST', `/api/sessions/${session}/media?name=${encodeURIComponent(file.name)}`);
    request.upload.onprogress = (e) => onShare(e.lengthComputable ? e.loaded / e.total : 0);
    request.onerror = () => reject(new Error('the server does not answer'));
    request.onload = () => {
      const answer = JSON.parse(request.responseText) as Answer;
      if (request.status >= 400) reject(new Error(answer.message));
      else resolve(answer);
    };
    request.send(file);
  });
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
export function layoutFor(doc: SessionDoc, { media, layout }: Pick<Answer, 'media' | 'layout'>): LayoutId | null {
  const mix = doc.format.layout;
  return media.channels === widthOf(mix) && (layout === null || media.unsaid) ? mix : layout;
}

function enter(file: File, { media, layout: named, timeReference }: Answer, playhead: number): boolean | null {
  const doc = useSession.getState().doc!;
  const layout = layoutFor(doc, { media, layout: named });
  if (!layout) {
    toast.error(
      `${file.name} has ${media.channels} channels; no track can be that wide. The file is in the media folder.`,
    );
    return null;
  }
  const { start, stamped } = placeOf(doc, timeReference, playhead);
  const track = `track-${nanoid(8)}`;
  const name = file.name.replace(/\.\w+$/, '').slice(0, 60);
  const destination = doc.destinations[layout] ?? stemsOf(doc)[0]?.id ?? null;
  const edits: EditJson[] = [
    { type: 'addTrack', id: track, name, layout, destination },
    { type: 'addClip', id: `clip-${nanoid(8)}`, track, start, media },
  ];
  return edit(...edits) ? stamped : null;
}

/** Brings files in one after another, each on a track of its own; what fails is told, and the others go on. */
export async function importFiles(files: readonly File[]): Promise<void> {
  const { id } = useSession.getState();
  const playhead = position();
  const before = useImports.getState();
  stopped = false;
  useImports.setState({ total: before.total + files.length });
  // Those that were given before are still on their way; these wait behind them.
  if (before.total > 0) {
    waiting.push(...files);
    return;
  }
  const failed: string[] = [];
  let [stamped, placed] = [0, 0];
  /** What was noted, and of which files. */
  const notes = new Map<string, string[]>();
  const queue = [...files];
  for (let file = queue.shift(); file && !stopped; file = queue.shift() ?? waiting.shift()) {
    useImports.setState({ name: file.name, share: 0 });
    try {
      const answer = await send(file, id!, (share) => useImports.setState({ share }));
      for (const note of answer.notes) notes.set(note, [...(notes.get(note) ?? []), file.name]);
      const how = enter(file, answer, playhead);
      if (how === null) failed.push(file.name);
      else if (how) stamped++;
      else placed++;
    } catch (error) {
      failed.push(file.name);
      toast.error(`${file.name}: ${(error as Error).message}`, { duration: 10_000 });
    }
    useImports.setState((s) => ({ done: s.done + 1 }));
  }
  waiting.length = 0;
  // Of hundreds of files that are alike one is told, not each.
  for (const [note, names] of notes)
    toast.warning(`${names.length > 2 ? `${names.length} files, ${names[0]} first` : names.join(', ')}: ${note}`);
  useImports.setState({ done: 0, total: 0, name: '', share: 0 });
  const parts = [
    ...(stamped ? [`${stamped} where ${stamped === 1 ? 'its' : 'their'} time reference says`] : []),
    ...(placed ? [`${placed} at the playhead`] : []),
  ];
  if (parts.length)
    toast.message(`Brought in: ${parts.join(', ')}.${failed.length ? ` Not: ${failed.join(', ')}.` : ''}`);
}

const waiting: File[] = [];
