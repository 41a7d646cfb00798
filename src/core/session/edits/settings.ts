import { Type } from 'class-transformer';
import {
  ArrayNotEmpty,
  IsArray,
  IsBoolean,
  IsIn,
  IsInt,
  IsNumber,
  IsOptional,
  IsString,
  Length,
  Max,
  Min,
  ValidateNested,
} from 'class-validator';
import { layoutOf, type LayoutId } from '@/core/speakers';
import { TempoMap } from '@/core/units';
import { busOf, EditRefused, MONITOR, type Click, type SessionDoc, type Settings, type Tail } from '../document';
import { carryMusic } from '../anchors';
import { Edit, IsId, IsLayout } from './edit';

/** Click, count-in, guides, buffer, and what leads into a cue. */
/** Seconds that a tail may take to decay, and those that one begins with when they are typed. */
const MOST_TAIL = 20;
const TYPED_TAIL = 2;

export class SetWork extends Edit {
  @IsOptional() @IsIn(['never', 'recording', 'always']) click?: Click['when'];
  @IsOptional() @IsIn(['tick', 'wood', 'tone']) clickSound?: Click['sound'];
  @IsOptional() @IsNumber() @Min(-60) @Max(0) clickLevel?: number;
  /** Label of a loudspeaker of the mix; null: in front. */
  @IsOptional() @IsString() @Length(1, 12) clickTo?: string | null;
  @IsOptional() @IsInt() @Min(0) @Max(4) countIn?: number;
  @IsOptional() @IsIn(['play', 'dim', 'mute']) guides?: Settings['guides'];
  @IsOptional() @IsIn(['short', 'middle', 'long']) buffer?: Settings['buffer'];
  @IsOptional() @IsBoolean() beeps?: boolean;
  @IsOptional() @IsNumber() @Min(0.2) @Max(3) beepGap?: number;
  @IsOptional() @IsNumber() @Min(0) @Max(10) streamer?: number;
  @IsOptional() @IsBoolean() flash?: boolean;
  @IsOptional() @IsNumber() @Min(0) @Max(30) rollBack?: number;
  @IsOptional() @IsIn(['none', 'decayed', 'time']) tail?: 'none' | Tail['until'];
  @IsOptional() @IsNumber() @Min(0.1) @Max(60) tailSeconds?: number;

  get label() {
    return 'change working settings';
  }

  apply(doc: SessionDoc): void {
    const { settings } = doc;
    if (this.click !== undefined) settings.click.when = this.click;
    if (this.clickSound !== undefined) settings.click.sound = this.clickSound;
    if (this.clickLevel !== undefined) settings.click.level = this.clickLevel;
    if (this.clickTo === null) delete settings.click.to;
    else if (this.clickTo !== undefined) {
      const layout = layoutOf(doc.format.layout);
      if (!layout.speakers.some((s) => s.label === this.clickTo))
        throw new EditRefused(`The mix is in ${layout.name} and has no ${this.clickTo}; the click stays where it was.`);
      settings.click.to = this.clickTo;
    }
    if (this.countIn !== undefined) settings.countIn = this.countIn;
    if (this.guides !== undefined) settings.guides = this.guides;
    if (this.buffer !== undefined) settings.buffer = this.buffer;
    if (this.beeps !== undefined) settings.lead.beeps = this.beeps;
    if (this.beepGap !== undefined) settings.lead.beepGap = this.beepGap;
    if (this.streamer !== undefined) settings.lead.streamer = this.streamer;
    if (this.flash !== undefined) settings.lead.flash = this.flash;
    if (this.rollBack !== undefined) settings.rollBack = this.rollBack;
    this.setTail(settings);
  }

  private setTail(settings: Settings): void {
    if (this.tail === 'none') {
      delete settings.tail;
      return;
    }
    if (this.tail === undefined && this.tailSeconds === undefined) return;
    const until = this.tail ?? settings.tail?.until ?? 'time';
    settings.tail = { until, seconds: this.tailSeconds ?? (until === 'decayed' ? MOST_TAIL : TYPED_TAIL) };
  }
}

/** Where new tracks of a width go by themselves; null: nowhere. */
export class SetDefaultDestination extends Edit {
  @IsLayout() layout!: LayoutId;
  @IsOptional() @IsId() destination!: string | null;

  get label() {
    return 'change default destination';
  }

  apply(doc: SessionDoc): void {
    const to = this.destination ?? null;
    if (to === null) delete doc.destinations[this.layout];
    else {
      if (to !== MONITOR) busOf(doc, to);
      doc.destinations[this.layout] = to;
    }
  }
}

class TempoRef {
  @IsNumber() @Min(0) beat!: number;
  @IsNumber() @Min(5) @Max(999) tempo!: number;
  @IsBoolean() glides!: boolean;
}

class MeterRef {
  @IsInt() @Min(1) bar!: number;
  @IsInt() @Min(1) @Max(64) beats!: number;
  @IsIn([1, 2, 4, 8, 16, 32]) value!: number;
}

/** Replaces the tempo map. Clips of musical tracks move by their starts; lengths stay. */
export class SetTempo extends Edit {
  @IsArray() @ArrayNotEmpty() @ValidateNested({ each: true }) @Type(() => TempoRef) tempos!: TempoRef[];
  @IsArray() @ArrayNotEmpty() @ValidateNested({ each: true }) @Type(() => MeterRef) meters!: MeterRef[];

  get label() {
    return 'change tempo map';
  }

  override get risky() {
    return true;
  }

  apply(doc: SessionDoc): void {
    const next = {
      tempos: this.tempos.map(({ beat, tempo, glides }) => ({ beat, tempo, glides })),
      meters: this.meters.map(({ bar, beats, value }) => ({ bar, beats, value })),
    };
    try {
      new TempoMap(next.tempos, next.meters);
    } catch (error) {
      throw new EditRefused(`Tempo map: ${(error as Error).message}; it was left as it is.`);
    }
    carryMusic(doc, next);
    doc.tempo = next;
  }
}
