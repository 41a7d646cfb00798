import { layoutOf } from '@/core/speakers';
import { IsBoolean, IsIn, IsOptional } from 'class-validator';
import { circleOf, TAPS, type Tap } from '@/core/paths';
import { busOf, EditRefused, nodeOf, type Bus, type Send, type SessionDoc, type Track } from '../document';
import { SEND_PARAMS } from '../params';
import { Edit, IsId, IsParam } from './edit';
import { OptionalPlacement, plainPlacement, type PlacementRef } from './tracks';

function sendIn(owner: Track | Bus, id: string): Send {
  const found = owner.sends.find((s) => s.id === id);
  if (!found) throw new EditRefused(`${owner.name} has no such send any more.`);
  return found;
}

// A send that closes a circle would be silent for ever: it is refused, with the circle.
function refuseCircle(doc: SessionDoc, from: Track | Bus, to: Bus): void {
  const circle = circleOf(doc, from.id, to.id);
  if (!circle) return;
  const name = (id: string) => nodeOf(doc, id).name;
  const way = [...circle.map(name), to.name].join(' → ');
  throw new EditRefused(
    circle.length === 1
      ? `${to.name} cannot be sent to itself.`
      : `A send from ${from.name} to ${to.name} would run in a circle: ${way}. Nothing was changed.`,
  );
}

/** A copy of a track's or bus's sound to a return or another bus. */
export class AddSend extends Edit {
  /** Track or bus. */
  @IsId() owner!: string;
  @IsId() id!: string;
  @IsId() to!: string;
  @IsOptional() @IsParam(SEND_PARAMS.level) level?: number;
  @IsOptional() @IsIn(TAPS) tap?: Tap;

  get label() {
    return 'add send';
  }

  apply(doc: SessionDoc): void {
    const owner = nodeOf(doc, this.owner);
    const to = busOf(doc, this.to);
    if ([...doc.tracks, ...doc.buses].some((n) => n.sends.some((s) => s.id === this.id)))
      throw new EditRefused(`A send with the id "${this.id}" is there already.`);
    refuseCircle(doc, owner, to);
    const { level = SEND_PARAMS.level.default, tap = 'after' } = this;
    owner.sends.push({ id: this.id, to: to.id, level, tap, on: true, placement: null });
  }
}

export class SetSend extends Edit {
  @IsId() owner!: string;
  @IsId() send!: string;
  @IsOptional() @IsId() to?: string;
  @IsOptional() @IsParam(SEND_PARAMS.level) level?: number;
  @IsOptional() @IsIn(TAPS) tap?: Tap;
  @IsOptional() @IsBoolean() on?: boolean;
  /** Null: as the track stands, or speaker by speaker. */
  @OptionalPlacement() placement?: PlacementRef | null;

  get label() {
    const what = (['level', 'tap', 'on', 'to', 'placement'] as const).find((k) => this[k] !== undefined);
    return what === 'on' ? `switch send ${this.on ? 'on' : 'off'}` : `set send ${what ?? ''}`.trim();
  }

  apply(doc: SessionDoc): void {
    const owner = nodeOf(doc, this.owner);
    const send = sendIn(owner, this.send);
    const to = busOf(doc, this.to ?? send.to);
    if (to.id !== send.to || (this.on && !send.on)) refuseCircle(doc, owner, to);
    if (this.placement && owner.layout !== 'mono' && owner.layout !== 'stereo')
      throw new EditRefused(
        `${owner.name} is ${layoutOf(owner.layout).name}: its send goes speaker by speaker and has no place.`,
      );
    send.to = to.id;
    if (this.level !== undefined) send.level = this.level;
    if (this.tap !== undefined) send.tap = this.tap;
    if (this.on !== undefined) send.on = this.on;
    if (this.placement !== undefined) send.placement = this.placement && plainPlacement(this.placement);
  }
}

export class RemoveSend extends Edit {
  @IsId() owner!: string;
  @IsId() send!: string;

  get label() {
    return 'remove send';
  }

  apply(doc: SessionDoc): void {
    const owner = nodeOf(doc, this.owner);
    sendIn(owner, this.send);
    owner.sends = owner.sends.filter((s) => s.id !== this.send);
  }
}
