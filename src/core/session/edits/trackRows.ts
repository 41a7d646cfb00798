import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  ArrayNotEmpty,
  IsArray,
  IsIn,
  IsOptional,
  IsString,
  Length,
  ValidateNested,
} from 'class-validator';
import { LAYOUTS, type LayoutId } from '@/core/speakers';
import { codeFor, newBus, newTrack } from '../create';
import { busOf, EditRefused, MONITOR, referenceOf, stemsOf, trackOf, type Anchor, type SessionDoc } from '../document';
import { MOST_TRACKS, type BuilderRow } from '../trackRows';
import { Edit, IsId } from './edit';

const STEM_HUES = 8;

class NewRow {
  @IsId() id!: string;
  @IsString() @Length(1, 60) name!: string;
  @IsIn(LAYOUTS.map((l) => l.id)) layout!: LayoutId;
  @IsIn(['recording', 'stem', 'bus', 'return']) kind!: BuilderRow['kind'];
  @IsOptional() @IsIn(['time', 'music']) anchor?: Anchor;
  @IsOptional() @IsId() destination!: string | null;
}

/** Makes tracks and buses in one go; all or none. Stems get a deliverable each. */
export class AddTracks extends Edit {
  @IsArray()
  @ArrayNotEmpty()
  @ArrayMaxSize(MOST_TRACKS, { message: `tracks: at most ${MOST_TRACKS} are made in one go` })
  @ValidateNested({ each: true })
  @Type(() => NewRow)
  tracks!: NewRow[];

  get label() {
    return `add ${this.tracks.length} ${this.tracks.length === 1 ? 'track' : 'tracks'}`;
  }

  apply(doc: SessionDoc): void {
    const ids = new Set([...doc.tracks, ...doc.buses].map((t) => t.id));
    for (const row of this.tracks) {
      if (ids.has(row.id)) throw new EditRefused(`The id "${row.id}" is there already; nothing was made.`);
      ids.add(row.id);
    }
    // Buses first: tracks of the same go may be led to them.
    for (const row of this.tracks) if (row.kind !== 'recording') addBus(doc, row);
    for (const row of this.tracks) {
      const to = row.destination ?? null;
      if (to !== null && to !== MONITOR) busOf(doc, to);
      if (row.kind !== 'recording') continue;
      const track = newTrack(row.id, row.name.trim() || row.name, row.layout, to);
      track.anchor = row.anchor ?? 'time';
      doc.tracks.push(track);
    }
  }
}

function addBus(doc: SessionDoc, row: NewRow): void {
  const kind = row.kind as Exclude<BuilderRow['kind'], 'recording'>;
  const code = codeFor(
    row.name,
    doc.buses.map((b) => b.code),
  );
  const used = new Set(stemsOf(doc).map((b) => b.hue));
  const free =
    Array.from({ length: STEM_HUES }, (_, i) => i).find((h) => !used.has(h)) ?? stemsOf(doc).length % STEM_HUES;
  const to = row.destination ?? referenceOf(doc)?.id ?? null;
  const bus = newBus(row.id, row.name, code, kind, kind === 'stem' ? free : -1, row.layout, to);
  const reference = doc.buses.findIndex((b) => b.kind === 'reference');
  doc.buses.splice(reference < 0 ? doc.buses.length : reference, 0, bus);
  if (kind === 'stem')
    doc.deliverables.push({ id: `print-${row.id}`, bus: row.id, layout: row.layout, token: tokenFor(doc, row.name) });
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

class Repeat {
  @IsId() id!: string;
  @IsString() @Length(1, 60) name!: string;
}

/** A prepared track again for each further script: chain, routing, place and hearing, without clips and takes. */
export class RepeatTrack extends Edit {
  @IsId() track!: string;
  @IsArray()
  @ArrayNotEmpty()
  @ArrayMaxSize(MOST_TRACKS)
  @ValidateNested({ each: true })
  @Type(() => Repeat)
  as!: Repeat[];

  get label() {
    return this.as.length === 1 ? 'repeat track' : `repeat track ${this.as.length} times`;
  }

  apply(doc: SessionDoc): void {
    const from = trackOf(doc, this.track);
    const at = doc.tracks.indexOf(from) + 1;
    const made = this.as.map(({ id, name }) => {
      if (doc.tracks.some((t) => t.id === id))
        throw new EditRefused(`The id "${id}" is there already; nothing was made.`);
      const plain = JSON.parse(JSON.stringify(from)) as typeof from;
      const chain = plain.chain.map((s) => ({ ...s, id: `${id}-${s.id}`.slice(0, 80) }));
      // The microphone is the same; only one of them is armed at a time, by hand.
      return { ...plain, id, name, chain, armed: false, soloed: false, clips: [], takes: [] };
    });
    doc.tracks.splice(at, 0, ...made);
  }
}
