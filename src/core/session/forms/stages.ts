// The form of a stage, wherever a chain stands.
import { IsBoolean } from 'class-validator';
import { IsId } from '../edits/edit';
import { Dictionary, hasForm, MayLack, Text } from './rules';

export const MOST_STAGES = 64;

export class StageForm {
  @IsId() id!: string;
  @Text(40) type!: string;
  @IsBoolean() on!: boolean;
  // Which values there are, and how far they go, is known to the kinds of stages (whole.ts).
  @Dictionary(Number.isFinite, 200) values!: Record<string, number>;
  @MayLack() @IsId() key?: string;
}

/** A chain somewhere in a list of chains. */
export const isChain = (json: unknown): boolean =>
  Array.isArray(json) && json.length <= MOST_STAGES && json.every(hasForm(() => StageForm));
