import { ArrayMaxSize, ArrayNotEmpty, IsArray, IsOptional, IsString } from 'class-validator';
import type { FilesAsked } from '@/core/print';
import { readAs } from '@/core/session';

const MOST = 1000;

class FilesForm implements FilesAsked {
  @IsOptional()
  @IsArray()
  @ArrayNotEmpty({ message: 'no file was chosen' })
  @ArrayMaxSize(MOST)
  @IsString({ each: true })
  only?: string[];
  @IsOptional() @IsArray() @ArrayMaxSize(MOST) @IsString({ each: true }) beside?: string[];
}

/** Reads which files a print shall have from plain JSON. Throws EditRefused with what is wrong in it. */
export function filesAsked(json: unknown): FilesAsked {
  const { only, beside } = (json ?? {}) as FilesForm;
  return readAs(FilesForm, { only, beside }, 'what is printed');
}
