import { Type } from 'class-transformer';
import {
  IsArray,
  IsIn,
  IsInt,
  IsObject,
  IsOptional,
  IsString,
  Length,
  Max,
  Min,
  ValidateNested,
} from 'class-validator';
import { CHANNEL_ORDERS, layoutOf, widthOf, type ChannelOrder } from '@/core/speakers';
import { entryOf } from '../ids';
import { EditRefused, trackOf, type MediaRef, type SessionDoc } from '../document';
import { settleClips } from '../fades';
import { channelsSaid } from '../mediaOrder';
import { placeClip } from '../placing';
import { freeClip } from './clipOf';
import { CLIP_PARAMS } from '../params';
import { Edit, IsId, IsParam } from './edit';

const ORDERS = CHANNEL_ORDERS.map((o) => o.id);

export class MediaFacts {
  @IsId() id!: string;
  @IsString() @Length(1, 200) name!: string;
  @IsInt() @Min(1) @Max(64) channels!: number;
  @IsInt() @Min(0) frames!: number;
  @IsInt() @Min(8000) @Max(384000) sampleRate!: number;
  @IsIn(['file', 'take', 'dry']) kind!: MediaRef['kind'];
  @IsOptional() @IsIn(ORDERS) order?: ChannelOrder;
  @IsOptional() @IsArray() @IsIn(ORDERS, { each: true }) unsaid?: ChannelOrder[];
}

/** The same as plain data. */
export const plainMedia = (m: MediaFacts): MediaRef => ({
  id: m.id,
  name: m.name,
  channels: m.channels,
  frames: m.frames,
  sampleRate: m.sampleRate,
  kind: m.kind,
  ...(m.order && m.order !== 'wav' ? { order: m.order } : {}),
  ...(m.unsaid ? { unsaid: [...m.unsaid] } : {}),
});

/** Puts a file on a track. */
export class AddClip extends Edit {
  @IsId() id!: string;
  @IsId() track!: string;
  @IsInt() start!: number;
  @IsObject() @ValidateNested() @Type(() => MediaFacts) media!: MediaFacts;

  get label() {
    return 'add clip';
  }

  apply(doc: SessionDoc): void {
    const track = trackOf(doc, this.track);
    if (this.media.channels !== widthOf(track.layout)) {
      throw new EditRefused(
        `${this.media.name} has ${this.media.channels} channels, ${track.name} is ${layoutOf(track.layout).name}.`,
      );
    }
    if (this.media.sampleRate !== doc.format.sampleRate) {
      throw new EditRefused(
        `${this.media.name} is at ${this.media.sampleRate} Hz, the session at ${doc.format.sampleRate} Hz; convert it first.`,
      );
    }
    doc.media[this.media.id] = plainMedia(this.media);
    placeClip(doc, track, {
      id: this.id,
      media: this.media.id,
      start: this.start,
      offset: 0,
      length: this.media.frames,
      gain: 0,
      name: this.media.name,
    });
  }
}

/** Moves a clip; what lies under its new place gives way. */
export class MoveClip extends Edit {
  @IsId() clip!: string;
  @IsInt() start!: number;

  get label() {
    return 'move clip';
  }

  apply(doc: SessionDoc): void {
    const { clip, track } = freeClip(doc, this.clip);
    if (this.start < 0)
      throw new EditRefused(`A clip cannot start before ${doc.format.startTimecode}, the start of the session.`);
    placeClip(doc, track, { ...clip, start: this.start });
  }
}

/** Moves a clip's edges: `start` and `length` on the timeline; the sound under them stays where it is. */
export class TrimClip extends Edit {
  @IsId() clip!: string;
  @IsInt() @Min(0) start!: number;
  @IsInt() @Min(1) length!: number;

  get label() {
    return 'trim clip';
  }

  apply(doc: SessionDoc): void {
    const { clip, track } = freeClip(doc, this.clip);
    const offset = clip.offset + (this.start - clip.start);
    const frames = entryOf(doc.media, clip.media)?.frames ?? 0;
    if (offset < 0 || offset + this.length > frames) throw new EditRefused('The file has no more sound on that side.');
    placeClip(doc, track, { ...clip, offset, start: this.start, length: this.length });
  }
}

/** Gives a clip a file of its own, which it shows from the first sample to the last. */
export class GiveClipFile extends Edit {
  @IsId() clip!: string;
  @IsObject() @ValidateNested() @Type(() => MediaFacts) media!: MediaFacts;

  get label() {
    return 'give clip its own file';
  }

  apply(doc: SessionDoc): void {
    const { clip, track } = freeClip(doc, this.clip);
    if (this.media.sampleRate !== doc.format.sampleRate)
      throw new EditRefused(`${this.media.name} is not at the rate of the session.`);
    doc.media[this.media.id] = { ...plainMedia(this.media), ...channelsSaid(entryOf(doc.media, clip.media)) };
    placeClip(doc, track, { ...clip, media: this.media.id, offset: 0, length: this.media.frames });
  }
}

export class SetClipGain extends Edit {
  @IsId() clip!: string;
  @IsParam(CLIP_PARAMS.gain) gain!: number;

  get label() {
    return 'set clip gain';
  }

  apply(doc: SessionDoc): void {
    freeClip(doc, this.clip).clip.gain = this.gain;
  }
}

export class RemoveClip extends Edit {
  @IsId() clip!: string;

  get label() {
    return 'remove clip';
  }

  apply(doc: SessionDoc): void {
    const { track } = freeClip(doc, this.clip);
    track.clips = track.clips.filter((c) => c.id !== this.clip);
    settleClips(doc, track);
  }
}
