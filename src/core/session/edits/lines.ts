import { IsInt, IsString, Length, Max, Min } from 'class-validator';
import { lineId, newLine } from '../create';
import { EditRefused, type SessionDoc } from '../document';
import { Edit, IsId } from './edit';

/** Makes a device's line known to the session, with the voice chain; a known one stays as it is. */
export class AddLine extends Edit {
  @IsId() device!: string;
  @IsInt() @Min(0) @Max(127) channel!: number;
  @IsString() @Length(1, 60) name!: string;

  get label() {
    return 'add line';
  }

  apply(doc: SessionDoc): void {
    if (doc.lines.some((l) => l.id === lineId(this.device, this.channel))) return;
    doc.lines.push(newLine(this.device, this.channel, this.name));
  }
}

export class NameLine extends Edit {
  @IsId() line!: string;
  @IsString() @Length(1, 60) name!: string;

  get label() {
    return 'name line';
  }

  apply(doc: SessionDoc): void {
    const line = doc.lines.find((l) => l.id === this.line);
    if (!line) throw new EditRefused(`There is no line "${this.line}".`);
    line.name = this.name;
  }
}
