import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  IsArray,
  IsBoolean,
  IsIn,
  IsInt,
  IsNumber,
  IsObject,
  IsOptional,
  Min,
  ValidateNested,
} from 'class-validator';
import { LANE_SHAPES, rewritten, type LanePoint, type LaneShape } from '@/core/lanes';
import { EditRefused, type Lane, type LaneTarget, type SessionDoc } from '../document';
import { CLICK, laneKey, laneParam, pointsFault } from '../lanes';
import type { Param } from '../params';
import { Edit, IsId } from './edit';

class PointRef implements LanePoint {
  @IsInt() @Min(0) at!: number;
  @IsNumber() value!: number;
  @IsIn(LANE_SHAPES) shape!: LaneShape;
}

class TargetRef implements LaneTarget {
  @IsId() node!: string;
  @IsOptional() @IsId() send?: string;
  @IsOptional() @IsId() stage?: string;
  @IsId() param!: string;
}

/** Points of one lane at a time. */
const MOST_POINTS = 20_000;

function plain({ node, send, stage, param }: LaneTarget): LaneTarget {
  return { node, ...(send ? { send } : {}), ...(stage ? { stage } : {}), param };
}

function paramOf(doc: SessionDoc, target: LaneTarget): Param {
  const param = laneParam(doc, target);
  if (param) return param;
  const node = [...doc.tracks, ...doc.buses].find((n) => n.id === target.node);
  if (!node && target.node !== CLICK) throw new EditRefused(`That track or bus is not in the session any more.`);
  throw new EditRefused(`${node?.name ?? 'The click'} has no "${target.param}" that can follow the timeline.`);
}

function laneOf(doc: SessionDoc, target: LaneTarget): Lane {
  const lane = doc.lanes[laneKey(target)];
  if (!lane) throw new EditRefused('There is no such lane any more.');
  return lane;
}

/** Puts points in the place of those in a stretch of a lane; makes the lane where there is none. */
export class WriteLane extends Edit {
  @IsObject() @ValidateNested() @Type(() => TargetRef) target!: TargetRef;
  @IsInt() @Min(0) from!: number;
  @IsInt() @Min(0) to!: number;
  @IsArray() @ArrayMaxSize(MOST_POINTS) @ValidateNested({ each: true }) @Type(() => PointRef) points!: PointRef[];

  get label() {
    return `write ${this.target.param} lane`;
  }

  apply(doc: SessionDoc): void {
    const param = paramOf(doc, this.target);
    if (this.to < this.from) throw new EditRefused('The stretch would end before it begins.');
    const points = this.points.map(({ at, value, shape }): LanePoint => ({ at, value, shape }));
    if (points.some((p) => p.at < this.from || p.at > this.to))
      throw new EditRefused('A point would lie outside the stretch that is written.');
    const key = laneKey(this.target);
    const lane = doc.lanes[key];
    const next = rewritten(lane?.points ?? [], this.from, this.to, points);
    const fault = pointsFault(param, next);
    if (fault) throw new EditRefused(`This lane cannot be: ${fault}. Nothing was changed.`);
    if (next.length === 0) delete doc.lanes[key];
    else if (lane) lane.points = next;
    else doc.lanes[key] = { target: plain(this.target), on: true, points: next };
  }
}

/** Whether a value follows its lane, or is as it is set by hand. */
export class SetLane extends Edit {
  @IsObject() @ValidateNested() @Type(() => TargetRef) target!: TargetRef;
  @IsBoolean() on!: boolean;

  get label() {
    return `switch ${this.target.param} lane ${this.on ? 'on' : 'off'}`;
  }

  apply(doc: SessionDoc): void {
    laneOf(doc, this.target).on = this.on;
  }
}

export class RemoveLane extends Edit {
  @IsObject() @ValidateNested() @Type(() => TargetRef) target!: TargetRef;

  get label() {
    return `remove ${this.target.param} lane`;
  }

  apply(doc: SessionDoc): void {
    laneOf(doc, this.target);
    delete doc.lanes[laneKey(this.target)];
  }
}
