import {
  ArrayNotEmpty,
  IsArray,
  IsBoolean,
  IsIn,
  IsInt,
  IsOptional,
  IsString,
  Length,
  Max,
  MaxLength,
  Min,
  IsObject,
  ValidateNested,
} from 'class-validator';
import { Type } from 'class-transformer';
import { newLine } from '../create';
import { lineId } from '../lineIds';
import { EditRefused, lineOf, MICROPHONE_KINDS, type LineSheet, type Recorded, type SessionDoc } from '../document';
import { SHEET_PARAMS } from '../params';
import { Edit, IsId, IsParam } from './edit';

class SheetRef {
  @IsString() @MaxLength(80) position!: string;
  @IsIn(MICROPHONE_KINDS) kind!: LineSheet['kind'];
  @IsBoolean() phantom!: boolean;
  @IsParam(SHEET_PARAMS.pad) pad!: number;
  @IsBoolean() inverted!: boolean;
  @IsBoolean() lowCut!: boolean;
  @IsParam(SHEET_PARAMS.gain) gain!: number;
  @IsOptional() @IsString() @MaxLength(80) model?: string;
  @IsOptional() @IsString() @MaxLength(500) note?: string;
}

/** Makes a device's line known to the session, with the voice chain; a known one stays as it is. */
export class AddLine extends Edit {
  @IsId() device!: string;
  @IsInt() @Min(0) @Max(127) channel!: number;
  @IsString() @Length(1, 60) name!: string;
  /** How the device itself is set, where it tells. */
  @IsOptional() @IsObject() @ValidateNested() @Type(() => SheetRef) sheet?: SheetRef;

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
  @IsOptional() @IsIn(MICROPHONE_KINDS) kind?: LineSheet['kind'];
  @IsOptional() @IsBoolean() phantom?: boolean;
  @IsOptional() @IsParam(SHEET_PARAMS.pad) pad?: number;
  @IsOptional() @IsBoolean() inverted?: boolean;
  @IsOptional() @IsBoolean() lowCut?: boolean;
  @IsOptional() @IsParam(SHEET_PARAMS.gain) gain?: number;
  @IsOptional() @IsString() @MaxLength(80) model?: string;
  @IsOptional() @IsString() @MaxLength(500) note?: string;
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
    for (const key of ['model', 'note'] as const) {
      if (this[key] === '') delete sheet[key];
      else if (this[key] !== undefined) sheet[key] = this[key];
    }
    if (this.record !== undefined) line.record = this.record;
  }
}

/** Takes the lines of another device in the place of one that is missing: cords, names, sheets and chains go along. */
export class SubstituteDevice extends Edit {
  @IsId() from!: string;
  @IsId() to!: string;
  /** Lines of the other device, by name. */
  @IsArray() @ArrayNotEmpty() @IsString({ each: true }) lines!: string[];

  get label() {
    return 'substitute device';
  }

  override get risky() {
    return true;
  }

  apply(doc: SessionDoc): void {
    if (this.from === this.to) throw new EditRefused('That is the same device.');
    const moving = doc.lines.filter((l) => l.device === this.from);
    if (moving.length === 0) throw new EditRefused('The session has no lines of that device.');
    const patched = (id: string) => doc.tracks.some((t) => t.inputs.includes(id));
    const short = moving.find((l) => patched(l.id) && l.channel >= this.lines.length);
    if (short)
      throw new EditRefused(
        `${short.name} stands on line ${short.channel + 1}, but the other device has ${this.lines.length}. Nothing was changed; move its cord first.`,
      );
    for (const old of moving) {
      if (old.channel >= this.lines.length) continue;
      const id = lineId(this.to, old.channel);
      // What the session knew of that line gives way, as the cords do.
      doc.lines = doc.lines.filter((l) => l.id !== id && l.id !== old.id);
      doc.lines.push({ ...old, id, device: this.to });
      for (const track of doc.tracks) track.inputs = track.inputs.map((l) => (l === id ? null : l === old.id ? id : l));
    }
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
      if (names.every((n) => n !== undefined)) track.name = commonName(names) || track.name;
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
