import { Type } from 'class-transformer';
import { ArrayNotEmpty, IsArray, IsInt, IsString, Length, Min, IsObject, ValidateNested } from 'class-validator';
import { layoutOf, widthOf } from '@/core/speakers';
import { settleClips } from '../fades';
import { entryOf } from '../ids';
import { EditRefused, trackOf, type RoomTone, type SessionDoc } from '../document';
import { gapsOf } from '../gaps';
import { MediaFacts } from './clips';
import { Edit, IsId } from './edit';

/** Most clips that filling gaps may make: a typing error must not freeze the session. */
const MOST_CLIPS = 5000;

function toneOf(doc: SessionDoc, id: string): RoomTone {
  const found = doc.shelf.find((t) => t.id === id);
  if (!found) throw new EditRefused('That room tone is not on the shelf any more.');
  return found;
}

/** Puts a room tone that was cut on the shelf. */
export class AddRoomTone extends Edit {
  @IsId() id!: string;
  @IsString() @Length(1, 60) name!: string;
  @IsObject() @ValidateNested() @Type(() => MediaFacts) media!: MediaFacts;

  get label() {
    return 'keep room tone';
  }

  apply(doc: SessionDoc): void {
    if (doc.shelf.some((t) => t.id === this.id)) throw new EditRefused('That room tone is on the shelf already.');
    const { id, name, channels, frames, sampleRate, kind } = this.media;
    doc.media[id] = { id, name, channels, frames, sampleRate, kind };
    doc.shelf.push({ id: this.id, name: this.name, media: id, frames });
  }
}

export class NameRoomTone extends Edit {
  @IsId() tone!: string;
  @IsString() @Length(1, 60) name!: string;

  get label() {
    return 'name room tone';
  }

  apply(doc: SessionDoc): void {
    toneOf(doc, this.tone).name = this.name;
  }
}

/** Takes room tones off the shelf. Clips that use them stay, and so do the files. */
export class RemoveRoomTones extends Edit {
  @IsArray() @ArrayNotEmpty() @IsId({ each: true }) tones!: string[];

  get label() {
    return this.tones.length === 1
      ? 'take room tone off the shelf'
      : `take ${this.tones.length} room tones off the shelf`;
  }

  apply(doc: SessionDoc): void {
    const gone = this.tones.map((id) => toneOf(doc, id));
    doc.shelf = doc.shelf.filter((t) => !gone.includes(t));
  }
}

/** Lays a room tone into every gap of a track within a range, repeated and cut to fit. */
export class FillGaps extends Edit {
  @IsId() tone!: string;
  @IsId() track!: string;
  @IsInt() @Min(0) start!: number;
  @IsInt() @Min(1) end!: number;
  /** Begins the ids of the clips. */
  @IsId() id!: string;

  get label() {
    return 'fill gaps with room tone';
  }

  apply(doc: SessionDoc): void {
    const tone = toneOf(doc, this.tone);
    const track = trackOf(doc, this.track);
    const media = entryOf(doc.media, tone.media);
    if (!media) throw new EditRefused(`The file of ${tone.name} is missing; nothing was filled.`);
    if (media.channels !== widthOf(track.layout))
      throw new EditRefused(
        `${tone.name} has ${media.channels} channels, ${track.name} is ${layoutOf(track.layout).name}; nothing was filled.`,
      );
    const pieces = gapsOf(track, this.start, this.end).flatMap((gap) => {
      const count = Math.ceil((gap.end - gap.start) / tone.frames);
      if (count > MOST_CLIPS)
        throw new EditRefused(`That would be ${count} clips; choose a longer room tone or a shorter range.`);
      return Array.from({ length: count }, (_, i) => {
        const start = gap.start + i * tone.frames;
        return { start, length: Math.min(tone.frames, gap.end - start) };
      });
    });
    if (pieces.length === 0) throw new EditRefused(`${track.name} has no gap in the range.`);
    pieces.forEach((p, i) =>
      track.clips.push({ id: `${this.id}-${i + 1}`, media: tone.media, ...p, offset: 0, gain: 0, name: tone.name }),
    );
    settleClips(doc, track);
  }
}
