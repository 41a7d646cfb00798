import { Type } from 'class-transformer';
import {
  ArrayMinSize,
  IsArray,
  IsBoolean,
  IsIn,
  IsInt,
  IsNumber,
  IsOptional,
  IsString,
  Length,
  Max,
  Min,
  ValidateNested,
} from 'class-validator';
import { widthOf } from '@/core/speakers';
import { EditRefused, trackOf, type MediaRef, type SessionDoc, type Stage } from '../document';
import { settleClips } from '../fades';
import { placeClip, placeWithJoints } from '../placing';
import { freeClip } from './clipOf';
import { Edit, IsId } from './edit';

export class MediaFacts {
  @IsId() id!: string;
  @IsString() @Length(1, 200) name!: string;
  @IsInt() @Min(1) @Max(64) channels!: number;
  @IsInt() @Min(0) frames!: number;
  @IsInt() @Min(8000) @Max(384000) sampleRate!: number;
  @IsIn(['file', 'take', 'dry']) kind!: MediaRef['kind'];
}

const plain = (m: MediaFacts): MediaRef => ({
  id: m.id,
  name: m.name,
  channels: m.channels,
  frames: m.frames,
  sampleRate: m.sampleRate,
  kind: m.kind,
});

/** Puts a file on a track. */
export class AddClip extends Edit {
  @IsId() id!: string;
  @IsId() track!: string;
  @IsInt() start!: number;
  @ValidateNested() @Type(() => MediaFacts) media!: MediaFacts;

  get label() {
    return 'add clip';
  }

  apply(doc: SessionDoc): void {
    const track = trackOf(doc, this.track);
    if (this.media.channels !== widthOf(track.layout)) {
      throw new EditRefused(
        `${this.media.name} has ${this.media.channels} channels, ${track.name} is ${track.layout}.`,
      );
    }
    if (this.media.sampleRate !== doc.format.sampleRate) {
      throw new EditRefused(
        `${this.media.name} is at ${this.media.sampleRate} Hz, the session at ${doc.format.sampleRate} Hz; convert it first.`,
      );
    }
    doc.media[this.media.id] = plain(this.media);
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
    const frames = doc.media[clip.media]?.frames ?? 0;
    if (offset < 0 || offset + this.length > frames) throw new EditRefused('The file has no more sound on that side.');
    placeClip(doc, track, { ...clip, offset, start: this.start, length: this.length });
  }
}

/** Gives a clip a file of its own, which it shows from the first sample to the last. */
export class GiveClipFile extends Edit {
  @IsId() clip!: string;
  @ValidateNested() @Type(() => MediaFacts) media!: MediaFacts;

  get label() {
    return 'give clip its own file';
  }

  apply(doc: SessionDoc): void {
    const { clip, track } = freeClip(doc, this.clip);
    if (this.media.sampleRate !== doc.format.sampleRate)
      throw new EditRefused(`${this.media.name} is not at the rate of the session.`);
    doc.media[this.media.id] = plain(this.media);
    placeClip(doc, track, { ...clip, media: this.media.id, offset: 0, length: this.media.frames });
  }
}

export class SetClipGain extends Edit {
  @IsId() clip!: string;
  @IsNumber() @Min(-100) @Max(24) gain!: number;

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

class ShownStretch {
  @IsInt() start!: number;
  @IsOptional() @IsInt() end?: number;
}

/** Enters a finished recording: the take, its files, and a clip that shows it. */
export class AddTake extends Edit {
  @IsId() id!: string;
  @IsId() track!: string;
  @IsInt() start!: number;
  @ValidateNested() @Type(() => MediaFacts) media!: MediaFacts;
  @IsOptional() @ValidateNested() @Type(() => MediaFacts) dry!: MediaFacts | null;
  /** The chains it went through, per channel. */
  @IsArray() @ArrayMinSize(1) chains!: Stage[][];
  @IsString() recordedAt!: string;
  @IsBoolean() recovered!: boolean;
  /** Cue that it was recorded for, and checks that were passed by knowingly. */
  @IsOptional() @IsId() cue?: string | null;
  @IsOptional() @IsArray() @IsString({ each: true }) passedBy?: string[];
  /** Stretch of the timeline that is heard of it, where more was recorded; the rest is for crossfades. */
  @IsOptional() @ValidateNested() @Type(() => ShownStretch) show?: ShownStretch;

  get label() {
    return 'record take';
  }

  apply(doc: SessionDoc): void {
    const track = trackOf(doc, this.track);
    doc.media[this.media.id] = plain(this.media);
    if (this.dry) doc.media[this.dry.id] = plain(this.dry);
    // Numbers come from the name of the file, which was fixed when recording began.
    const number = Number(/_T(\d+)(?:_|\.|$)/.exec(this.media.name)?.[1] ?? track.takes.length + 1);
    track.takes.push({
      id: this.id,
      number,
      media: this.media.id,
      dryMedia: this.dry?.id ?? null,
      start: this.start,
      length: this.media.frames,
      chains: this.chains,
      recordedAt: this.recordedAt,
      recovered: this.recovered,
      ...(this.cue ? { cue: this.cue } : {}),
      ...(this.passedBy?.length ? { passedBy: this.passedBy } : {}),
    });
    const end = this.start + this.media.frames;
    const from = Math.max(this.start, this.show?.start ?? this.start);
    const to = Math.min(end, this.show?.end ?? end);
    if (to <= from) return;
    // A take is never refused: under a locked clip it stays among the takes and is not heard.
    if (track.clips.some((c) => c.locked && c.start < to && c.start + c.length > from)) return;
    placeWithJoints(doc, track, {
      id: `clip-${this.id}`,
      media: this.media.id,
      start: from,
      offset: from - this.start,
      length: to - from,
      gain: 0,
      name: `${track.name} ${number}`,
    });
  }
}

/** A recovered take that grew, because the rest of it was delivered later. */
export class LengthenTake extends Edit {
  @IsId() take!: string;
  @IsInt() @Min(0) frames!: number;

  get label() {
    return 'complete recovered take';
  }

  apply(doc: SessionDoc): void {
    for (const track of doc.tracks) {
      const take = track.takes.find((t) => t.id === this.take);
      if (!take) continue;
      for (const id of [take.media, take.dryMedia]) if (id && doc.media[id]) doc.media[id].frames = this.frames;
      for (const clip of track.clips) {
        if (clip.media === take.media && clip.offset + clip.length === take.length)
          clip.length = this.frames - clip.offset;
      }
      take.length = this.frames;
      settleClips(doc, track);
      return;
    }
  }
}
