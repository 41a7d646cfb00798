import 'reflect-metadata';
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  IsArray,
  IsInt,
  IsOptional,
  IsString,
  Length,
  MaxLength,
  Min,
  ValidateNested,
} from 'class-validator';

const MOST_PIECES = 4096;

class Piece {
  @IsString() @MaxLength(200) media!: string;
  @IsInt() @Min(0) from!: number;
  @IsInt() @Min(1) frames!: number;
}

/** Pieces of files whose samples are asked for. */
export class ReadPieces {
  @IsArray() @ArrayMaxSize(MOST_PIECES) @ValidateNested({ each: true }) @Type(() => Piece) items!: Piece[];
}

/** A stretch of a file in which a quiet place is looked for, or, with `start` and `name`, from which it is cut. */
export class FindTone {
  @IsString() @MaxLength(200) media!: string;
  /** Samples of the file. */
  @IsInt() from!: number;
  @IsInt() to!: number;
  @IsInt() @Min(1) length!: number;
  @IsOptional() @IsInt() start?: number;
  @IsOptional() @IsString() @Length(1, 200, { message: 'name: give the room tone a name' }) name?: string;
}

/** How long a clip's own file shall be (samples). */
export class OwnFile {
  @IsInt() @Min(1) frames!: number;
}
