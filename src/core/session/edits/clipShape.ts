import { Type } from 'class-transformer';
import {
  IsBoolean,
  IsIn,
  IsInt,
  IsNumber,
  IsOptional,
  IsString,
  Length,
  Max,
  Min,
  IsObject,
  ValidateNested,
} from 'class-validator';
import { entryOf } from '../ids';
import { EditRefused, type FadeCurve, type SessionDoc } from '../document';
import { FADE_CURVES, longestJoint, settleClips } from '../fades';
import { headOf, placeClip, tailOf } from '../placing';
import { clipOf, freeClip } from './clipOf';
import { Edit, IsId } from './edit';

export class FadeRef {
  @IsInt() @Min(0) frames!: number;
  @IsIn(FADE_CURVES.map((c) => c.id)) curve!: FadeCurve;
}

export const plainFade = ({ frames, curve }: FadeRef) => ({ frames, curve });

/** Fades, gain, mute, name and lock of a clip. */
export class ShapeClip extends Edit {
  @IsId() clip!: string;
  @IsOptional() @IsObject() @ValidateNested() @Type(() => FadeRef) fadeIn?: FadeRef;
  @IsOptional() @IsObject() @ValidateNested() @Type(() => FadeRef) fadeOut?: FadeRef;
  /** Crossfade with the clip before; 0 frames: a straight cut. */
  @IsOptional() @IsObject() @ValidateNested() @Type(() => FadeRef) joint?: FadeRef;
  @IsOptional() @IsBoolean() muted?: boolean;
  @IsOptional() @IsBoolean() locked?: boolean;
  @IsOptional() @IsString() @Length(1, 120) name?: string;

  get label() {
    if (this.locked !== undefined) return this.locked ? 'lock clip' : 'unlock clip';
    if (this.muted !== undefined) return this.muted ? 'mute clip' : 'unmute clip';
    return this.name === undefined ? 'fade clip' : 'rename clip';
  }

  apply(doc: SessionDoc): void {
    const { clip, track } = this.locked === undefined ? freeClip(doc, this.clip) : clipOf(doc, this.clip);
    if (this.locked !== undefined) clip.locked = this.locked;
    if (this.muted !== undefined) clip.muted = this.muted;
    if (this.name !== undefined) clip.name = this.name;
    if (this.fadeIn) clip.fadeIn = plainFade(this.fadeIn);
    if (this.fadeOut) clip.fadeOut = plainFade(this.fadeOut);
    if (this.joint) {
      const left = track.clips.find((c) => c.start + c.length === clip.start);
      if (!left) throw new EditRefused('No clip ends where this one begins, so there is nothing to crossfade with.');
      if (this.joint.frames > 0 && longestJoint(doc, left, clip) === 0)
        throw new EditRefused('One of the two files has no sound beyond the joint, so they cannot be crossfaded.');
      clip.joint = plainFade(this.joint);
    }
    settleClips(doc, track);
  }
}

/** Cuts a clip in two; nothing changes in what is heard. */
export class SplitClip extends Edit {
  @IsId() clip!: string;
  @IsInt() at!: number;
  /** Id of the part behind the cut. */
  @IsId() id!: string;

  get label() {
    return 'split clip';
  }

  apply(doc: SessionDoc): void {
    const { clip, track } = freeClip(doc, this.clip);
    const frames = this.at - clip.start;
    if (frames <= 0 || frames >= clip.length) throw new EditRefused('The cut does not lie within the clip.');
    const tail = tailOf(clip, frames, this.id);
    const head = headOf(clip, frames);
    track.clips = [...track.clips.filter((c) => c.id !== clip.id), head, tail];
    settleClips(doc, track);
  }
}

/** Moves the sound within a clip's edges: later by `by` samples, earlier when negative. */
export class SlipClip extends Edit {
  @IsId() clip!: string;
  @IsInt() by!: number;

  get label() {
    return 'slip clip';
  }

  apply(doc: SessionDoc): void {
    const { clip, track } = freeClip(doc, this.clip);
    const offset = clip.offset - this.by;
    const frames = entryOf(doc.media, clip.media)?.frames ?? 0;
    if (offset < 0 || offset + clip.length > frames) throw new EditRefused('The file has no more sound on that side.');
    clip.offset = offset;
    settleClips(doc, track);
  }
}

/** Moves the joint between a clip and the one before it; both keep their sound in place. */
export class MoveJoint extends Edit {
  @IsId() clip!: string;
  @IsInt() at!: number;

  get label() {
    return 'move joint';
  }

  apply(doc: SessionDoc): void {
    const { clip, track } = freeClip(doc, this.clip);
    const left = track.clips.find((c) => c.start + c.length === clip.start);
    if (!left) throw new EditRefused('No clip ends where this one begins.');
    if (left.locked) throw new EditRefused(`${left.name} is locked; unlock it first.`);
    const by = this.at - clip.start;
    const rest = (entryOf(doc.media, left.media)?.frames ?? 0) - (left.offset + left.length);
    if (by >= clip.length || -by >= left.length) throw new EditRefused('One of the two clips would vanish.');
    if (by > rest || clip.offset + by < 0)
      throw new EditRefused('One of the two takes has no more sound on that side.');
    left.length += by;
    Object.assign(clip, { start: clip.start + by, offset: clip.offset + by, length: clip.length - by });
    settleClips(doc, track);
  }
}

/** Repeats a clip behind itself. */
export class RepeatClip extends Edit {
  @IsId() clip!: string;
  @IsInt() @Min(1) @Max(200) times!: number;
  /** Ids of the copies begin with this. */
  @IsId() id!: string;
  /** From start to start; the clip's length when absent. */
  @IsOptional() @IsNumber() @Min(1) every?: number;

  get label() {
    return `repeat clip ${this.times} ${this.times === 1 ? 'time' : 'times'}`;
  }

  apply(doc: SessionDoc): void {
    const { clip, track } = clipOf(doc, this.clip);
    const { locked: _free, joint: _none, ...copy } = clip;
    const every = Math.round(this.every ?? clip.length);
    for (let n = 1; n <= this.times; n++)
      placeClip(doc, track, { ...copy, id: `${this.id}-${n}`, start: clip.start + n * every });
  }
}
