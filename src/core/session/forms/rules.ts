// Rules that the forms of a document are made of, each a class-validator decorator or a few of them.
import 'reflect-metadata';
import { plainToInstance, Type } from 'class-transformer';
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
  ValidateBy,
  ValidateIf,
  ValidateNested,
  validateSync,
} from 'class-validator';
import { all } from '../edits/all';
import { isId } from '../ids';

type Rule = PropertyDecorator;

/** May be left out, but not null. */
export const MayLack = (): Rule => ValidateIf((_, value) => value !== undefined);

/** May be null, but not left out. */
export const MayBeNull = (): Rule => ValidateIf((_, value) => value !== null);

export const Text = (most: number): Rule => all(IsString(), MaxLength(most));

export const Count = (least = 0): Rule => all(IsInt(), Min(least), Max(Number.MAX_SAFE_INTEGER));

export const Figure = (least: number, most: number): Rule => all(IsNumber(), Min(least), Max(most));

/** A part of a form of its own. */
export const Part = (Class: () => new () => object): Rule => all(IsObject(), ValidateNested(), Type(Class));

/** A list of such parts. */
export const List = (Class: () => new () => object, most: number): Rule =>
  all(IsArray(), ArrayMaxSize(most), ValidateNested({ each: true }), Type(Class));

/** A dictionary whose values pass `fits`; its keys are ids. */
export const Dictionary = (
  fits: (value: unknown) => boolean,
  most: number,
  isKey: (key: string) => boolean = isId,
): Rule =>
  ValidateBy(
    {
      name: 'dictionary',
      validator: {
        validate: (value) =>
          typeof value === 'object' &&
          value !== null &&
          !Array.isArray(value) &&
          Object.keys(value as object).length <= most &&
          Object.entries(value as object).every(([key, one]) => isKey(key) && fits(one)),
      },
    },
    { message: '$property holds something that does not belong there' },
  );

/** Whether plain JSON has the form of a class. */
export const hasForm =
  (Class: () => new () => object) =>
  (json: unknown): boolean =>
    typeof json === 'object' &&
    json !== null &&
    !Array.isArray(json) &&
    validateSync(plainToInstance(Class(), json), { whitelist: true, forbidNonWhitelisted: true }).length === 0;
