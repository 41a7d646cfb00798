// Forms of what sound goes through: sends, placements, tracks' and buses' own members.
import { ArrayMaxSize, IsArray, IsBoolean, IsIn, IsString } from 'class-validator';
import { LANE_SHAPES } from '@/core/lanes';
import { IsId, IsLayout, IsParam } from '../edits/edit';
import { MICROPHONE_KINDS } from '../document';
import { BUS_PARAMS, LINKED_PARAMS, PLACEMENT_PARAMS, SEND_PARAMS, TRACK_PARAMS } from '../params';
import { ClipForm, CompForm, TakeForm } from './clips';
import { Count, Dictionary, Figure, List, MayBeNull, MayLack, Part, Text } from './rules';
import { MOST_STAGES, StageForm } from './stages';

const MOST_CHANNELS = 128;
const MOST_SENDS = 256;
const MOST_CLIPS = 1_000_000;
const MOST_TAKES = 100_000;

export class PlacementForm {
  @IsParam(PLACEMENT_PARAMS.azimuth) azimuth!: number;
  @IsParam(PLACEMENT_PARAMS.distance) distance!: number;
  @IsParam(PLACEMENT_PARAMS.width) width!: number;
  @IsParam(PLACEMENT_PARAMS.lfe) lfe!: number;
  @MayLack() @IsParam(PLACEMENT_PARAMS.elevation) elevation?: number;
  @MayLack() @IsParam(PLACEMENT_PARAMS.spread) spread?: number;
  @MayLack() @Text(16) speaker?: string;
}

class SendForm {
  @IsId() id!: string;
  @IsId() to!: string;
  @IsIn(['arriving', 'before', 'after']) tap!: string;
  @IsBoolean() on!: boolean;
  @IsParam(SEND_PARAMS.level) level!: number;
  @MayBeNull() @Part(() => PlacementForm) placement!: object | null;
}

class FrozenForm {
  @IsId() media!: string;
  @Count() start!: number;
  @Figure(Number.MIN_SAFE_INTEGER, Number.MAX_SAFE_INTEGER) from!: number;
}

class LinkedForm {
  @IsBoolean() on!: boolean;
  @IsParam(LINKED_PARAMS.ceiling) ceiling!: number;
  @IsParam(LINKED_PARAMS.release) release!: number;
  @IsIn(['sample', 'true']) peaks!: string;
}

abstract class NodeForm {
  @IsId() id!: string;
  @Text(200) name!: string;
  @IsLayout() layout!: string;
  @IsBoolean() muted!: boolean;
  @MayBeNull() @IsId() destination!: string | null;
  @List(() => SendForm, MOST_SENDS) sends!: object[];
  @List(() => StageForm, MOST_STAGES) chain!: object[];
  @MayLack() @Part(() => FrozenForm) frozen?: object;
}

export class TrackForm extends NodeForm {
  @IsParam(TRACK_PARAMS.level) level!: number;
  @IsIn(['time', 'music']) anchor!: string;
  @IsBoolean() guide!: boolean;
  @Part(() => PlacementForm) placement!: object;
  @IsArray() @ArrayMaxSize(MOST_CHANNELS) inputs!: unknown[];
  @List(() => ClipForm, MOST_CLIPS) clips!: object[];
  @List(() => TakeForm, MOST_TAKES) takes!: object[];
  @MayLack() @Count() print?: number;
  @MayLack() @Text(200) compName?: string;
  @MayLack() @List(() => CompForm, 1000) otherComps?: object[];
}

export class BusForm extends NodeForm {
  @Text(8) code!: string;
  @IsIn(['stem', 'reference', 'bus', 'return']) kind!: string;
  @Figure(-1, 1000) hue!: number;
  @IsParam(BUS_PARAMS.trim) trim!: number;
  @IsParam(BUS_PARAMS.level) level!: number;
  @IsIn(['shared', 'each stem']) rooms!: string;
  @IsBoolean() throughSolo!: boolean;
  @MayBeNull() @Part(() => PlacementForm) placement!: object | null;
  @IsArray() @ArrayMaxSize(1000) @IsString({ each: true }) leftOut!: string[];
  @MayBeNull() @Part(() => LinkedForm) linked!: object | null;
}

class LanePointForm {
  @Count() at!: number;
  @Figure(-1e9, 1e9) value!: number;
  @IsIn(LANE_SHAPES) shape!: string;
}

class LaneTargetForm {
  @IsId() node!: string;
  @MayLack() @IsId() send?: string;
  @MayLack() @IsId() stage?: string;
  @Text(80) param!: string;
}

export class LaneForm {
  @Part(() => LaneTargetForm) target!: object;
  @IsBoolean() on!: boolean;
  @List(() => LanePointForm, 1_000_000) points!: object[];
}

class SheetForm {
  @Text(500) position!: string;
  @IsIn(MICROPHONE_KINDS) kind!: string;
  @IsBoolean() phantom!: boolean;
  @Figure(-100, 0) pad!: number;
  @IsBoolean() inverted!: boolean;
  @IsBoolean() lowCut!: boolean;
  @Figure(-100, 200) gain!: number;
  @MayLack() @Text(500) model?: string;
  @MayLack() @Text(5000) note?: string;
}

export class LineForm {
  @IsId() id!: string;
  @IsId() device!: string;
  @Count() channel!: number;
  @Text(200) name!: string;
  @List(() => StageForm, MOST_STAGES) chain!: object[];
  @Part(() => SheetForm) sheet!: object;
  @IsIn(['both', 'processed', 'dry']) record!: string;
}

class MonitorForm {
  @Figure(-1000, 100) level!: number;
  @IsBoolean() dimmed!: boolean;
  @IsBoolean() muted!: boolean;
}

export class SeatForm {
  @IsArray() @IsString({ each: true }) soloed!: string[];
  @IsArray() @IsString({ each: true }) armed!: string[];
  @Dictionary((v) => ['always', 'never', 'armed', 'rolling'].includes(v as string), 100_000) hearing!: object;
  @Part(() => MonitorForm) monitor!: object;
}
