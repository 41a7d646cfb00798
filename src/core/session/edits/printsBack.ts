import { Type } from 'class-transformer';
import { ArrayNotEmpty, IsArray, IsInt, IsObject, IsString, Length, Min, ValidateNested } from 'class-validator';
import { layoutOf, widthOf, type LayoutId } from '@/core/speakers';
import { newTrack } from '../create';
import { EditRefused, MONITOR, type SessionDoc } from '../document';
import { placeClip } from '../placing';
import { MediaFacts, plainMedia } from './clips';
import { Edit, IsId, IsLayout } from './edit';

class PrintRow {
  @IsId() track!: string;
  @IsId() clip!: string;
  @IsString() @Length(1, 60) name!: string;
  @IsLayout() layout!: LayoutId;
  @IsObject() @ValidateNested() @Type(() => MediaFacts) media!: MediaFacts;
}

/**
 * Brings the files of a print in again, each on a track of its own where it was printed from: muted, led to the monitor
 * only, and marked, so that nothing takes it for a source.
 */
export class BringPrintBack extends Edit {
  @IsInt() @Min(1) version!: number;
  /** Sample of the timeline at which its files begin. */
  @IsInt() @Min(0) start!: number;
  @IsArray() @ArrayNotEmpty() @ValidateNested({ each: true }) @Type(() => PrintRow) rows!: PrintRow[];

  get label() {
    return `bring print ${this.version} back in`;
  }

  apply(doc: SessionDoc): void {
    for (const { track: id, clip, name, layout, media } of this.rows) {
      if (doc.tracks.some((t) => t.id === id)) throw new EditRefused(`A track "${id}" is there already.`);
      if (media.channels !== widthOf(layout))
        throw new EditRefused(`${media.name} has ${media.channels} channels, ${layoutOf(layout).name} has others.`);
      if (media.sampleRate !== doc.format.sampleRate)
        throw new EditRefused(
          `Print ${this.version} is at ${media.sampleRate} Hz, the session at ${doc.format.sampleRate} Hz by now.`,
        );
      const track = { ...newTrack(id, name, layout, MONITOR), muted: true, print: this.version };
      doc.tracks.push(track);
      doc.media[media.id] = plainMedia(media);
      placeClip(doc, doc.tracks.at(-1)!, {
        ...{ id: clip, media: media.id, name: media.name, start: this.start },
        ...{ offset: 0, length: media.frames, gain: 0 },
      });
    }
  }
}
