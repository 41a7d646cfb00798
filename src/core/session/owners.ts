import { EditRefused, busOf, trackOf, type SessionDoc, type Stage } from './document';

/** What may have a chain. */
export type OwnerKind = 'line' | 'track' | 'bus';

export interface Owner {
  kind: OwnerKind;
  id: string;
}

/** The chain of a line, track or bus. */
export function chainOf(doc: SessionDoc, owner: Owner): Stage[] {
  if (owner.kind === 'track') return trackOf(doc, owner.id).chain;
  if (owner.kind === 'bus') return busOf(doc, owner.id).chain;
  const line = doc.lines.find((l) => l.id === owner.id);
  if (!line) throw new EditRefused('That line has no chain yet; patch it to a track first.');
  return line.chain;
}
