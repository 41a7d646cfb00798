import { Type } from 'class-transformer';
import {
  IsBoolean,
  IsIn,
  IsInt,
  IsOptional,
  IsString,
  Length,
  Matches,
  Max,
  Min,
  IsObject,
  ValidateIf,
  ValidateNested,
  ArrayNotEmpty,
  IsArray,
} from 'class-validator';
import { layoutOf, SPEAKER_LABEL, widthOf, type LayoutId, type Placement } from '@/core/speakers';
import { newTrack } from '../create';
import { EditRefused, trackOf, type Anchor, type SessionDoc, type Track } from '../document';
import { PLACEMENT_PARAMS, TRACK_PARAMS } from '../params';
import { Edit, IsId, IsLayout, IsParam } from './edit';

export class AddTrack extends Edit {
  @IsId() id!: string;
  @IsString() @Length(1, 60) name!: string;
  @IsLayout() layout!: LayoutId;
  @IsOptional() @IsId() destination!: string | null;

  get label() {
    return `add track ${this.name}`;
  }

  apply(doc: SessionDoc): void {
    if (doc.tracks.some((t) => t.id === this.id))
      throw new EditRefused(`A track with the id "${this.id}" is there already.`);
    doc.tracks.push(newTrack(this.id, this.name, this.layout, this.destination ?? null));
  }
}

export class RemoveTrack extends Edit {
  @IsId() track!: string;

  get label() {
    return 'remove track';
  }

  override get risky() {
    return true;
  }

  apply(doc: SessionDoc): void {
    trackOf(doc, this.track);
    doc.tracks = doc.tracks.filter((t) => t.id !== this.track);
  }
}

/** Any of a track's plain settings. */
export class SetTrack extends Edit {
  @IsId() track!: string;
  @IsOptional() @IsString() @Length(1, 60) name?: string;
  @IsOptional() @IsParam(TRACK_PARAMS.level) level?: number;
  @IsOptional() @IsBoolean() muted?: boolean;
  @IsOptional() @IsIn(['time', 'music']) anchor?: Anchor;
  @IsOptional() @IsBoolean() guide?: boolean;
  /** Another width, while the track holds no sound: its files have as many channels as it had. */
  @IsOptional() @IsLayout() layout?: LayoutId;

  get label() {
    const what = (['name', 'level', 'muted', 'anchor', 'guide', 'layout'] as const).find((k) => this[k] !== undefined);
    return `set track ${what ?? ''}`.trim();
  }

  apply(doc: SessionDoc): void {
    const track = trackOf(doc, this.track);
    if (this.name !== undefined) track.name = this.name.trim() || track.name;
    if (this.level !== undefined) track.level = this.level;
    if (this.muted !== undefined) track.muted = this.muted;
    if (this.anchor !== undefined) track.anchor = this.anchor;
    if (this.guide !== undefined) track.guide = this.guide;
    if (this.layout !== undefined && this.layout !== track.layout) this.widen(track, this.layout);
  }

  private widen(track: Track, layout: LayoutId): void {
    const width = widthOf(layout);
    const holds = track.clips.length + track.takes.length + (track.otherComps ?? []).length;
    if (holds > 0 && width !== widthOf(track.layout))
      throw new EditRefused(
        `${track.name} holds sound in ${layoutOf(track.layout).name}, so its width stays. Make a track in ${layoutOf(layout).name} beside it.`,
      );
    track.layout = layout;
    track.inputs = Array.from({ length: width }, (_, c) => track.inputs[c] ?? null);
  }
}

export class PlacementRef {
  @IsParam(PLACEMENT_PARAMS.azimuth) azimuth!: number;
  @IsParam(PLACEMENT_PARAMS.distance) distance!: number;
  @IsParam(PLACEMENT_PARAMS.width) width!: number;
  @IsParam(PLACEMENT_PARAMS.lfe) lfe!: number;
  @IsOptional() @IsParam(PLACEMENT_PARAMS.elevation) elevation?: number;
  @IsOptional() @IsParam(PLACEMENT_PARAMS.spread) spread?: number;
  /** In this speaker alone. */
  @IsOptional() @Matches(SPEAKER_LABEL, { message: 'speaker must be the label of one' }) speaker?: string;
}

/** A member that holds a place; null where there is none, absent where it stays. */
export const OptionalPlacement = (): PropertyDecorator => (target, key) => {
  ValidateIf((e: Record<string | symbol, unknown>) => e[key] !== null && e[key] !== undefined)(target, key);
  IsObject()(target, key);
  ValidateNested()(target, key);
  Type(() => PlacementRef)(target, key);
};

/** As a document keeps it: what stands at ear height and is not spread says nothing of it. */
export function plainPlacement({ azimuth, distance, width, lfe, ...rest }: PlacementRef): Placement {
  const { elevation = 0, spread = 0, speaker } = rest;
  const more = {
    ...(elevation !== 0 ? { elevation } : {}),
    ...(spread !== 0 ? { spread } : {}),
    ...(speaker ? { speaker } : {}),
  };
  return { azimuth, distance, width, lfe, ...more };
}

export class PlaceTrack extends Edit {
  @IsId() track!: string;
  @IsObject() @ValidateNested() @Type(() => PlacementRef) placement!: PlacementRef;

  get label() {
    return 'place track';
  }

  apply(doc: SessionDoc): void {
    trackOf(doc, this.track).placement = plainPlacement(this.placement);
  }
}

/** Reorders: `order` holds every track's id once. */
export class OrderTracks extends Edit {
  @IsArray() @ArrayNotEmpty() @IsId({ each: true }) order!: string[];

  get label() {
    return 'reorder tracks';
  }

  apply(doc: SessionDoc): void {
    const tracks = this.order.map((id) => trackOf(doc, id));
    if (new Set(this.order).size !== doc.tracks.length)
      throw new EditRefused('The new order must name every track once.');
    doc.tracks = tracks;
  }
}

export class Patch extends Edit {
  @IsId() track!: string;
  @IsInt() @Min(0) @Max(31) channel!: number;
  /** Id of the line; absent: the cord is taken out. */
  @IsOptional() @IsId() line?: string | null;

  get label() {
    return this.line ? 'patch' : 'unpatch';
  }

  apply(doc: SessionDoc): void {
    const track = trackOf(doc, this.track);
    if (this.channel >= widthOf(track.layout)) {
      throw new EditRefused(`${track.name} is ${layoutOf(track.layout).name}; it has no channel ${this.channel + 1}.`);
    }
    if (this.line && !doc.lines.some((l) => l.id === this.line))
      throw new EditRefused(`That line is not in the line sheet.`);
    const twice = this.line ? track.inputs.findIndex((l, c) => l === this.line && c !== this.channel) : -1;
    if (twice >= 0) {
      throw new EditRefused(
        `${track.name} has this line on channel ${twice + 1} already; each channel needs a line of its own.`,
      );
    }
    track.inputs[this.channel] = this.line ?? null;
  }
}
