// Forms of what lies on tracks: clips, comps, takes.
import {
  ArrayMaxSize,
  IsArray,
  IsBoolean,
  IsIn,
  IsInt,
  IsISO8601,
  IsString,
  MaxLength,
  ValidateBy,
  ValidateIf,
} from 'class-validator';
import { IsId, IsParam } from '../edits/edit';
import { CLIP_PARAMS } from '../params';
import { Count, Figure, List, MayBeNull, MayLack, Part, Text } from './rules';
import { isChain } from './stages';

/** A list of chains, one a channel. */
const Chains = (): PropertyDecorator =>
  ValidateBy(
    { name: 'chains', validator: { validate: (v) => Array.isArray(v) && v.length <= 128 && v.every(isChain) } },
    { message: '$property must be chains of stages' },
  );

class FadeForm {
  @Count() frames!: number;
  @IsIn(['even', 'power', 'smooth']) curve!: string;
  @MayLack() @IsBoolean() same?: boolean;
}

export class ClipForm {
  @IsId() id!: string;
  @IsId() media!: string;
  @Count() start!: number;
  @Count() offset!: number;
  @Count(1) length!: number;
  @IsParam(CLIP_PARAMS.gain) gain!: number;
  @Text(500) name!: string;
  @MayLack() @Part(() => FadeForm) fadeIn?: object;
  @MayLack() @Part(() => FadeForm) fadeOut?: object;
  @MayLack() @Part(() => FadeForm) joint?: object;
  @MayLack() @IsBoolean() muted?: boolean;
  @MayLack() @IsBoolean() locked?: boolean;
  @MayLack() @IsId() group?: string;
}

export class CompForm {
  @IsId() id!: string;
  @Text(200) name!: string;
  @List(() => ClipForm, 1_000_000) clips!: object[];
}

class GapForm {
  @Count() at!: number;
  @Count(1) frames!: number;
}

class ChainChangeForm {
  @Count() at!: number;
  @Chains() chains!: unknown[];
}

export class TakeForm {
  @IsId() id!: string;
  @Count() number!: number;
  @IsId() media!: string;
  @MayBeNull() @IsId() dryMedia!: string | null;
  @IsInt() start!: number;
  @Count(1) length!: number;
  @Chains() chains!: unknown[];
  @ValidateIf((_, v) => v !== '') @IsISO8601() recordedAt!: string;
  @IsBoolean() recovered!: boolean;
  @MayLack() @IsBoolean() imported?: boolean;
  @MayLack() @IsBoolean() circled?: boolean;
  @MayLack() @Figure(0, 5) rating?: number;
  @MayLack() @Text(5000) note?: string;
  @MayLack() @IsId() cue?: string;
  @MayLack() @IsArray() @ArrayMaxSize(1000) @IsString({ each: true }) passedBy?: string[];
  @MayLack() @List(() => GapForm, 10_000) gaps?: object[];
  @MayLack() @List(() => ChainChangeForm, 10_000) chainChanges?: object[];
  @MayLack() @IsArray() @ArrayMaxSize(100) @IsString({ each: true }) @MaxLength(1000, { each: true }) faults?: string[];
}
