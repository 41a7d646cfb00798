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
import { type LayoutId } from '@/core/speakers';
import { newTrack } from '../create';
import { makeBus } from '../newBuses';
import { busOf, EditRefused, MONITOR, trackOf, type Anchor, type SessionDoc } from '../document';
import { MOST_TRACKS, type BuilderRow } from '../trackRows';
import { Edit, IsId, IsLayout } from './edit';

class NewRow {
  @IsId() id!: string;
  @IsString() @Length(1, 60) name!: string;
  @IsLayout() layout!: LayoutId;
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
    for (const row of this.tracks) if (row.kind !== 'recording') makeBus(doc, { ...row, kind: row.kind });
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
      const sends = plain.sends.map((s) => ({ ...s, id: `${id}-${s.id}`.slice(0, 80) }));
      // The microphone is the same; only one of them is armed at a time, by hand.
      return { ...plain, id, name, chain, sends, clips: [], takes: [] };
    });
    doc.tracks.splice(at, 0, ...made);
  }
}
