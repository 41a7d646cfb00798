import 'reflect-metadata';
import { plainToInstance, Type } from 'class-transformer';
import { IsIn, IsString, Matches, validateSync, type ValidationError } from 'class-validator';
import { EditRefused, type SessionDoc } from '../document';
import type { OwnerKind } from '../owners';

/** A named, validated change of the session. Runs in the browser at once and on the server, which decides. */
export abstract class Edit {
  @IsString()
  type!: string;

  /** Three or four words for the undo button. */
  abstract get label(): string;

  /** Not on the undo stack: a matter of listening, not of the work. */
  get aside(): boolean {
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
export const IsId = (): PropertyDecorator =>
  Matches(/^[\w./:~-]{1,80}$/, { message: '$property must be an id of letters, digits and . / : - _' });

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
  if (faults.length) throw new EditRefused(`${what}: ${faults.join('; ')}.`);
  return instance;
}
