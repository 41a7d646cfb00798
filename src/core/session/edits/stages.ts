import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  ArrayNotEmpty,
  IsArray,
  IsBoolean,
  IsInt,
  IsObject,
  IsOptional,
  IsString,
  Max,
  Min,
  ValidateIf,
  ValidateNested,
} from 'class-validator';
import { keyWouldLoop } from '@/core/paths';
import { stageKind, STAGE_KINDS, type StageValues } from '@/core/stages';
import { newStage } from '../create';
import { EditRefused, type SessionDoc, type Stage } from '../document';
import { chainOf } from '../owners';
import { Edit, IsId, OwnerRef, OwnerType } from './edit';

function stageIn(doc: SessionDoc, owner: OwnerRef, id: string): Stage {
  const found = chainOf(doc, owner).find((s) => s.id === id);
  if (!found) throw new EditRefused(`That stage is not in the chain any more.`);
  return found;
}

export class AddStage extends Edit {
  @IsObject() @ValidateNested() @OwnerType() owner!: OwnerRef;
  @IsId() id!: string;
  @IsId() stage!: string;
  /** Place in the chain; absent: at the end. */
  @IsOptional() @IsInt() @Min(0) at?: number;

  get label() {
    return 'add stage';
  }

  apply(doc: SessionDoc): void {
    if (!STAGE_KINDS.some((k) => k.type === this.stage)) {
      throw new EditRefused(
        `There is no stage "${this.stage}"; there are ${STAGE_KINDS.map((k) => k.type).join(', ')}.`,
      );
    }
    const chain = chainOf(doc, this.owner);
    if (chain.some((s) => s.id === this.id))
      throw new EditRefused(`A stage with the id "${this.id}" is there already.`);
    chain.splice(this.at ?? chain.length, 0, newStage(this.id, this.stage, true));
  }
}

export class RemoveStage extends Edit {
  @IsObject() @ValidateNested() @OwnerType() owner!: OwnerRef;
  @IsId() stage!: string;

  get label() {
    return 'remove stage';
  }

  apply(doc: SessionDoc): void {
    stageIn(doc, this.owner, this.stage);
    const chain = chainOf(doc, this.owner);
    chain.splice(
      chain.findIndex((s) => s.id === this.stage),
      1,
    );
  }
}

export class MoveStage extends Edit {
  @IsObject() @ValidateNested() @OwnerType() owner!: OwnerRef;
  @IsId() stage!: string;
  @IsInt() @Min(0) @Max(63) to!: number;

  get label() {
    return 'move stage';
  }

  apply(doc: SessionDoc): void {
    const stage = stageIn(doc, this.owner, this.stage);
    const chain = chainOf(doc, this.owner);
    const plain = JSON.parse(JSON.stringify(stage)) as Stage;
    chain.splice(
      chain.findIndex((s) => s.id === this.stage),
      1,
    );
    chain.splice(this.to, 0, plain);
  }
}

export class SwitchStage extends Edit {
  @IsObject() @ValidateNested() @OwnerType() owner!: OwnerRef;
  @IsId() stage!: string;
  @IsBoolean() on!: boolean;

  get label() {
    return this.on ? 'switch stage on' : 'bypass stage';
  }

  apply(doc: SessionDoc): void {
    stageIn(doc, this.owner, this.stage).on = this.on;
  }
}

/** Lets a stage listen to another track or bus (external side-chain), or to its own input again. */
export class SetStageKey extends Edit {
  @IsObject() @ValidateNested() @OwnerType() owner!: OwnerRef;
  @IsId() stage!: string;
  /** Null: its own input. */
  @ValidateIf((e: SetStageKey) => e.key !== null) @IsId() key!: string | null;

  get label() {
    return 'set key';
  }

  apply(doc: SessionDoc): void {
    const stage = stageIn(doc, this.owner, this.stage);
    const kind = stageKind(stage.type);
    if (this.key === null) {
      delete stage.key;
      return;
    }
    if (!kind.takesKey) throw new EditRefused(`${kind.name} listens to its own input only.`);
    if (!doc.tracks.some((t) => t.id === this.key) && !doc.buses.some((b) => b.id === this.key))
      throw new EditRefused(`The track or bus to listen to is not in the session any more.`);
    if (this.owner.kind === 'line')
      throw new EditRefused('A line cannot listen to a track: it sounds before all of them.');
    if (keyWouldLoop(doc, this.owner.id, this.key))
      throw new EditRefused('That sound comes out of this very chain; listening to it would run in a circle.');
    stage.key = this.key;
  }
}

/** Sets one or more of a stage's values; each is checked against the stage's own limits. */
export class SetStage extends Edit {
  @IsObject() @ValidateNested() @OwnerType() owner!: OwnerRef;
  @IsId() stage!: string;
  @IsObject() values!: Record<string, number>;

  get label() {
    return 'set stage';
  }

  apply(doc: SessionDoc): void {
    const stage = stageIn(doc, this.owner, this.stage);
    const kind = stageKind(stage.type);
    for (const [id, value] of Object.entries(this.values)) {
      const param = kind.params.find((p) => p.id === id);
      if (!param) throw new EditRefused(`${kind.name} has no value "${id}".`);
      if (!Number.isFinite(value) || value < param.min || value > param.max) {
        throw new EditRefused(
          `${kind.name}: ${param.label} goes from ${param.min} to ${param.max} ${param.unit}; ${String(value)} was not taken.`,
        );
      }
    }
    Object.assign(stage.values, this.values);
  }
}

class PlainStage {
  @IsId() id!: string;
  @IsString() type!: string;
  @IsBoolean() on!: boolean;
  @IsObject() values!: StageValues;
}

// Values go through the edit that checks them; a stage is built from its defaults first.
function build(stage: PlainStage): Stage {
  if (!STAGE_KINDS.some((k) => k.type === stage.type))
    throw new EditRefused(`There is no stage "${stage.type}"; the chain was left as it is.`);
  const made = newStage(stage.id, stage.type, stage.on);
  for (const param of stageKind(stage.type).params) {
    const value = stage.values[param.id];
    if (value === undefined) continue;
    if (typeof value !== 'number' || !(value >= param.min && value <= param.max))
      throw new EditRefused(
        `${stageKind(stage.type).name}: ${param.label} goes from ${param.min} to ${param.max}, not ${String(value)}. The chain was left as it is.`,
      );
    made.values[param.id] = value;
  }
  return made;
}

/** Puts a whole chain in the place of the present one: a preset, or the other side of a comparison. */
export class SetChain extends Edit {
  @IsObject() @ValidateNested() @OwnerType() owner!: OwnerRef;
  @IsArray() @ArrayMaxSize(64) @ValidateNested({ each: true }) @Type(() => PlainStage) chain!: PlainStage[];

  get label() {
    return 'set chain';
  }

  apply(doc: SessionDoc): void {
    const made = this.chain.map(build);
    if (new Set(made.map((s) => s.id)).size !== made.length)
      throw new EditRefused('Two stages of the chain have one id; it was left as it is.');
    const chain = chainOf(doc, this.owner);
    chain.splice(0, chain.length, ...made);
  }
}

/** Copies a chain, or one stage of it, to others: a stage is put at the end of theirs, a chain in the place of theirs. */
export class CopyChain extends Edit {
  @IsObject() @ValidateNested() @OwnerType() owner!: OwnerRef;
  @IsArray() @ArrayNotEmpty() @ValidateNested({ each: true }) @Type(() => OwnerRef) to!: OwnerRef[];
  @IsOptional() @IsId() stage?: string;

  get label() {
    const what = this.stage ? 'stage' : 'chain';
    return this.to.length === 1 ? `copy ${what}` : `copy ${what} to ${this.to.length}`;
  }

  apply(doc: SessionDoc): void {
    const from = this.stage ? [stageIn(doc, this.owner, this.stage)] : chainOf(doc, this.owner);
    const plain = JSON.parse(JSON.stringify(from)) as Stage[];
    for (const owner of this.to) {
      const chain = chainOf(doc, owner);
      const kept = this.stage ? [...chain] : [];
      const taken = new Set(kept.map((s) => s.id));
      for (const stage of plain) {
        // Ids follow from what is there, so that every window makes the same ones.
        let id = `${owner.id}-${stage.type}`.slice(0, 70);
        for (let i = 2; taken.has(id); i++) id = `${owner.id}-${stage.type}`.slice(0, 70) + `-${i}`;
        taken.add(id);
        // A key belongs to the place it was set for.
        kept.push({ id, type: stage.type, on: stage.on, values: { ...stage.values } });
      }
      chain.splice(0, chain.length, ...kept);
    }
  }
}
