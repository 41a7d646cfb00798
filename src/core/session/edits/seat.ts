import { IsBoolean, IsIn, IsOptional } from 'class-validator';
import { busOf, trackOf, type InputHearing, type SessionDoc } from '../document';
import { MONITOR_PARAMS } from '../params';
import { monitorOf } from '../seat';
import { Edit, IsId, IsParam } from './edit';

/** Changes what belongs to the person at the window: it goes to the seat, not into the session. */
abstract class SeatEdit extends Edit {
  override get personal() {
    return true;
  }
}

export class SeatTrack extends SeatEdit {
  @IsId() track!: string;
  @IsOptional() @IsBoolean() soloed?: boolean;
  @IsOptional() @IsBoolean() armed?: boolean;
  @IsOptional() @IsIn(['always', 'never', 'armed', 'rolling']) hearing?: InputHearing;

  get label() {
    return this.armed !== undefined ? 'arm track' : this.soloed !== undefined ? 'solo track' : 'hear input';
  }

  apply(doc: SessionDoc): void {
    const track = trackOf(doc, this.track);
    if (this.soloed !== undefined) track.soloed = this.soloed;
    if (this.armed !== undefined) track.armed = this.armed;
    if (this.hearing !== undefined) track.hearing = this.hearing;
  }
}

export class SeatBus extends SeatEdit {
  @IsId() bus!: string;
  @IsBoolean() soloed!: boolean;

  get label() {
    return 'solo bus';
  }

  apply(doc: SessionDoc): void {
    busOf(doc, this.bus).soloed = this.soloed;
  }
}

export class SetMonitor extends SeatEdit {
  @IsOptional() @IsParam(MONITOR_PARAMS.level) level?: number;
  @IsOptional() @IsBoolean() dimmed?: boolean;
  @IsOptional() @IsBoolean() muted?: boolean;

  get label() {
    return 'set monitor';
  }

  apply(doc: SessionDoc): void {
    const { level, dimmed, muted } = monitorOf(doc);
    doc.monitor = { level: this.level ?? level, dimmed: this.dimmed ?? dimmed, muted: this.muted ?? muted };
  }
}
