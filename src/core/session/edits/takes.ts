import { IsBoolean, IsInt, IsOptional, IsString, Max, MaxLength, Min } from 'class-validator';
import { trackOf, type SessionDoc } from '../document';
import { takeOf } from './comps';
import { Edit, IsId } from './edit';

/** What the engineer notes about a take. */
export class SetTake extends Edit {
  @IsId() track!: string;
  @IsId() take!: string;
  @IsOptional() @IsBoolean() circled?: boolean;
  @IsOptional() @IsInt() @Min(0) @Max(5) rating?: number;
  @IsOptional() @IsString() @MaxLength(500) note?: string;
  /** Cue that it belongs to; empty: none. */
  @IsOptional() @IsString() @MaxLength(80) cue?: string;

  get label() {
    if (this.circled !== undefined) return this.circled ? 'circle take' : 'uncircle take';
    return this.rating === undefined ? 'note on take' : 'rate take';
  }

  apply(doc: SessionDoc): void {
    const take = takeOf(trackOf(doc, this.track), this.take);
    if (this.circled !== undefined) take.circled = this.circled;
    if (this.rating !== undefined) take.rating = this.rating;
    if (this.note !== undefined) take.note = this.note;
    if (this.cue !== undefined) {
      if (this.cue) take.cue = this.cue;
      else delete take.cue;
    }
  }
}
