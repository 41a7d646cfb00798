import { hasRooms, MONITOR } from '@/core/paths';
import { isBus, isFresh, KIND_NAMES, type Bus, type SessionDoc, type Track } from '@/core/session';
import { layoutOf } from '@/core/speakers';
import { stageKind } from '@/core/stages';
import { formatDb } from '@/core/units';

/** A row of the table, in words. */
export interface RowFacts {
  id: string;
  node: Track | Bus;
  name: string;
  kind: string;
  layout: string;
  to: string;
  /** The bus that it goes to, for its tag. */
  toBus: Bus | undefined;
  level: number;
  trim: number | null;
  chain: string;
  sends: string;
  lanes: string;
  place: string;
  printed: string;
}

const laneNames = (doc: SessionDoc, id: string): string =>
  Object.values(doc.lanes)
    .filter((l) => l.target.node === id)
    .map((l) => (l.target.send ? 'send' : l.target.param))
    .filter((name, i, all) => all.indexOf(name) === i)
    .join(', ');

function placeOf(node: Track | Bus): string {
  if ((node.layout !== 'mono' && node.layout !== 'stereo') || node.placement === null) return '';
  const { azimuth, distance } = node.placement;
  const side = azimuth === 0 ? '0°' : `${azimuth > 0 ? 'L' : 'R'} ${Math.abs(Math.round(azimuth))}°`;
  return distance === 1 ? side : `${side}, ${distance.toFixed(2)}`;
}

function destinationOf(doc: SessionDoc, node: Track | Bus): string {
  if (isBus(node) && hasRooms(node)) return 'its stems';
  if (node.destination === MONITOR) return 'monitor';
  return doc.buses.find((b) => b.id === node.destination)?.name ?? '–';
}

/** Every track and bus as a row, in the order of the session: sources, then buses as sound runs through them. */
export function rowFacts(doc: SessionDoc): RowFacts[] {
  const order: Record<Bus['kind'], number> = { bus: 0, return: 1, stem: 2, reference: 3 };
  const buses = [...doc.buses].sort((a, b) => order[a.kind] - order[b.kind]);
  return [...doc.tracks, ...buses].map((node) => ({
    id: node.id,
    node,
    name: node.name,
    kind: isBus(node) ? KIND_NAMES[node.kind] : 'source',
    layout: layoutOf(node.layout).name,
    to: destinationOf(doc, node),
    toBus: isBus(node) && hasRooms(node) ? undefined : doc.buses.find((b) => b.id === node.destination),
    level: node.level,
    trim: isBus(node) ? node.trim : null,
    chain: chainOf(doc, node),
    sends: node.sends
      .filter((s) => s.on)
      .map((s) => `${doc.buses.find((b) => b.id === s.to)?.name ?? s.to} ${formatDb(s.level)}`)
      .join(', '),
    lanes: laneNames(doc, node.id),
    place: placeOf(node),
    printed: doc.deliverables
      .filter((d) => d.bus === node.id)
      .map((d) => `${d.token} ${layoutOf(d.layout).name}`)
      .join(', '),
  }));
}

function chainOf(doc: SessionDoc, node: Track | Bus): string {
  const stages = node.chain.filter((s) => s.on).map((s) => stageKind(s.type).name);
  if (isBus(node) && node.kind === 'reference' && node.linked?.on)
    stages.push(`linked limiting ${formatDb(node.linked.ceiling)}`);
  if (node.frozen) stages.unshift(isFresh(doc, node) ? 'frozen' : 'frozen, changed since');
  return stages.join(' · ');
}

/** Rows that are often picked together. */
export const PICKS: readonly { label: string; of(doc: SessionDoc): string[] }[] = [
  { label: 'all sources', of: (doc) => doc.tracks.map((t) => t.id) },
  { label: 'all stems', of: (doc) => ids(doc, ['stem']) },
  { label: 'all stems and references', of: (doc) => ids(doc, ['stem', 'reference']) },
  { label: 'all groups and returns', of: (doc) => ids(doc, ['bus', 'return']) },
];

const ids = (doc: SessionDoc, kinds: readonly Bus['kind'][]): string[] =>
  doc.buses.filter((b) => kinds.includes(b.kind)).map((b) => b.id);
