import { Type } from 'class-transformer';
import {
  ArrayNotEmpty,
  IsArray,
  IsBoolean,
  IsInt,
  IsOptional,
  IsString,
  Length,
  MaxLength,
  Min,
  ValidateNested,
} from 'class-validator';
import { EditRefused, type Cue, type SessionDoc } from '../document';
import { Edit, IsId } from './edit';

class CueRef {
  @IsId() id!: string;
  @IsString() @MaxLength(12) number!: string;
  @IsInt() @Min(0) start!: number;
  @IsInt() @Min(0) end!: number;
  @IsString() @MaxLength(80) character!: string;
  @IsString() @MaxLength(2000) text!: string;
}

const inOrder = (doc: SessionDoc): void => void doc.cues.sort((a, b) => a.start - b.start);

export function cueOf(doc: SessionDoc, id: string): Cue {
  const found = doc.cues.find((c) => c.id === id);
  if (!found) throw new EditRefused('That cue is not in the script any more.');
  return found;
}

/** Brings lines into the script. */
export class AddCues extends Edit {
  @IsArray() @ArrayNotEmpty() @ValidateNested({ each: true }) @Type(() => CueRef) cues!: CueRef[];
  /** Whether they take the place of the whole script. */
  @IsOptional() @IsBoolean() instead?: boolean;

  get label() {
    return this.cues.length === 1 ? 'add cue' : `add ${this.cues.length} cues`;
  }

  override get risky() {
    return this.instead === true;
  }

  apply(doc: SessionDoc): void {
    const backwards = this.cues.find((c) => c.end < c.start);
    if (backwards) throw new EditRefused(`Cue ${backwards.number} ends before it starts.`);
    const fresh = this.cues.map(({ id, number, start, end, character, text }) => ({
      id,
      number,
      start,
      end,
      character,
      text,
      note: '',
      done: false,
    }));
    doc.cues = [...(this.instead ? [] : doc.cues), ...fresh];
    inOrder(doc);
  }
}

export class SetCue extends Edit {
  @IsId() cue!: string;
  @IsOptional() @IsString() @Length(1, 12) number?: string;
  @IsOptional() @IsInt() @Min(0) start?: number;
  @IsOptional() @IsInt() @Min(0) end?: number;
  @IsOptional() @IsString() @MaxLength(80) character?: string;
  @IsOptional() @IsString() @MaxLength(2000) text?: string;
  @IsOptional() @IsString() @MaxLength(500) note?: string;
  @IsOptional() @IsBoolean() done?: boolean;

  get label() {
    if (this.done !== undefined) return this.done ? 'mark cue done' : 'reopen cue';
    return 'change cue';
  }

  apply(doc: SessionDoc): void {
    const cue = cueOf(doc, this.cue);
    const [start, end] = [this.start ?? cue.start, this.end ?? cue.end];
    if (end < start) throw new EditRefused(`Cue ${cue.number} would end before it starts.`);
    Object.assign(cue, { start, end });
    for (const key of ['number', 'character', 'text', 'note'] as const)
      if (this[key] !== undefined) cue[key] = this[key];
    if (this.done !== undefined) cue.done = this.done;
    inOrder(doc);
  }
}

export class RemoveCues extends Edit {
  @IsArray() @ArrayNotEmpty() @IsId({ each: true }) cues!: string[];

  get label() {
    return this.cues.length === 1 ? 'remove cue' : `remove ${this.cues.length} cues`;
  }

  override get risky() {
    return this.cues.length > 5;
  }

  apply(doc: SessionDoc): void {
    const gone = new Set(this.cues.map((id) => cueOf(doc, id).id));
    doc.cues = doc.cues.filter((c) => !gone.has(c.id));
  }
}

export class SetMarker extends Edit {
  @IsId() marker!: string;
  @IsInt() @Min(0) at!: number;
  @IsString() @Length(1, 60) name!: string;

  get label() {
    return 'set marker';
  }

  apply(doc: SessionDoc): void {
    const others = doc.markers.filter((m) => m.id !== this.marker);
    doc.markers = [...others, { id: this.marker, at: this.at, name: this.name }].sort((a, b) => a.at - b.at);
  }
}

export class RemoveMarker extends Edit {
  @IsId() marker!: string;

  get label() {
    return 'remove marker';
  }

  apply(doc: SessionDoc): void {
    if (!doc.markers.some((m) => m.id === this.marker))
      throw new EditRefused('That marker is not in the session any more.');
    doc.markers = doc.markers.filter((m) => m.id !== this.marker);
  }
}
