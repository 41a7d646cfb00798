import { CHANNEL_ORDERS, type ChannelOrder } from '@/core/speakers';
import {
  ArrayNotEmpty,
  IsArray,
  IsBoolean,
  IsIn,
  IsInt,
  IsOptional,
  IsString,
  Length,
  Matches,
  Min,
} from 'class-validator';
import { entryOf } from '../ids';
import { EditRefused, type SessionDoc } from '../document';
import { Edit, IsId } from './edit';

/** What a file is called in the session; on disk it keeps its name, so that nothing loses it. */
export class NameMedia extends Edit {
  @IsId() media!: string;
  @IsString() @Length(1, 200) name!: string;

  get label() {
    return 'rename file';
  }

  apply(doc: SessionDoc): void {
    const media = entryOf(doc.media, this.media);
    if (!media) throw new EditRefused('That file is not in the session any more.');
    media.name = this.name;
  }
}

/** Says in which order the channels of a file stand: what plays moves to its speakers, the file stays as it is. */
export class SetMediaOrder extends Edit {
  @IsId() media!: string;
  @IsIn(CHANNEL_ORDERS.map((o) => o.id)) order!: ChannelOrder;

  get label() {
    return 'say the channel order';
  }

  apply(doc: SessionDoc): void {
    const media = entryOf(doc.media, this.media);
    if (!media) throw new EditRefused('That file is not in the session any more.');
    if (this.order === 'wav') delete media.order;
    else media.order = this.order;
    delete media.unsaid;
  }
}

/** Takes files that nothing uses out of the session's list; what is used is refused. */
export class RemoveMedia extends Edit {
  @IsArray()
  @ArrayNotEmpty()
  @IsId({ each: true })
  media!: string[];

  get label() {
    return this.media.length === 1 ? 'clear file' : `clear ${this.media.length} files`;
  }

  override get risky() {
    return true;
  }

  apply(doc: SessionDoc): void {
    for (const id of this.media) {
      if (!entryOf(doc.media, id)) throw new EditRefused('That file is not in the session any more.');
      const user =
        doc.tracks.find(
          (t) =>
            t.frozen?.media === id ||
            t.clips.some((c) => c.media === id) ||
            t.takes.some((k) => k.media === id || k.dryMedia === id) ||
            (t.otherComps ?? []).some((k) => k.clips.some((c) => c.media === id)),
        )?.name ??
        doc.buses.find((b) => b.frozen?.media === id)?.name ??
        doc.shelf.find((s) => s.media === id)?.name;
      if (user) throw new EditRefused(`${entryOf(doc.media, id)?.name ?? id} is used by ${user}; nothing was cleared.`);
      delete doc.media[id];
    }
  }
}

/**
 * The picture and the sample at which its first frame stands; no file: no picture. What the file tells of itself stays as
 * long as the file does.
 */
export class SetPicture extends Edit {
  @IsOptional() @Matches(/^\/[\w./%-]{1,300}$/) file!: string | null;
  @IsInt() @Min(0) start!: number;
  @IsOptional() @Matches(/^[1-9]\d{0,8}\/[1-9]\d{0,8}$/) rate?: string;
  @IsOptional() @Matches(/^\d\d:\d\d:\d\d[:;.]\d\d$/) timecode?: string;
  @IsOptional() @IsBoolean() sound?: boolean;

  get label() {
    return this.file ? 'set picture' : 'remove picture';
  }

  apply(doc: SessionDoc): void {
    if (!this.file) {
      doc.picture = null;
      return;
    }
    const before = doc.picture?.file === this.file ? doc.picture : null;
    const { rate = before?.rate, timecode = before?.timecode, sound = before?.sound } = this;
    doc.picture = {
      file: this.file,
      start: this.start,
      ...(rate ? { rate } : {}),
      ...(timecode ? { timecode } : {}),
      ...(sound ? { sound } : {}),
    };
  }
}
