import { Type } from 'class-transformer';
import { ArrayNotEmpty, IsArray, IsInt, IsObject, IsString, Length, Min, ValidateNested } from 'class-validator';
import { layoutOf, widthOf, type LayoutId } from '@/core/speakers';
import { newTrack } from '../create';
import { EditRefused, MONITOR, trackOf, type SessionDoc } from '../document';
import { placeClip } from '../placing';
import { MediaFacts, plainMedia } from './clips';
import { Edit, IsId, IsLayout } from './edit';

class PrintClip {
  @IsId() id!: string;
  /** Sample of the timeline at which the file begins, behind its lead-in. */
  @IsInt() @Min(0) start!: number;
  /** Frames of its lead-in. */
  @IsInt() @Min(0) lead!: number;
  @IsObject() @ValidateNested() @Type(() => MediaFacts) media!: MediaFacts;
}

class PrintRow {
  @IsId() track!: string;
  @IsString() @Length(1, 60) name!: string;
  @IsLayout() layout!: LayoutId;
  @IsArray() @ArrayNotEmpty() @ValidateNested({ each: true }) @Type(() => PrintClip) clips!: PrintClip[];
}

/**
 * Brings the files of a print in again, each on a track of its own where it was printed from: muted, led to the monitor
 * only, and marked, so that nothing takes it for a source.
 */
export class BringPrintBack extends Edit {
  @IsInt() @Min(1) version!: number;
  @IsArray() @ArrayNotEmpty() @ValidateNested({ each: true }) @Type(() => PrintRow) rows!: PrintRow[];

  get label() {
    return `bring print ${this.version} back in`;
  }

  apply(doc: SessionDoc): void {
    for (const { track: id, name, layout, clips } of this.rows) {
      if (doc.tracks.some((t) => t.id === id)) throw new EditRefused(`A track "${id}" is there already.`);
      const track = { ...newTrack(id, name, layout, MONITOR), muted: true, print: this.version };
      doc.tracks.push(track);
      for (const clip of clips) this.lay(doc, track.id, layout, clip);
    }
  }

  private lay(doc: SessionDoc, track: string, layout: LayoutId, { id, start, lead, media }: PrintClip): void {
    if (media.channels !== widthOf(layout))
      throw new EditRefused(`${media.name} has ${media.channels} channels, ${layoutOf(layout).name} has others.`);
    if (media.sampleRate !== doc.format.sampleRate)
      throw new EditRefused(
        `Print ${this.version} is at ${media.sampleRate} Hz, the session at ${doc.format.sampleRate} Hz by now.`,
      );
    if (lead >= media.frames) throw new EditRefused(`${media.name} is a lead-in only; there is nothing to hear.`);
    doc.media[media.id] = plainMedia(media);
    placeClip(doc, trackOf(doc, track), {
      ...{ id, media: media.id, name: media.name, start },
      ...{ offset: lead, length: media.frames - lead, gain: 0 },
    });
  }
}
