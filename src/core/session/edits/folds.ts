import { IsNumber, IsString, Length, Max, Min } from 'class-validator';
import { EditRefused, type SessionDoc } from '../document';
import { Edit, IsId } from './edit';

/** Coefficients for fold-downs under a name, made or changed. Linear. */
export class SetFold extends Edit {
  @IsId() id!: string;
  @IsString() @Length(1, 40) name!: string;
  @IsNumber() @Min(0) @Max(1) centre!: number;
  @IsNumber() @Min(0) @Max(1) surround!: number;
  @IsNumber() @Min(0) @Max(1) lfe!: number;

  get label() {
    return 'change fold-down';
  }

  apply(doc: SessionDoc): void {
    const { id, centre, surround, lfe } = this;
    const name = this.name.trim();
    const folds = (doc.folds ??= []);
    if (folds.some((f) => f.id !== id && f.name.toLowerCase() === name.toLowerCase()))
      throw new EditRefused(`There are coefficients called ${name} already; nothing was changed.`);
    const set = { id, name, centre, surround, lfe };
    const at = folds.findIndex((f) => f.id === id);
    if (at < 0) folds.push(set);
    else folds[at] = set;
  }
}

/** Takes coefficients away; no file may be folded by them. */
export class RemoveFold extends Edit {
  @IsId() id!: string;

  get label() {
    return 'remove fold-down';
  }

  apply(doc: SessionDoc): void {
    const found = doc.folds?.find((f) => f.id === this.id);
    if (!found) throw new EditRefused('Those coefficients are not in the session any more.');
    const user = doc.deliverables.find((d) => d.fold === this.id);
    if (user) throw new EditRefused(`${user.token} is folded by ${found.name}; choose others for it first.`);
    doc.folds = doc.folds!.filter((f) => f !== found);
  }
}
