import { Type } from 'class-transformer';
import {
  IsArray,
  IsBoolean,
  IsIn,
  IsObject,
  IsOptional,
  IsString,
  Length,
  ValidateIf,
  ValidateNested,
} from 'class-validator';
import { busOf, EditRefused, referenceOf, type Bus, type Linked, type SessionDoc } from '../document';
import { freshName, makeBus } from '../newBuses';
import { LINKED_PARAMS } from '../params';
import { Edit, IsId, IsParam } from './edit';

function stems(doc: SessionDoc, ids: readonly string[]): string[] {
  for (const id of ids)
    if (busOf(doc, id).kind !== 'stem')
      throw new EditRefused(`${busOf(doc, id).name} is no stem; only stems are left out.`);
  return [...new Set(ids)];
}

/** One more reference, of all stems but those it leaves out; it is printed, and heard once it is led to the monitor. */
export class AddReference extends Edit {
  @IsId() id!: string;
  @IsString() @Length(1, 40) name!: string;
  @IsArray() @IsId({ each: true }) leftOut!: string[];

  get label() {
    return `new reference ${this.name}`;
  }

  apply(doc: SessionDoc): void {
    const name = freshName(doc, this.name, 'reference');
    const leftOut = stems(doc, this.leftOut);
    const layout = referenceOf(doc)?.layout ?? doc.format.layout;
    makeBus(doc, { id: this.id, name, kind: 'reference', layout }).leftOut = leftOut;
  }
}

class LinkedRef implements Linked {
  @IsBoolean() on!: boolean;
  @IsParam(LINKED_PARAMS.ceiling) ceiling!: number;
  @IsParam(LINKED_PARAMS.release) release!: number;
  @IsIn(['sample', 'true']) peaks!: Linked['peaks'];
}

/** Which stems a reference leaves out, and whether its stems are limited together. */
export class SetReference extends Edit {
  @IsId() bus!: string;
  @IsOptional() @IsArray() @IsId({ each: true }) leftOut?: string[];
  /** Null: its own chain only. */
  @ValidateIf((e: SetReference) => e.linked !== null && e.linked !== undefined)
  @IsObject()
  @ValidateNested()
  @Type(() => LinkedRef)
  linked?: LinkedRef | null;

  get label() {
    return this.linked !== undefined ? 'set linked limiting' : 'set stems of the reference';
  }

  apply(doc: SessionDoc): void {
    const bus: Bus = busOf(doc, this.bus);
    if (bus.kind !== 'reference') throw new EditRefused(`${bus.name} is no reference.`);
    if (this.leftOut !== undefined) bus.leftOut = stems(doc, this.leftOut);
    if (this.linked === null) bus.linked = null;
    else if (this.linked !== undefined) {
      const { on, ceiling, release, peaks } = this.linked;
      bus.linked = { on, ceiling, release, peaks };
    }
  }
}
