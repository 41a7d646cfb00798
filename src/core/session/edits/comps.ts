import { IsIn, IsInt, IsOptional, IsString, Length } from 'class-validator';
import { EditRefused, trackOf, type FadeCurve, type SessionDoc, type Take, type Track } from '../document';
import { FADE_CURVES } from '../fades';
import { placeWithJoints } from '../placing';
import { keepReachable } from '../reachable';
import { Edit, IsId } from './edit';

export function takeOf(track: Track, id: string): Take {
  const found = track.takes.find((t) => t.id === id);
  if (!found) throw new EditRefused('That take is not on the track any more.');
  return found;
}

/** Brings a range of a take into the comp. Takes stay as they are; what it replaces can be chosen again. */
export class CompRange extends Edit {
  @IsId() track!: string;
  @IsId() take!: string;
  @IsInt() start!: number;
  @IsInt() end!: number;
  /** Id of the new clip. */
  @IsId() id!: string;
  /** Law of the crossfades at both joints. */
  @IsOptional() @IsIn(FADE_CURVES.map((c) => c.id)) curve?: FadeCurve;

  get label() {
    return 'choose range of take';
  }

  apply(doc: SessionDoc): void {
    const track = trackOf(doc, this.track);
    const take = takeOf(track, this.take);
    const start = Math.max(this.start, take.start);
    const end = Math.min(this.end, take.start + take.length);
    if (end <= start) throw new EditRefused(`Take ${take.number} has no sound in that range.`);
    keepReachable(doc, track, start, end);
    placeWithJoints(
      doc,
      track,
      {
        id: this.id,
        media: take.media,
        start,
        offset: start - take.start,
        length: end - start,
        gain: 0,
        name: `${track.name} ${take.number}`,
      },
      this.curve,
    );
  }
}

const shownName = (track: Track): string => track.compName ?? 'Comp 1';

/** Keeps the shown comp beside the track and goes on with a copy of it, or with an empty one. */
export class NewComp extends Edit {
  @IsId() track!: string;
  @IsId() id!: string;
  @IsString() @Length(1, 60) name!: string;
  @IsIn(['copy', 'empty']) begin!: 'copy' | 'empty';

  get label() {
    return 'new comp';
  }

  apply(doc: SessionDoc): void {
    const track = trackOf(doc, this.track);
    const kept = { id: this.id, name: shownName(track), clips: track.clips.map((c) => ({ ...c })) };
    track.otherComps = [...(track.otherComps ?? []), kept];
    track.compName = this.name;
    if (this.begin === 'empty') track.clips = [];
  }
}

/** Shows another comp; the one that was shown is kept. */
export class ChooseComp extends Edit {
  @IsId() track!: string;
  @IsId() comp!: string;

  get label() {
    return 'choose comp';
  }

  apply(doc: SessionDoc): void {
    const track = trackOf(doc, this.track);
    const at = track.otherComps?.findIndex((c) => c.id === this.comp) ?? -1;
    if (at < 0) throw new EditRefused('That comp is not on the track any more.');
    const chosen = track.otherComps![at]!;
    track.otherComps![at] = { id: chosen.id, name: shownName(track), clips: track.clips };
    track.clips = chosen.clips;
    track.compName = chosen.name;
  }
}

export class RemoveComp extends Edit {
  @IsId() track!: string;
  @IsId() comp!: string;

  get label() {
    return 'remove comp';
  }

  apply(doc: SessionDoc): void {
    const track = trackOf(doc, this.track);
    track.otherComps = (track.otherComps ?? []).filter((c) => c.id !== this.comp);
  }
}
