// Rules for what is known of a take besides its sound, wherever it comes in.
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  ArrayMinSize,
  IsArray,
  IsInt,
  IsOptional,
  IsString,
  MaxLength,
  Min,
  ValidateNested,
} from 'class-validator';
import type { Stage } from '../document';
import { all } from './all';

/** Channels of the widest track. */
export const MOST_CHANNELS = 64;
const MOST_NOTES = 10_000;

export class GapRef {
  @IsInt() @Min(0) at!: number;
  @IsInt() @Min(1) frames!: number;
}

export class ChainChangeRef {
  @IsInt() @Min(0) at!: number;
  @IsArray() @ArrayMinSize(1) @ArrayMaxSize(MOST_CHANNELS) @IsArray({ each: true }) chains!: Stage[][];
}

const notesOf = (Class: () => new () => object) =>
  all(IsOptional(), IsArray(), ArrayMaxSize(MOST_NOTES), ValidateNested({ each: true }), Type(Class));

/** Sound that is missing. */
export const Gaps = (): PropertyDecorator => notesOf(() => GapRef);

/** Where a chain was changed while it was recorded. */
export const ChainChanges = (): PropertyDecorator => notesOf(() => ChainChangeRef);

/** What is wrong with it, in sentences. */
export const Faults = (): PropertyDecorator =>
  all(IsOptional(), IsArray(), ArrayMaxSize(20), IsString({ each: true }), MaxLength(500, { each: true }));
