import type { Anchor, BusKind, SessionDoc } from './document';
import type { LayoutId } from '@/core/speakers';

/** A row of the track builder: several tracks or buses of one kind. */
export interface BuilderRow {
  id: string;
  count: number;
  layout: LayoutId;
  kind: 'recording' | Exclude<BusKind, 'reference'>;
  anchor: Anchor;
  /** Names by commas or lines, or one pattern: "Voice {n}", "{nn}" with two digits. */
  names: string;
  /** Bus, 'width' for the default of the width, null for nowhere. */
  destination: string | null;
}

/** One track or bus that a row would make. */
export interface PlannedTrack {
  row: string;
  name: string;
  layout: LayoutId;
  kind: BuilderRow['kind'];
  anchor: Anchor;
  destination: string | null;
  /** Another one has this name already. */
  taken: boolean;
}

/** Most that is made in one go. */
export const MOST_TRACKS = 512;

/** Names that stand between commas, semicolons, tabs or lines; in double quotes a name may hold those itself (RFC 4180). */
export const listOfNames = (names: string): string[] =>
  [...names.matchAll(/\s*"((?:[^"]|"")*)"\s*(?=[,;\n\t]|$)|[^,;\n\t]+/g)]
    .map(([plain, quoted]) => (quoted === undefined ? plain : quoted.replaceAll('""', '"')).trim())
    .filter(Boolean);

/** The same names as one text, from which they are read as they were. */
export const namesText = (names: readonly string[]): string =>
  names.map((n) => (/[,;\n\t"]/.test(n) ? `"${n.replaceAll('"', '""')}"` : n)).join(', ');

/** Those who speak in the script, in the order of their first lines. */
export const charactersOf = (doc: SessionDoc): string[] => [
  ...new Set(doc.cues.map((c) => c.character.trim()).filter(Boolean)),
];

/** The name that a pattern or list gives the `index`th of `count`; a single plain name is numbered when it serves several. */
export function nameAt(names: string, index: number, count: number): string {
  const list = listOfNames(names);
  const number = (width: number) => String(index + 1).padStart(width, '0');
  const numbered = (pattern: string) => pattern.replace(/\{(n+)\}/g, (_, n: string) => number(n.length));
  if (list.length > 1) return numbered(list[index] ?? `${list.at(-1)} ${index - list.length + 2}`);
  const pattern = list[0] ?? '';
  if (numbered(pattern) !== pattern) return numbered(pattern);
  return pattern && count > 1 ? `${pattern} ${number(1)}` : pattern;
}

/** What the rows would make, in order; names are compared without case with what is there and with each other. */
export function planRows(doc: SessionDoc, rows: readonly BuilderRow[]): PlannedTrack[] {
  const taken = new Set([...doc.tracks, ...doc.buses].map((t) => t.name.toLowerCase()));
  const planned: PlannedTrack[] = [];
  for (const row of rows) {
    for (let i = 0; i < row.count && planned.length < MOST_TRACKS; i++) {
      const name = nameAt(row.names, i, row.count) || `unnamed ${planned.length + 1}`;
      planned.push({
        row: row.id,
        name,
        layout: row.layout,
        kind: row.kind,
        anchor: row.anchor,
        destination: row.destination === 'width' ? (doc.destinations[row.layout] ?? null) : row.destination,
        taken: taken.has(name.toLowerCase()),
      });
      taken.add(name.toLowerCase());
    }
  }
  return planned;
}
