import 'reflect-metadata';
import { plainToInstance, Type } from 'class-transformer';
import { IsIn, IsString, ValidateBy, validateSync, type ValidationError } from 'class-validator';
import { isLayout } from '@/core/speakers';
import { EditRefused, type SessionDoc } from '../document';
import { isId } from '../ids';
import type { OwnerKind } from '../owners';
import { inLimits, type Param } from '../params';

/** A named, validated change of the session. Runs in the browser at once and on the server, which decides. */
export abstract class Edit {
  @IsString()
  type!: string;

  /** Three or four words for the undo button. */
  abstract get label(): string;

  /** Belongs to the person at the window: it goes to the seat, not into the session. */
  get personal(): boolean {
    return false;
  }

  /** Hard to see through: the server keeps a version of what was before. */
  get risky(): boolean {
    return false;
  }

  /** Changes the draft in place; throws EditRefused before changing anything that cannot be. */
  abstract apply(doc: SessionDoc): void;
}

export type EditClass = new () => Edit;

/** Ids made by the caller, so that an edit means the same wherever it runs. */
export const IsId = ({ each = false } = {}): PropertyDecorator =>
  ValidateBy(
    { name: 'isId', validator: { validate: isId } },
    { each, message: `$property must be ${each ? 'ids' : 'an id'} of letters, digits and . / : - _` },
  );

/** A layout of the list, or one of one's own, whose id holds it. */
export const IsLayout = (): PropertyDecorator =>
  ValidateBy(
    { name: 'isLayout', validator: { validate: isLayout } },
    { message: '$property must be a layout of the list, or one of your own' },
  );

/** A value within the limits of its description. */
export const IsParam = (param: Param): PropertyDecorator =>
  ValidateBy(
    { name: 'isParam', validator: { validate: (v) => typeof v === 'number' && inLimits(param, v) } },
    { message: `$property goes from ${param.min} to ${param.max} ${param.unit}, not to $value`.replace('  ', ' ') },
  );

export class OwnerRef {
  @IsIn(['line', 'track', 'bus'])
  kind!: OwnerKind;

  @IsId()
  id!: string;
}

/** For members that hold an OwnerRef. */
export const OwnerType = (): PropertyDecorator => Type(() => OwnerRef);

function sentences(errors: ValidationError[]): string[] {
  return errors.flatMap((e) => [...Object.values(e.constraints ?? {}), ...sentences(e.children ?? [])]);
}

/** Validates plain JSON against a class. Throws EditRefused that names every fault. */
export function readAs<T extends object>(Class: new () => T, json: unknown, what: string): T {
  if (typeof json !== 'object' || json === null || Array.isArray(json))
    throw new EditRefused(`${what}: expected an object.`);
  const instance = plainToInstance(Class, json);
  const faults = sentences(validateSync(instance, { whitelist: true, forbidNonWhitelisted: true }));
  // Rows by the hundred may all have the same fault: it is said once.
  if (faults.length) throw new EditRefused(`${what}: ${[...new Set(faults)].join('; ')}.`);
  return instance;
}
