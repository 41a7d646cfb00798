import 'reflect-metadata';
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  IsArray,
  IsBoolean,
  IsIn,
  IsInt,
  IsObject,
  IsOptional,
  IsString,
  Matches,
  Max,
  Min,
  ValidateNested,
} from 'class-validator';
import {
  ChainChanges,
  Faults,
  Gaps,
  IsId,
  MOST_CHANNELS,
  type Stage,
  type TakeFacts,
  type TakePurpose,
  type WordLength,
} from '@/core/session';

const WORDS: readonly WordLength[] = [16, 24, 32];

class Show {
  @IsInt() start!: number;
  @IsOptional() @IsInt() end?: number;
}

class Purpose implements TakePurpose {
  @IsOptional() @IsId() cue?: string;
  @IsOptional() @IsObject() @ValidateNested() @Type(() => Show) show?: Show;
  @IsOptional() @IsArray() @ArrayMaxSize(200) @IsString({ each: true }) passedBy?: string[];
}

class RecordedFormat {
  @IsInt() @Min(1000) @Max(384_000) sampleRate!: number;
  @IsIn(WORDS) wordLength!: WordLength;
}

/** What begins a recording. What its chains hold is read by the rules of the session. */
export class BeginRecording {
  @Matches(/^[\w-]{8,40}$/, { message: 'id: 8 to 40 letters, digits, _ and -' }) id!: string;
  @IsId() track!: string;
  /** Timeline sample of the first frame. */
  @IsInt() start!: number;
  /** The chains that the channels go through. */
  @IsArray() @ArrayMaxSize(MOST_CHANNELS) @IsArray({ each: true }) chains!: Stage[][];
  /** Bytes of a frame, and what its samples are; as the session is unless told. */
  @IsOptional() @IsInt() @Min(1) block?: number;
  @IsOptional() @IsObject() @ValidateNested() @Type(() => RecordedFormat) format?: RecordedFormat;
  /** Whether the untouched copy stays once the take is complete; true unless told. */
  @IsOptional() @IsBoolean() keepDry?: boolean;
  @IsOptional() @IsObject() @ValidateNested() @Type(() => Purpose) purpose?: Purpose | null;
}

class Facts implements TakeFacts {
  @Gaps() gaps?: TakeFacts['gaps'];
  @ChainChanges() chainChanges?: TakeFacts['chainChanges'];
  @Faults() faults?: string[];
}

class Sums {
  @IsOptional() @IsInt() @Min(0) @Max(0xffff_ffff) processed?: number;
  @IsOptional() @IsInt() @Min(0) @Max(0xffff_ffff) dry?: number;
}

/** What ends a recording. */
export class FinishRecording {
  @IsInt({ message: 'frames: the number of frames that were recorded' })
  @Min(1, { message: 'frames: the number of frames that were recorded' })
  frames!: number;
  /** Sample of the timeline where what is heard of it ends, when it was ended by hand. */
  @IsOptional() @IsInt() shownEnd?: number;
  @IsOptional() @IsObject() @ValidateNested() @Type(() => Facts) facts?: Facts;
  /** CRC-32 of each part as it was recorded. */
  @IsOptional() @IsObject() @ValidateNested() @Type(() => Sums) sums?: Sums;
  /** Nothing better can be sent: a take that differs is entered with that as its fault. */
  @IsOptional() @IsBoolean() last?: boolean;
}
