import { moved } from '@/core/speakers';
import { stageKind } from '@/core/stages';
import { EditRefused, isBus, stemsOf, type Bus, type SessionDoc, type Track } from './document';
import type { EditJson } from './edits';
import type { OwnerKind } from './owners';
import { BUS_PARAMS, inLimits, TRACK_PARAMS, type Param } from './params';
import { nameAt } from './trackRows';

/** Rows that an action goes to: tracks and buses, in document order. */
export const rowsOfIds = (doc: SessionDoc, ids: ReadonlySet<string>): (Track | Bus)[] =>
  [...doc.tracks, ...doc.buses].filter((n) => ids.has(n.id));

const setRow = (node: Track | Bus, part: { name?: string; level?: number; muted?: boolean }): EditJson =>
  isBus(node) ? { type: 'setBus', bus: node.id, ...part } : { type: 'setTrack', track: node.id, ...part };

const ownerOf = (node: Track | Bus): { kind: OwnerKind; id: string } => ({
  kind: isBus(node) ? 'bus' : 'track',
  id: node.id,
});

/** A level or trim for many: set to a value, or changed by one (dB). Rounded to a hundredth, as fields show a tenth. */
export interface LevelChange {
  way: 'to' | 'by';
  db: number;
}

/** Throws EditRefused that names the first row whose value would lie beyond the limits. */
function within(param: Param, name: string, value: number): number {
  if (inLimits(param, value)) return value;
  throw new EditRefused(
    `${name} would stand at ${value} ${param.unit}; ${param.label.toLowerCase()} goes from ${param.min} to ${param.max}. Nothing was changed.`,
  );
}

const changed = (from: number, { way, db }: LevelChange): number =>
  way === 'to' ? db : Math.round((from + db) * 100) / 100;

/** Edits that set or change the levels of rows. One that goes beyond its limits is refused when they are made, all of them. */
export const levelEdits = (rows: readonly (Track | Bus)[], change: LevelChange): EditJson[] =>
  rows.map((r) =>
    setRow(r, { level: within((isBus(r) ? BUS_PARAMS : TRACK_PARAMS).level, r.name, changed(r.level, change)) }),
  );

/** The same for the trims of the buses among rows; tracks have none. */
export const trimEdits = (rows: readonly (Track | Bus)[], change: LevelChange): EditJson[] =>
  rows
    .filter(isBus)
    .map((b) => ({ type: 'setBus', bus: b.id, trim: within(BUS_PARAMS.trim, b.name, changed(b.trim, change)) }));

export const muteEdits = (rows: readonly (Track | Bus)[], muted: boolean): EditJson[] =>
  rows.map((r) => setRow(r, { muted }));

export const soloEdits = (rows: readonly (Track | Bus)[], soloed: boolean): EditJson[] =>
  rows.map((r) => (isBus(r) ? { type: 'seatBus', bus: r.id, soloed } : { type: 'seatTrack', track: r.id, soloed }));

/** Leads rows to a bus, the monitor or nowhere (null); the bus itself stays where it is. */
export function destinationEdits(rows: readonly (Track | Bus)[], destination: string | null): EditJson[] {
  const tracks = rows.filter((r) => !isBus(r)).map((t) => t.id);
  return [
    ...(tracks.length > 0 ? [{ type: 'sendTracks' as const, tracks, destination }] : []),
    ...rows
      .filter(isBus)
      .filter((b) => b.id !== destination)
      .map((b): EditJson => ({ type: 'sendBus', bus: b.id, destination })),
  ];
}

/** A send from each row that has none there yet, at a level (dB). */
export const sendEdits = (rows: readonly (Track | Bus)[], to: string, level: number): EditJson[] =>
  rows
    .filter((r) => r.id !== to && !r.sends.some((s) => s.to === to))
    .map((r) => ({ type: 'addSend', owner: r.id, id: freshSend(r, to), to, level }));

function freshSend(row: Track | Bus, to: string): string {
  const base = `${row.id}-to-${to}`.slice(0, 70);
  for (let i = 1; ; i++) {
    const id = i === 1 ? base : `${base}-${i}`;
    if (!row.sends.some((s) => s.id === id)) return id;
  }
}

/**
 * New names by a pattern: {name} is the old one, {n}, {nn}, … a number from 1. Throws EditRefused when a name would be
 * empty, or two rows would have the same.
 */
export function renameEdits(doc: SessionDoc, rows: readonly (Track | Bus)[], pattern: string): EditJson[] {
  const unknown = [...pattern.matchAll(/\{([^}]*)\}/g)].map((m) => m[1]!).find((t) => !/^(name|n+)$/.test(t));
  if (unknown !== undefined)
    throw new EditRefused(
      `There is no {${unknown}}; {name} is the old name, {n} or {nn} a number. Nothing was renamed.`,
    );
  const names = rows.map((r, i) => nameOf(pattern, r.name, i, rows.length));
  const others = [...doc.tracks, ...doc.buses].filter((n) => !rows.includes(n)).map((n) => n.name.toLowerCase());
  const seen = new Set(others);
  for (const name of names) {
    if (!name) throw new EditRefused('A name would be empty. Nothing was renamed.');
    if (seen.has(name.toLowerCase()))
      throw new EditRefused(`"${name}" would be there twice; put {n} into the pattern. Nothing was renamed.`);
    seen.add(name.toLowerCase());
  }
  return rows.map((r, i) => setRow(r, { name: names[i]! }));
}

// What stands in a name is no pattern: braces and commas of the old one stay as they are.
function nameOf(pattern: string, old: string, index: number, count: number): string {
  return pattern
    .split('{name}')
    .map((part) => part.replace(/\{(n+)\}/g, (token) => nameAt(token, index, count)))
    .join(old)
    .trim();
}

/** A stage for the end of each row's chain, with values that differ from its defaults. */
export function addStageEdits(
  rows: readonly (Track | Bus)[],
  type: string,
  values: Record<string, number>,
): EditJson[] {
  const kind = stageKind(type);
  return rows.flatMap((r): EditJson[] => {
    const owner = ownerOf(r);
    const stage = freshStage(r, type);
    const set = Object.keys(values).some((k) => kind.params.some((p) => p.id === k));
    return [
      { type: 'addStage', owner, id: stage, stage: type },
      ...(set ? [{ type: 'setStage' as const, owner, stage, values }] : []),
    ];
  });
}

function freshStage(row: Track | Bus, type: string): string {
  const base = `${row.id}-${type}`.slice(0, 70);
  for (let i = 1; ; i++) {
    const id = i === 1 ? base : `${base}-${i}`;
    if (!row.chain.some((s) => s.id === id)) return id;
  }
}

/** Takes all stages of a kind out of the rows' chains. */
export const removeStageEdits = (rows: readonly (Track | Bus)[], type: string): EditJson[] =>
  rows.flatMap((r) =>
    r.chain
      .filter((s) => s.type === type)
      .map((s): EditJson => ({ type: 'removeStage', owner: ownerOf(r), stage: s.id })),
  );

/** The chain of one row for others: in the place of theirs, or behind it. */
export function copyChainEdits(
  from: Track | Bus,
  rows: readonly (Track | Bus)[],
  way: 'replace' | 'append',
): EditJson[] {
  const to = rows.filter((r) => r !== from).map(ownerOf);
  if (to.length === 0) return [];
  if (way === 'replace') return [{ type: 'copyChain', owner: ownerOf(from), to }];
  return from.chain.map((s): EditJson => ({ type: 'copyChain', owner: ownerOf(from), to, stage: s.id }));
}

/**
 * What stands on a reference is carried by its stems in its place: each gets a copy at the end of its chain, the
 * reference none. Then the stems add up to it, as far as the stage is linear.
 */
export function carryOnStems(doc: SessionDoc, reference: Bus, stage: string): EditJson[] {
  const to = stemsOf(doc)
    .filter((s) => !reference.leftOut.includes(s.id))
    .map(ownerOf);
  if (to.length === 0) return [];
  return [
    { type: 'copyChain', owner: ownerOf(reference), to, stage },
    { type: 'removeStage', owner: ownerOf(reference), stage },
  ];
}

/** Tracks and mono or stereo returns among rows that have a place, at a new one where it is given. */
export function placeEdits(rows: readonly (Track | Bus)[], part: { azimuth?: number; distance?: number }): EditJson[] {
  return rows.flatMap((r): EditJson[] => {
    if ((r.layout !== 'mono' && r.layout !== 'stereo') || r.placement === null) return [];
    const placement = moved(r.placement, part);
    return [isBus(r) ? { type: 'setBus', bus: r.id, placement } : { type: 'placeTrack', track: r.id, placement }];
  });
}

/** The edit that lets a track or bus play from what feeds it again. */
export const thawEdit = (node: Track | Bus): EditJson =>
  isBus(node) ? { type: 'thawBus', bus: node.id } : { type: 'thawTrack', track: node.id };
