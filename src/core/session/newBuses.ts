import type { LayoutId, Placement } from '@/core/speakers';
import { codeFor, newBus } from './create';
import { EditRefused, referenceOf, stemsOf, type Bus, type BusKind, type SessionDoc } from './document';

/** What the kinds are called. */
export const KIND_NAMES: Record<BusKind, string> = {
  stem: 'stem',
  bus: 'group',
  return: 'return',
  reference: 'reference',
};

/** Places in the fixed row of stem colours. */
const STEM_HUES = 8;

export interface NewBus {
  id: string;
  name: string;
  kind: BusKind;
  layout: LayoutId;
  /** Absent: to the reference; a reference itself is led nowhere. */
  destination?: string | null;
}

/** The colour that a new stem gets: the first that no other has. */
function freeHue(doc: SessionDoc): number {
  const used = new Set(stemsOf(doc).map((b) => b.hue));
  return Array.from({ length: STEM_HUES }, (_, i) => i).find((h) => !used.has(h)) ?? used.size % STEM_HUES;
}

/**
 * Makes a bus in a draft, before the reference that it leads to; stems and references get a deliverable each. Throws
 * EditRefused when its id is taken.
 */
export function makeBus(doc: SessionDoc, { id, name, kind, layout, destination }: NewBus): Bus {
  if (doc.buses.some((b) => b.id === id) || doc.tracks.some((t) => t.id === id))
    throw new EditRefused(`The id "${id}" is there already; nothing was made.`);
  const to = destination ?? (kind === 'reference' ? null : (referenceOf(doc)?.id ?? null));
  const code = codeFor(
    name,
    doc.buses.map((b) => b.code),
  );
  const bus = newBus(id, name, code, kind, kind === 'stem' ? freeHue(doc) : -1, layout, to);
  const reference = kind === 'reference' ? -1 : doc.buses.findIndex((b) => b.kind === 'reference');
  doc.buses.splice(reference < 0 ? doc.buses.length : reference, 0, bus);
  if (kind === 'stem' || kind === 'reference')
    doc.deliverables.push({ id: `print-${id}`, bus: id, layout, token: tokenFor(doc, name) });
  return bus;
}

/**
 * The layout that a new bus gets unless one chooses: that of the session, since what stands somewhere in the room needs
 * it; of a group whose sources all have one layout from stereo on, and no place of their own, that.
 */
export function proposedLayout(doc: SessionDoc, kind: BusKind, sources: readonly string[]): LayoutId {
  const nodes = [...doc.tracks, ...doc.buses].filter((n) => sources.includes(n.id));
  const [first] = nodes;
  const plain = (p: Placement | null) => p === null || (p.azimuth === 0 && !p.elevation && p.distance === 1);
  const alike = nodes.every((n) => n.layout === first!.layout && plain(n.placement));
  return kind === 'bus' && first && first.layout !== 'mono' && alike ? first.layout : doc.format.layout;
}

/** A name for a new stem or reference, trimmed. Throws EditRefused when it is empty or another bus has it. */
export function freshName(doc: SessionDoc, given: string, what: string): string {
  const name = given.trim();
  if (!name) throw new EditRefused(`A ${what} needs a name; files inherit it.`);
  if (doc.buses.some((b) => b.name.toLowerCase() === name.toLowerCase()))
    throw new EditRefused(`There is a bus "${name}" already; its file would have the same name.`);
  return name;
}

/** Letters for the file name that no other deliverable uses. */
export function tokenFor(doc: SessionDoc, name: string): string {
  const letters =
    name
      .toUpperCase()
      .replace(/[^A-Z0-9]/g, '')
      .slice(0, 3) || 'BUS';
  const taken = new Set(doc.deliverables.map((d) => d.token));
  if (!taken.has(letters)) return letters;
  for (let i = 2; ; i++) if (!taken.has(`${letters}${i}`)) return `${letters}${i}`;
}
