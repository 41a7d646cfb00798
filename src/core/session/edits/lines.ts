import {
  IsBoolean,
  IsIn,
  IsInt,
  IsNumber,
  IsOptional,
  IsString,
  Length,
  Max,
  MaxLength,
  Min,
  ValidateNested,
} from 'class-validator';
import { Type } from 'class-transformer';
import { lineId, newLine } from '../create';
import { lineOf, type LineSheet, type Recorded, type SessionDoc } from '../document';
import { Edit, IsId } from './edit';

class SheetRef {
  @IsString() @MaxLength(80) position!: string;
  @IsIn(['condenser', 'dynamic', 'ribbon', 'line']) kind!: LineSheet['kind'];
  @IsBoolean() phantom!: boolean;
  @IsNumber() @Min(-40) @Max(0) pad!: number;
  @IsBoolean() inverted!: boolean;
  @IsBoolean() lowCut!: boolean;
  @IsNumber() @Min(-20) @Max(80) gain!: number;
}

/** Makes a device's line known to the session, with the voice chain; a known one stays as it is. */
export class AddLine extends Edit {
  @IsId() device!: string;
  @IsInt() @Min(0) @Max(127) channel!: number;
  @IsString() @Length(1, 60) name!: string;
  /** How the device itself is set, where it tells. */
  @IsOptional() @ValidateNested() @Type(() => SheetRef) sheet?: SheetRef;

  get label() {
    return 'add line';
  }

  apply(doc: SessionDoc): void {
    if (doc.lines.some((l) => l.id === lineId(this.device, this.channel))) return;
    const line = newLine(this.device, this.channel, this.name);
    if (this.sheet) line.sheet = { ...this.sheet };
    doc.lines.push(line);
  }
}

export class NameLine extends Edit {
  @IsId() line!: string;
  @IsString() @Length(1, 60) name!: string;

  get label() {
    return 'name line';
  }

  apply(doc: SessionDoc): void {
    lineOf(doc, this.line).name = this.name;
  }
}

/** What stands on a line, and what of it is kept. */
export class SetLine extends Edit {
  @IsId() line!: string;
  @IsOptional() @IsString() @Length(1, 60) name?: string;
  @IsOptional() @IsString() @MaxLength(80) position?: string;
  @IsOptional() @IsIn(['condenser', 'dynamic', 'ribbon', 'line']) kind?: LineSheet['kind'];
  @IsOptional() @IsBoolean() phantom?: boolean;
  @IsOptional() @IsNumber() @Min(-40) @Max(0) pad?: number;
  @IsOptional() @IsBoolean() inverted?: boolean;
  @IsOptional() @IsBoolean() lowCut?: boolean;
  @IsOptional() @IsNumber() @Min(-20) @Max(80) gain?: number;
  @IsOptional() @IsIn(['both', 'processed', 'dry']) record?: Recorded;

  get label() {
    return this.record === undefined ? 'change line sheet' : 'change what is recorded';
  }

  apply(doc: SessionDoc): void {
    const line = lineOf(doc, this.line);
    const { sheet } = line;
    if (this.name !== undefined) line.name = this.name.trim() || line.name;
    if (this.position !== undefined) sheet.position = this.position;
    if (this.kind !== undefined) sheet.kind = this.kind;
    if (this.phantom !== undefined) sheet.phantom = this.phantom;
    if (this.pad !== undefined) sheet.pad = this.pad;
    if (this.inverted !== undefined) sheet.inverted = this.inverted;
    if (this.lowCut !== undefined) sheet.lowCut = this.lowCut;
    if (this.gain !== undefined) sheet.gain = this.gain;
    if (this.record !== undefined) line.record = this.record;
  }
}

/** Tracks take the names of what is patched to them: a mono track its line's, a wider one what its lines have in common. */
export class NameTracksByLines extends Edit {
  get label() {
    return 'name tracks by their lines';
  }

  apply(doc: SessionDoc): void {
    for (const track of doc.tracks) {
      const names = track.inputs.map((id) => doc.lines.find((l) => l.id === id)?.name);
      if (names.every((n) => n !== undefined)) track.name = commonName(names as string[]) || track.name;
    }
  }
}

/** "Surf" of "Surf L" and "Surf R"; one name by itself stays whole. */
export function commonName(names: readonly string[]): string {
  if (names.length === 1) return names[0]!;
  const words = names.map((n) => n.trim().split(/\s+/));
  const shared = words[0]!.filter((w, i) => words.every((other) => other[i] === w));
  return shared.join(' ');
}
