import type { SessionDoc } from './document';

/** More than so many names are counted instead. */
const MOST_NAMES = 2;

const FIELDS = ['track', 'bus', 'line', 'clip', 'cue', 'deliverable', 'marker', 'tone', 'media'] as const;
const LISTS = ['tracks', 'buses', 'clips', 'cues', 'lines', 'order'] as const;

/** Names of everything in a session that has one, by id. */
function namesOf(doc: SessionDoc): Map<string, string> {
  return new Map([
    ...Object.values(doc.media).map((m) => [m.id, m.name] as const),
    ...doc.shelf.map((t) => [t.id, t.name] as const),
    ...doc.markers.map((m) => [m.id, m.name] as const),
    ...doc.cues.map((c) => [c.id, `cue ${c.number}`] as const),
    ...doc.lines.map((l) => [l.id, l.name] as const),
    ...doc.deliverables.map((d) => [d.id, d.token] as const),
    ...doc.buses.map((b) => [b.id, b.name] as const),
    ...doc.tracks.flatMap((t) => [
      ...t.clips.map((c) => [c.id, c.name] as const),
      ...t.takes.map((k) => [k.id, `${t.name}, take ${k.number}`] as const),
      [t.id, t.name] as const,
    ]),
  ]);
}

/**
 * What edits were about, by the names of today: "Narrator", "Boat, Ropes", "12 tracks"; empty where nothing is named.
 * `edits`: as they were made, whatever release made them.
 */
export function subjectOf(doc: SessionDoc, edits: readonly unknown[]): string {
  const names = namesOf(doc);
  const found = new Set<string>();
  for (const json of edits) {
    const one = json as Record<string, unknown>;
    const note = (id: unknown, own?: unknown) => {
      const name = names.get(String(id)) ?? (typeof own === 'string' ? own : undefined);
      if (name) found.add(name);
    };
    if (one.take !== undefined) note(one.take);
    else if (typeof one.id === 'string' && names.has(one.id)) note(one.id);
    else for (const field of FIELDS) if (typeof one[field] === 'string') note(one[field]);
    // Chains name kind and id of their owner, sends its id alone; a lane names the node that it leads.
    if (one.owner) note(typeof one.owner === 'string' ? one.owner : (one.owner as { id: string }).id);
    if (one.target) note((one.target as { node?: string }).node);
    if (typeof one.id === 'string') note(one.id, one.name);
    for (const list of LISTS)
      for (const item of Array.isArray(one[list]) ? (one[list] as unknown[]) : [])
        if (typeof item === 'string') note(item);
        else note((item as { id?: string }).id, (item as { name?: string }).name);
  }
  if (found.size <= MOST_NAMES) return [...found].join(', ');
  return `${[...found][0]!} and ${found.size - 1} more`;
}
