import { Type } from 'class-transformer';
import { IsInt, IsObject, Min, ValidateNested } from 'class-validator';
import { widthOf } from '@/core/speakers';
import { busOf, EditRefused, trackOf, type Bus, type SessionDoc, type Track } from '../document';
import { freezeFault } from '../frozen';
import { frozenFrom } from '../frozenFrom';
import { MediaFacts, plainMedia } from './clips';
import { Edit, IsId } from './edit';

/** What a track or bus is frozen to. */
abstract class Freeze extends Edit {
  @IsObject() @ValidateNested() @Type(() => MediaFacts) media!: MediaFacts;
  /** Sample of the timeline at which the file begins. */
  @IsInt() @Min(0) start!: number;
  /** Fingerprint of what the file was made from. */
  @IsInt() from!: number;

  protected freeze(doc: SessionDoc, node: Track | Bus): void {
    const fault = freezeFault(doc, node);
    if (fault) throw new EditRefused(fault);
    if (frozenFrom(doc, node) !== this.from)
      throw new EditRefused(`${node.name} was changed while it was being frozen. It stays as it is; freeze it again.`);
    const { channels, sampleRate, name, frames } = this.media;
    if (channels !== widthOf(node.layout) || sampleRate !== doc.format.sampleRate || frames < 1)
      throw new EditRefused(`${name} does not fit ${node.name}, which stays as it is.`);
    doc.media[this.media.id] = plainMedia(this.media);
    node.frozen = { media: this.media.id, start: this.start, from: this.from };
  }
}

function thaw(node: Track | Bus): void {
  if (!node.frozen) throw new EditRefused(`${node.name} is not frozen; nothing was changed.`);
  delete node.frozen;
}

/** A track plays its sound behind the chain from a file, until something that made it changes. */
export class FreezeTrack extends Freeze {
  @IsId() track!: string;

  get label() {
    return 'freeze track';
  }

  apply(doc: SessionDoc): void {
    this.freeze(doc, trackOf(doc, this.track));
  }
}

/** The track plays from its clips and through its chain again. The file stays among the session's files. */
export class ThawTrack extends Edit {
  @IsId() track!: string;

  get label() {
    return 'thaw track';
  }

  apply(doc: SessionDoc): void {
    thaw(trackOf(doc, this.track));
  }
}

/** A bus plays its sound behind the chain from a file, until something that comes to it or its chain changes. */
export class FreezeBus extends Freeze {
  @IsId() bus!: string;

  get label() {
    return 'freeze bus';
  }

  apply(doc: SessionDoc): void {
    this.freeze(doc, busOf(doc, this.bus));
  }
}

/** The bus plays what comes to it through its chain again. The file stays among the session's files. */
export class ThawBus extends Edit {
  @IsId() bus!: string;

  get label() {
    return 'thaw bus';
  }

  apply(doc: SessionDoc): void {
    thaw(busOf(doc, this.bus));
  }
}
