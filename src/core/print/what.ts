import { EditRefused, isBus, type Deliverable, type SessionDoc } from '@/core/session';
import { widthOf } from '@/core/speakers';
import { safeName } from './names';

/** Which files a print has. */
export interface FilesAsked {
  /** Deliverables of the brief that it has; absent: all. */
  only?: readonly string[];
  /** Tracks and buses that are printed beside them, each as it is. */
  beside?: readonly string[];
}

/** Letters of a name that may stand for it in a file name, not among those that are taken. */
function lettersOf(name: string, taken: ReadonlySet<string>): string {
  const letters = safeName(name).replace(/[._]/g, '-').slice(0, 24);
  if (!taken.has(letters.toLowerCase())) return letters;
  for (let i = 2; ; i++) if (!taken.has(`${letters}-${i}`.toLowerCase())) return `${letters}-${i}`;
}

/** Stands before the id of what is printed beside the brief. */
const BESIDE = 'beside-';

/**
 * The session with the files of one print as what the brief asks for. Throws EditRefused for one that is not there. Tracks are
 * printed behind their chains and levels, in their own layouts.
 */
export function withFiles(doc: SessionDoc, { only, beside = [] }: FilesAsked = {}): SessionDoc {
  if (!only && beside.length === 0) return doc;
  const missing = only?.find((id) => !doc.deliverables.some((d) => d.id === id));
  if (missing !== undefined)
    throw new EditRefused('One of the files is not in the brief any more; nothing was printed. Choose again.');
  const deliverables = doc.deliverables.filter((d) => !only || only.includes(d.id));
  const taken = new Set(deliverables.map((d) => d.token.toLowerCase()));
  for (const id of new Set(beside)) {
    const node = doc.tracks.find((t) => t.id === id) ?? doc.buses.find((b) => b.id === id);
    if (!node)
      throw new EditRefused('A track or bus is not in the session any more; nothing was printed. Choose again.');
    if (!isBus(node) && node.print !== undefined)
      throw new EditRefused(`${node.name} holds what was printed; it is not printed again.`);
    const token = lettersOf(node.name, taken);
    taken.add(token.toLowerCase());
    deliverables.push({ id: `${BESIDE}${id}`, bus: id, layout: node.layout, token });
  }
  return { ...doc, deliverables };
}

/** What a file is called for a reader: its bus or track, or that it is a fold-down of one. */
export function whatOf(doc: SessionDoc, d: Deliverable | undefined): string {
  if (!d) return 'a file that the brief has no more';
  const track = doc.tracks.find((t) => t.id === d.bus);
  if (track) return track.name;
  const bus = doc.buses.find((b) => b.id === d.bus);
  if (!bus) return 'a file whose bus is no more';
  if (widthOf(d.layout) >= widthOf(bus.layout)) return bus.name;
  return bus.kind === 'reference' ? `Fold-down of ${bus.name}` : `${bus.name}, folded`;
}
