import { toast } from 'sonner';
import { create } from 'zustand';
import { ask, position, useSession } from '@/client';
import { enter, type DropPlace, type Entered, type TakenIn } from './entering';

/** A file at another rate, which waits on the server until one says what shall become of it. */
export interface AskedRate {
  id: string;
  name: string;
  from: number;
  to: number;
}

interface Imports {
  /** How many of the files that were given are in, how many there are, and the one that comes now. */
  done: number;
  total: number;
  name: string;
  /** Share of the present file that has arrived, 0 to 1; 1: the server looks at it. */
  share: number;
  /** Files at other rates: asked about together, once all others are in. */
  asked: readonly AskedRate[];
}

export const useImports = create<Imports>(() => ({ done: 0, total: 0, name: '', share: 0, asked: [] }));
/** What is read here, and what ffmpeg is asked to decode where it is installed. */
export const IMPORTED =
  '.wav,.bwf,.rf64,.aif,.aiff,.aifc,.flac,.mp3,.m4a,.aac,.ogg,.opus,.wma,.ac3,.au,.caf,.w64,audio/*,video/mp4,video/quicktime';

let stopped = false;
export const stopImport = (): void => void (stopped = true);

// fetch tells nothing of how far a body has gone.
function send(file: File, session: string, onShare: (share: number) => void): Promise<TakenIn | { asked: AskedRate }> {
  return new Promise((resolve, reject) => {
    const request = new XMLHttpRequest();
    request.open('POST', `/api/sessions/${session}/media?name=${encodeURIComponent(file.name)}`);
    request.upload.onprogress = (e) => onShare(e.lengthComputable ? e.loaded / e.total : 0);
    request.onerror = () => reject(new Error('the server does not answer'));
    request.onload = () => {
      const answer = JSON.parse(request.responseText) as TakenIn & { message?: string };
      if (request.status >= 400) reject(new Error(answer.message));
      else resolve(answer);
    };
    request.send(file);
  });
}

/** What came of a number of files, told together at their end. */
class Outcome {
  private readonly how = new Map<Exclude<Entered, null>, number>();
  private readonly failed: string[] = [];
  /** What was noted, and of which files. */
  private readonly notes = new Map<string, string[]>();

  took(name: string, { notes }: TakenIn, how: Entered): void {
    for (const note of notes) this.notes.set(note, [...(this.notes.get(note) ?? []), name]);
    if (how === null) this.failed.push(name);
    else this.how.set(how, (this.how.get(how) ?? 0) + 1);
  }

  refused(name: string, error: unknown): void {
    this.failed.push(name);
    toast.error(`${name}: ${(error as Error).message}`, { duration: 10_000 });
  }

  tell(): void {
    // Of hundreds of files that are alike one is told, not each.
    for (const [note, names] of this.notes)
      toast.warning(`${names.length > 2 ? `${names.length} files, ${names[0]} first` : names.join(', ')}: ${note}`);
    const n = (how: Exclude<Entered, null>) => this.how.get(how) ?? 0;
    const parts = [
      ...(n('stamped') ? [`${n('stamped')} where ${n('stamped') === 1 ? 'its' : 'their'} time reference says`] : []),
      ...(n('playhead') ? [`${n('playhead')} at the playhead`] : []),
      ...(n('dropped') ? [`${n('dropped')} where ${n('dropped') === 1 ? 'it was' : 'they were'} let go`] : []),
    ];
    if (parts.length)
      toast.message(`Brought in: ${parts.join(', ')}.${this.failed.length ? ` Not: ${this.failed.join(', ')}.` : ''}`);
  }
}

interface Given {
  file: File;
  drop: DropPlace | null;
  playhead: number;
}

const waiting: Given[] = [];
/** Where files shall stand that are asked about. */
const places = new Map<string, Pick<Given, 'drop' | 'playhead'>>();

/**
 * Brings files in one after another; what fails is told, and the others go on. Those at another rate are asked about once
 * the others are in. `drop`: where they were let go.
 */
export async function importFiles(files: readonly File[], drop: DropPlace | null = null): Promise<void> {
  if (files.length === 0) return;
  const { id } = useSession.getState();
  const { total } = useImports.getState();
  const playhead = position();
  // Only the first goes onto the row: others there would cut it.
  const given = files.map((file, i): Given => ({
    file,
    playhead,
    drop: drop && i > 0 ? { ...drop, track: null } : drop,
  }));
  stopped = false;
  useImports.setState({ total: total + files.length });
  waiting.push(...given);
  // Those that were given before are still on their way; these wait behind them.
  if (total > 0) return;
  const outcome = new Outcome();
  for (let next = waiting.shift(); next && !stopped; next = waiting.shift()) {
    const { file } = next;
    useImports.setState({ name: file.name, share: 0 });
    try {
      const answer = await send(file, id!, (share) => useImports.setState({ share }));
      if ('asked' in answer) {
        places.set(answer.asked.id, next);
        useImports.setState((s) => ({ asked: [...s.asked, answer.asked] }));
      } else outcome.took(file.name, answer, enter(file.name, answer, next.playhead, next.drop));
    } catch (error) {
      outcome.refused(file.name, error);
    }
    useImports.setState((s) => ({ done: s.done + 1 }));
  }
  waiting.length = 0;
  useImports.setState({ done: 0, total: 0, name: '', share: 0 });
  outcome.tell();
}

/** Asks about a file that waits on the server, which was not given here; it shall stand at `at` (samples). */
export function askAbout(asked: AskedRate, at: number): void {
  places.set(asked.id, { drop: { track: null, at }, playhead: at });
  useImports.setState((s) => ({ asked: [...s.asked, asked] }));
}

/** Answers for all files that wait: they are converted and come in, or are left out. */
export async function answerRates(convert: boolean): Promise<void> {
  const { id } = useSession.getState();
  const { asked } = useImports.getState();
  useImports.setState({ asked: [], total: convert ? asked.length : 0 });
  const outcome = new Outcome();
  for (const [i, { id: file, name }] of asked.entries()) {
    const { drop = null, playhead = position() } = places.get(file) ?? {};
    places.delete(file);
    const url = `/api/sessions/${id}/media/${file}`;
    if (!convert) {
      void ask(url, {}, 'DELETE').catch(() => {
        // The server clears what nobody answered for.
      });
      continue;
    }
    useImports.setState({ done: i, name, share: 1 });
    try {
      const taken = await ask<TakenIn>(url, {});
      outcome.took(name, taken, enter(name, taken, playhead, drop));
    } catch (error) {
      outcome.refused(name, error);
    }
  }
  useImports.setState({ done: 0, total: 0, name: '', share: 0 });
  outcome.tell();
}
