import { Type } from 'class-transformer';
import {
  ArrayNotEmpty,
  IsArray,
  IsBoolean,
  IsInt,
  IsNumber,
  IsOptional,
  Matches,
  Max,
  Min,
  ValidateNested,
} from 'class-validator';
import { layoutOf, widthOf } from '@/core/speakers';
import { EditRefused, trackOf, type Clip, type SessionDoc, type Track } from '../document';
import { settleClips } from '../fades';
import { shiftLanes } from '../lanes';
import { placeClip } from '../placing';
import { clipOf, freeClip } from './clipOf';
import { Edit, IsId } from './edit';

const count = (n: number) => (n === 1 ? 'clip' : `${n} clips`);

/** Moves clips together, as they stand to each other; onto other rows too where the widths are the same. */
export class MoveClips extends Edit {
  @IsArray() @ArrayNotEmpty() @IsId({ each: true }) clips!: string[];
  @IsInt() by!: number;
  /** Rows down (up when negative). */
  @IsOptional() @IsInt() rows?: number;
  /** Whether what follows the timeline on their tracks goes with them. */
  @IsOptional() @IsBoolean() lanes?: boolean;

  get label() {
    return `move ${count(this.clips.length)}`;
  }

  apply(doc: SessionDoc): void {
    const moved = this.clips.map((id) => {
      const { clip, track } = freeClip(doc, id);
      if (clip.start + this.by < 0)
        throw new EditRefused(`${clip.name} would start before ${doc.format.startTimecode}, the start of the session.`);
      return { clip: { ...clip, start: clip.start + this.by }, from: track, to: this.rowFor(doc, track, clip) };
    });
    // All are lifted first: they must not cut each other on the way.
    for (const { clip, from } of moved) from.clips = from.clips.filter((c) => c.id !== clip.id);
    for (const { clip, to } of moved) placeClip(doc, to, clip);
    for (const { from } of moved) settleClips(doc, from);
    // To another row nothing of a track's own goes along.
    if (this.lanes)
      for (const { clip, from, to } of moved)
        if (from === to) shiftLanes(doc, from.id, clip.start - this.by, clip.start - this.by + clip.length, this.by);
  }

  private rowFor(doc: SessionDoc, track: Track, clip: Clip): Track {
    if (!this.rows) return track;
    const to = doc.tracks[doc.tracks.indexOf(track) + this.rows];
    if (!to) throw new EditRefused('There is no track in that direction.');
    if (widthOf(to.layout) !== widthOf(track.layout))
      throw new EditRefused(
        `${clip.name} is ${layoutOf(track.layout).name}, ${to.name} is ${layoutOf(to.layout).name}.`,
      );
    return to;
  }
}

export class RemoveClips extends Edit {
  @IsArray() @ArrayNotEmpty() @IsId({ each: true }) clips!: string[];

  get label() {
    return `remove ${count(this.clips.length)}`;
  }

  apply(doc: SessionDoc): void {
    for (const id of this.clips) {
      const { track } = freeClip(doc, id);
      track.clips = track.clips.filter((c) => c.id !== id);
      settleClips(doc, track);
    }
  }
}

/** What can be set on many clips at once. */
export class ShapeClips extends Edit {
  @IsArray() @ArrayNotEmpty() @IsId({ each: true }) clips!: string[];
  @IsOptional() @IsBoolean() muted?: boolean;
  @IsOptional() @IsBoolean() locked?: boolean;
  /** dB added to each clip's gain. */
  @IsOptional() @IsNumber() @Min(-100) @Max(100) gainBy?: number;
  /** Makes them one group; empty: each stands alone again. */
  @IsOptional() @Matches(/^[\w-]{0,40}$/) group?: string;

  get label() {
    const what = count(this.clips.length);
    if (this.locked !== undefined) return `${this.locked ? 'lock' : 'unlock'} ${what}`;
    if (this.muted !== undefined) return `${this.muted ? 'mute' : 'unmute'} ${what}`;
    if (this.group !== undefined) return `${this.group ? 'group' : 'ungroup'} ${what}`;
    return `change gain of ${what}`;
  }

  apply(doc: SessionDoc): void {
    for (const id of this.clips) {
      const { clip } = this.locked === undefined ? freeClip(doc, id) : clipOf(doc, id);
      if (this.locked !== undefined) clip.locked = this.locked;
      if (this.muted !== undefined) clip.muted = this.muted;
      if (this.gainBy !== undefined) clip.gain += this.gainBy;
      if (this.group === '') delete clip.group;
      else if (this.group !== undefined) clip.group = this.group;
    }
  }
}

class ClipCopy {
  @IsId() of!: string;
  @IsId() id!: string;
  @IsId() track!: string;
  @IsInt() @Min(0) start!: number;
}

/** Places copies of clips; the files stay where they are. */
export class CopyClips extends Edit {
  @IsArray() @ArrayNotEmpty() @ValidateNested({ each: true }) @Type(() => ClipCopy) copies!: ClipCopy[];

  get label() {
    return `copy ${count(this.copies.length)}`;
  }

  apply(doc: SessionDoc): void {
    for (const { of, id, track: to, start } of this.copies) {
      const source = doc.tracks.find((t) => t.clips.some((c) => c.id === of));
      const clip = source?.clips.find((c) => c.id === of);
      if (!source || !clip) throw new EditRefused('A clip that was copied is gone.');
      const track = trackOf(doc, to);
      if (widthOf(track.layout) !== widthOf(source.layout))
        throw new EditRefused(
          `${clip.name} is ${layoutOf(source.layout).name}, ${track.name} is ${layoutOf(track.layout).name}.`,
        );
      const { locked: _free, joint: _none, group: _alone, ...copy } = clip;
      placeClip(doc, track, { ...copy, id, start });
    }
  }
}
