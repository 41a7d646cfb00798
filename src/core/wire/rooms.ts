import 'reflect-metadata';
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  IsArray,
  IsInt,
  IsNumber,
  IsObject,
  IsString,
  Max,
  MaxLength,
  Min,
  ValidateNested,
} from 'class-validator';
import type { SpeakerSpot } from '@/core/speakers';
import { LAST_REVISION } from './sessions';

/** Speakers that a request is read for; what a layout may have is said when it is made. */
const MOST_SPOTS = 256;

class Spot implements SpeakerSpot {
  @IsString() @MaxLength(40) label!: string;
  @IsNumber() azimuth!: number;
  @IsNumber() elevation!: number;
}

/** A layout of one's own. */
export class KeepLayout {
  @IsString() @MaxLength(200) name!: string;
  @IsArray() @ArrayMaxSize(MOST_SPOTS) @ValidateNested({ each: true }) @Type(() => Spot) speakers!: Spot[];
}

/** A room as it shall be; it must still be at `revision`. */
export class SetRoom {
  @IsInt() @Min(0) @Max(LAST_REVISION) revision!: number;
  @IsObject() room!: object;
}

export class UndoRoom {
  @IsInt() @Min(0) @Max(LAST_REVISION) revision!: number;
}
