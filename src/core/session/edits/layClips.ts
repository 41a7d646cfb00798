import { Type } from 'class-transformer';
import {
  ArrayNotEmpty,
  IsArray,
  IsBoolean,
  IsInt,
  IsObject,
  IsOptional,
  IsString,
  Length,
  Min,
  ValidateNested,
} from 'class-validator';
import { layoutOf, widthOf } from '@/core/speakers';
import { EditRefused, trackOf, type SessionDoc } from '../document';
import { entryOf } from '../ids';
import { placeClip } from '../placing';
import { CLIP_PARAMS } from '../params';
import { FadeRef, plainFade } from './clipShape';
import { Edit, IsId, IsParam } from './edit';

class LaidClip {
  @IsId() id!: string;
  /** A file of the session. */
  @IsId() media!: string;
  @IsString() @Length(1, 200) name!: string;
  @IsInt() @Min(0) start!: number;
  @IsInt() @Min(0) offset!: number;
  @IsInt() @Min(1) length!: number;
  @IsOptional() @IsParam(CLIP_PARAMS.gain) gain?: number;
  @IsOptional() @IsObject() @ValidateNested() @Type(() => FadeRef) fadeIn?: FadeRef;
  @IsOptional() @IsObject() @ValidateNested() @Type(() => FadeRef) fadeOut?: FadeRef;
  @IsOptional() @IsBoolean() muted?: boolean;
}

/** Lays pieces of files that the session has onto a track; what lies under them gives way. */
export class LayClips extends Edit {
  @IsId() track!: string;
  @IsArray() @ArrayNotEmpty() @ValidateNested({ each: true }) @Type(() => LaidClip) clips!: LaidClip[];

  get label() {
    return this.clips.length === 1 ? 'lay a clip' : `lay ${this.clips.length} clips`;
  }

  apply(doc: SessionDoc): void {
    const track = trackOf(doc, this.track);
    for (const { id, media: file, name, start, offset, length, gain = 0, fadeIn, fadeOut, muted } of this.clips) {
      const media = entryOf(doc.media, file);
      if (!media) throw new EditRefused('That file is not in the session any more.');
      if (media.channels !== widthOf(track.layout))
        throw new EditRefused(
          `${media.name} has ${media.channels} channels, ${track.name} is ${layoutOf(track.layout).name}.`,
        );
      if (offset + length > media.frames)
        throw new EditRefused(`${media.name} ends before the clip "${name}" does; nothing was laid.`);
      if (doc.tracks.some((t) => t.clips.some((c) => c.id === id)))
        throw new EditRefused(`A clip "${id}" is there already.`);
      placeClip(doc, track, {
        id,
        media: file,
        start,
        offset,
        length,
        gain,
        name,
        ...(fadeIn ? { fadeIn: plainFade(fadeIn) } : {}),
        ...(fadeOut ? { fadeOut: plainFade(fadeOut) } : {}),
        ...(muted ? { muted } : {}),
      });
    }
  }
}
