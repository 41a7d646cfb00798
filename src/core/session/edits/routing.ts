import { ArrayNotEmpty, IsArray, IsBoolean, IsIn, IsOptional, IsString, Length } from 'class-validator';
import {
  busOf,
  EditRefused,
  isBus,
  MONITOR,
  nodeOf,
  referencesOf,
  stemsOf,
  trackOf,
  type Bus,
  type BusKind,
  type SessionDoc,
} from '../document';
import { freshName, KIND_NAMES, makeBus } from '../newBuses';
import { BUS_PARAMS } from '../params';
import { OptionalPlacement, plainPlacement, type PlacementRef } from './tracks';
import { stemOfTrack, wouldLoop, type Rooms } from '@/core/paths';
import { layoutOf, type LayoutId } from '@/core/speakers';
import { Edit, IsId, IsLayout, IsParam } from './edit';

function checkDestination(doc: SessionDoc, destination: string | null): void {
  if (destination !== null && destination !== MONITOR) busOf(doc, destination);
}

/** Leads tracks to a bus, straight to the monitor, or nowhere (null). */
export class SendTracks extends Edit {
  @IsArray() @ArrayNotEmpty() @IsId({ each: true }) tracks!: string[];
  @IsOptional() @IsId() destination!: string | null;

  get label() {
    return this.tracks.length === 1 ? 'change destination' : `change destination of ${this.tracks.length} tracks`;
  }

  apply(doc: SessionDoc): void {
    const to = this.destination ?? null;
    checkDestination(doc, to);
    for (const track of this.tracks.map((id) => trackOf(doc, id))) track.destination = to;
  }
}

export class SendBus extends Edit {
  @IsId() bus!: string;
  @IsOptional() @IsId() destination!: string | null;

  get label() {
    return 'change bus destination';
  }

  apply(doc: SessionDoc): void {
    const bus = busOf(doc, this.bus);
    const to = this.destination ?? null;
    checkDestination(doc, to);
    // A loop is let in and told by the path audit: the engine leaves the closing link silent.
    bus.destination = to;
  }
}

/** Level at which sounds are sent to a return that is made for them (dB). */
const FIRST_SEND = -12;

/**
 * Makes a bus and leads what it is made for into it. A stem feeds the reference; a group goes on to where most of its
 * sources went; a return gets sends, and comes back in the stem of its sources, apart for each where they have several.
 */
export class AddBus extends Edit {
  @IsId() id!: string;
  @IsString() @Length(1, 40) name!: string;
  @IsIn(['stem', 'bus', 'return', 'reference']) kind!: BusKind;
  /** Absent: that of the session. */
  @IsOptional() @IsLayout() layout?: LayoutId;
  /** Tracks and buses. */
  @IsOptional() @IsArray() @IsId({ each: true }) sources?: string[];

  get label() {
    return `new ${KIND_NAMES[this.kind]} ${this.name}`;
  }

  apply(doc: SessionDoc): void {
    const { id, kind, layout = doc.format.layout } = this;
    const name = freshName(doc, this.name, KIND_NAMES[kind]);
    const sources = (this.sources ?? []).map((s) => nodeOf(doc, s));
    if (kind === 'reference' && sources.length > 0)
      throw new EditRefused('A reference is fed by the stems by itself; nothing else is led into it.');
    const stems = byCount(
      sources.map((s) => (isBus(s) && s.kind === 'stem' ? s.id : stemOfTrack(doc, s.destination)?.id)),
    );
    const onward: Partial<Record<BusKind, string | undefined>> = {
      bus: byCount(sources.map((s) => s.destination))[0] ?? stemsOf(doc)[0]?.id,
      return: stems[0] ?? stemsOf(doc)[0]?.id,
    };
    const bus = makeBus(doc, { id, name, kind, layout, destination: onward[kind] });
    if (kind !== 'return') {
      for (const s of sources) s.destination = id;
      return;
    }
    for (const s of sources)
      s.sends.push({ id: `${id}-${s.id}`, to: id, level: FIRST_SEND, tap: 'after', on: true, placement: null });
    if (stems.length > 1) bus.rooms = 'each stem';
  }
}

/** What is there most often first; nothing does not count. */
function byCount(ids: readonly (string | null | undefined)[]): string[] {
  const counts = new Map<string, number>();
  for (const id of ids) if (id) counts.set(id, (counts.get(id) ?? 0) + 1);
  return [...counts].sort((a, b) => b[1] - a[1]).map(([id]) => id);
}

/** Takes a bus away; what fed it goes where it went. */
export class RemoveBus extends Edit {
  @IsId() bus!: string;

  get label() {
    return 'remove bus';
  }

  override get risky() {
    return true;
  }

  apply(doc: SessionDoc): void {
    const bus = busOf(doc, this.bus);
    if (bus.kind === 'reference' && referencesOf(doc).length === 1)
      throw new EditRefused('The reference stays: it is what the stems must add up to.');
    // What went to a reference goes to the one that stays.
    const onward = bus.kind === 'reference' ? referencesOf(doc).find((r) => r !== bus)!.id : bus.destination;
    for (const track of doc.tracks) if (track.destination === bus.id) track.destination = onward;
    for (const other of doc.buses)
      if (other.destination === bus.id) other.destination = wouldLoop(doc, other.id, onward) ? null : onward;
    for (const node of [...doc.tracks, ...doc.buses]) {
      node.sends = node.sends.filter((s) => s.to !== bus.id);
      for (const stage of node.chain) if (stage.key === bus.id) delete stage.key;
    }
    for (const [layout, to] of Object.entries(doc.destinations)) {
      if (to !== bus.id) continue;
      if (onward === null) delete doc.destinations[layout as LayoutId];
      else doc.destinations[layout as LayoutId] = onward;
    }
    for (const r of referencesOf(doc)) r.leftOut = r.leftOut.filter((id) => id !== bus.id);
    doc.buses = doc.buses.filter((b) => b.id !== bus.id);
    doc.deliverables = doc.deliverables.filter((d) => d.bus !== bus.id);
  }
}

function setRooms(bus: Bus, rooms: Rooms): void {
  if (bus.kind !== 'return') throw new EditRefused(`${bus.name} is no return; only a return is kept apart per stem.`);
  bus.rooms = rooms;
}

function placeBus(bus: Bus, placement: PlacementRef | null): void {
  if (bus.layout !== 'mono' && bus.layout !== 'stereo')
    throw new EditRefused(
      `${bus.name} is ${layoutOf(bus.layout).name}: it goes speaker by speaker and has no place of its own.`,
    );
  bus.placement = placement && plainPlacement(placement);
}

// Files that have its layout follow it; those that are folded into another stay as they were asked for.
function setLayout(doc: SessionDoc, bus: Bus, layout: LayoutId): void {
  if (bus.kind === 'reference')
    throw new EditRefused(`${bus.name} is a reference: it has the layout of the mix, which the brief says.`);
  const was = bus.layout;
  bus.layout = layout;
  if (layout !== 'mono' && layout !== 'stereo') bus.placement = null;
  for (const d of doc.deliverables) {
    if (d.bus !== bus.id || d.layout !== was) continue;
    d.layout = layout;
    if (layout === doc.format.layout) delete d.ownLayout;
    else d.ownLayout = true;
  }
}

export class SetBus extends Edit {
  @IsId() bus!: string;
  @IsOptional() @IsString() @Length(1, 40) name?: string;
  @IsOptional() @IsParam(BUS_PARAMS.trim) trim?: number;
  @IsOptional() @IsParam(BUS_PARAMS.level) level?: number;
  @IsOptional() @IsBoolean() muted?: boolean;
  @IsOptional() @IsIn(['shared', 'each stem']) rooms?: Rooms;
  @IsOptional() @IsBoolean() throughSolo?: boolean;
  @IsOptional() @IsLayout() layout?: LayoutId;
  /** Null: speaker by speaker. */
  @OptionalPlacement() placement?: PlacementRef | null;

  get label() {
    const what = (['name', 'trim', 'level', 'muted', 'rooms', 'throughSolo', 'layout', 'placement'] as const).find(
      (k) => this[k] !== undefined,
    );
    return `set bus ${what ?? ''}`.trim();
  }

  apply(doc: SessionDoc): void {
    const bus = busOf(doc, this.bus);
    if (this.name !== undefined) bus.name = this.name.trim() || bus.name;
    if (this.level !== undefined) bus.level = this.level;
    if (this.muted !== undefined) bus.muted = this.muted;
    if (this.trim !== undefined) bus.trim = this.trim;
    if (this.throughSolo !== undefined) bus.throughSolo = this.throughSolo;
    if (this.rooms !== undefined) setRooms(bus, this.rooms);
    if (this.layout !== undefined) setLayout(doc, bus, this.layout);
    if (this.placement !== undefined) placeBus(bus, this.placement);
  }
}
