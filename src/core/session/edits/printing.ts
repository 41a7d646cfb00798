import { Type } from 'class-transformer';
import {
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
import { EditRefused, type Printing, type RangesBy, type SessionDoc } from '../document';
import { Edit, IsId } from './edit';

/** Level of a tone in the lead-in where none is told (dBFS; common practice, no source). */
const POP_LEVEL = -20;
const MOST_RANGES = 2000;

class RangeRef {
  @IsId() id!: string;
  @IsString() @Length(1, 40) name!: string;
  @IsInt() @Min(0) start!: number;
  @IsInt() @Min(1) end!: number;
}

/** How the session is printed: which ranges, what they begin with, and what their files are called. */
export class SetPrinting extends Edit {
  @IsOptional() @IsIn(['range', 'cues', 'markers', 'list']) by?: 'range' | RangesBy;
  @IsOptional() @IsArray() @ValidateNested({ each: true }) @Type(() => RangeRef) list?: RangeRef[];
  /** Seconds; 0: none. */
  @IsOptional() @IsNumber() @Min(0) @Max(60) leadIn?: number;
  /** Seconds before the range at which a tone sounds in the lead-in; 0: none does. */
  @IsOptional() @IsNumber() @Min(0) @Max(60) pop?: number;
  @IsOptional() @IsNumber() @Min(-60) @Max(0) popLevel?: number;
  @IsOptional() @IsBoolean() toTarget?: boolean;
  @IsOptional() @IsBoolean() withoutChains?: boolean;
  @IsOptional() @IsIn(['as written', 'lower', 'upper']) letters?: 'as written' | 'lower' | 'upper';

  get label() {
    return 'change how it is printed';
  }

  apply(doc: SessionDoc): void {
    const next: Printing = { ...doc.printing };
    if (this.by === 'range') delete next.by;
    else if (this.by !== undefined) next.by = this.by;
    if (this.list) next.list = this.ranges(this.list);
    if (next.list?.length === 0) delete next.list;
    this.setLeadIn(next);
    if (this.toTarget === false) delete next.toTarget;
    else if (this.toTarget) {
      if (doc.limits.target === null)
        throw new EditRefused('The brief asks for no loudness, so there is none to bring the files to.');
      next.toTarget = true;
    }
    if (this.withoutChains === false) delete next.withoutChains;
    else if (this.withoutChains) next.withoutChains = true;
    if (this.letters === 'as written') delete next.letters;
    else if (this.letters !== undefined) next.letters = this.letters;
    if (Object.keys(next).length) doc.printing = next;
    else delete doc.printing;
  }

  private ranges(list: readonly RangeRef[]): Printing['list'] {
    if (list.length > MOST_RANGES)
      throw new EditRefused(`${list.length} ranges are more than the ${MOST_RANGES} of one print; none was changed.`);
    return list.map(({ id, name, start, end }) => {
      if (end <= start) throw new EditRefused(`${name} must end after it starts; no range was changed.`);
      return { id, name, start, end };
    });
  }

  private setLeadIn(next: Printing): void {
    if (this.leadIn === 0) {
      delete next.leadIn;
      return;
    }
    if (this.leadIn === undefined && this.pop === undefined && this.popLevel === undefined) return;
    const before = next.leadIn;
    if (!before && this.leadIn === undefined)
      throw new EditRefused('There is no lead-in that a tone could stand in; ask for one first.');
    const seconds = this.leadIn ?? before!.seconds;
    const pop = this.pop ?? before?.pop ?? 0;
    if (pop > seconds)
      throw new EditRefused(
        `A tone ${pop} s before the range would stand before the lead-in of ${seconds} s; it was left as it is.`,
      );
    next.leadIn = { seconds, ...(pop > 0 ? { pop } : {}), level: this.popLevel ?? before?.level ?? POP_LEVEL };
  }
}
