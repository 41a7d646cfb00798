import { Type } from 'class-transformer';
import { IsInt, IsObject, Min, ValidateNested } from 'class-validator';
import { widthOf } from '@/core/speakers';
import { EditRefused, trackOf, type SessionDoc } from '../document';
import { freezeFault, frozenFrom } from '../frozen';
import { MediaFacts, plainMedia } from './clips';
import { Edit, IsId } from './edit';

/** A track plays its sound behind the chain from a file, until something that made it changes. */
export class FreezeTrack extends Edit {
  @IsId() track!: string;
  @IsObject() @ValidateNested() @Type(() => MediaFacts) media!: MediaFacts;
  /** Sample of the timeline at which the file begins. */
  @IsInt() @Min(0) start!: number;
  /** Fingerprint of what the file was made from. */
  @IsInt() from!: number;

  get label() {
    return 'freeze track';
  }

  apply(doc: SessionDoc): void {
    const track = trackOf(doc, this.track);
    const fault = freezeFault(doc, track);
    if (fault) throw new EditRefused(fault);
    if (frozenFrom(doc, track) !== this.from)
      throw new EditRefused(`${track.name} was changed while it was being frozen. It stays as it is; freeze it again.`);
    const { channels, sampleRate, name, frames } = this.media;
    if (channels !== widthOf(track.layout) || sampleRate !== doc.format.sampleRate || frames < 1)
      throw new EditRefused(`${name} does not fit ${track.name}; the track stays as it is.`);
    doc.media[this.media.id] = plainMedia(this.media);
    track.frozen = { media: this.media.id, start: this.start, from: this.from };
  }
}

/** The track plays from its clips and through its chain again. The file stays among the session's files. */
export class ThawTrack extends Edit {
  @IsId() track!: string;

  get label() {
    return 'thaw track';
  }

  apply(doc: SessionDoc): void {
    const track = trackOf(doc, this.track);
    if (!track.frozen) throw new EditRefused(`${track.name} is not frozen; nothing was changed.`);
    delete track.frozen;
  }
}
