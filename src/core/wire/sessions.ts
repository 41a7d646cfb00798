import {
  ArrayMaxSize,
  ArrayNotEmpty,
  IsArray,
  IsBoolean,
  IsIn,
  IsInt,
  IsOptional,
  IsString,
  Length,
  Max,
  MaxLength,
  Min,
} from 'class-validator';
import type { FilesAsked } from '@/core/print';

/** Revisions are counted in 32 bits. */
export const LAST_REVISION = 2 ** 31 - 1;

/** One change: edits that are applied together, and what the asking window has. The edits themselves are read apart. */
export class SendEdits {
  @Length(1, 80) @IsString() id!: string;
  @IsOptional() @IsInt() @Min(0) @Max(LAST_REVISION) base?: number;
}

export class Travel {
  @IsIn(['undo', 'redo']) direction!: 'undo' | 'redo';
  /** Only steps before this revision. */
  @IsOptional() @IsInt() @Min(0) @Max(LAST_REVISION) past?: number;
}

export class ChangeRate {
  @IsInt() sampleRate!: number;
}

export class KeepVersion {
  @IsString() @MaxLength(1000) name!: string;
}

export class Duplicate {
  @IsString() @MaxLength(1000) name!: string;
}

/** Files of a print that a request names. */
const MOST_FILES = 1000;

/** Which files are printed, and whether past what stands in the way. */
export class StartPrint implements FilesAsked {
  /** Findings that warn are passed by. */
  @IsOptional() @IsBoolean() knowingly?: boolean;
  @IsOptional()
  @IsArray()
  @ArrayNotEmpty({ message: 'no file was chosen' })
  @ArrayMaxSize(MOST_FILES)
  @IsString({ each: true })
  only?: string[];
  @IsOptional() @IsArray() @ArrayMaxSize(MOST_FILES) @IsString({ each: true }) beside?: string[];
}
