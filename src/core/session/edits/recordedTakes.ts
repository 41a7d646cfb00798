import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  ArrayMinSize,
  IsArray,
  IsBoolean,
  IsISO8601,
  IsInt,
  IsOptional,
  Min,
  IsObject,
  ValidateNested,
} from 'class-validator';
import { layoutOf, widthOf } from '@/core/speakers';
import { EditRefused, trackOf, type SessionDoc, type Stage, type Take, type TakeFacts } from '../document';
import { entryOf } from '../ids';
import { settleClips } from '../fades';
import { placeWithJoints } from '../placing';
import { keepReachable } from '../reachable';
import { stageFault } from '../whole';
import { MediaFacts, plainMedia } from './clips';
import { Edit, IsId } from './edit';
import { ChainChanges, Faults, Gaps, MOST_CHANNELS, type ChainChangeRef, type GapRef } from './takeFacts';

/** Stages of the longest chain. */
const MOST_STAGES = 64;

class ShownStretch {
  @IsInt() start!: number;
  @IsOptional() @IsInt() end?: number;
}

/** What the recorder knows of a take besides its sound. */
abstract class FactsEdit extends Edit implements TakeFacts {
  @Gaps() gaps?: GapRef[];
  @ChainChanges() chainChanges?: ChainChangeRef[];
  @Faults() faults?: string[];

  /** The facts that there are, as plain data. */
  protected facts(): TakeFacts {
    const { gaps, faults } = this;
    const chainChanges = this.chainChanges?.filter((c) => c.at > 0);
    return {
      ...(gaps?.length ? { gaps: gaps.map(({ at, frames }) => ({ at, frames })) } : {}),
      ...(chainChanges?.length
        ? { chainChanges: chainChanges.map(({ at, chains }) => ({ at, chains: chains.map(checkedChain) })) }
        : {}),
      ...(faults?.length ? { faults } : {}),
    };
  }
}

// A chain comes as it stood in the session; what is no stage is refused before it is stored.
function checkedChain(chain: unknown): Stage[] {
  if (!Array.isArray(chain) || chain.length > MOST_STAGES)
    throw new EditRefused('A chain of a take must be a list of stages.');
  for (const stage of chain as Stage[]) {
    if (typeof stage !== 'object' || stage === null || typeof stage.values !== 'object' || stage.values === null)
      throw new EditRefused('A chain of a take holds something that is no stage.');
    const fault = stageFault(stage);
    if (fault) throw new EditRefused(`A chain of a take: ${fault}.`);
  }
  return chain as Stage[];
}

function refuseTaken(doc: SessionDoc, take: string, media: readonly MediaFacts[]): void {
  if (doc.tracks.some((t) => t.takes.some((k) => k.id === take)))
    throw new EditRefused('That take is on its track already; nothing was entered twice.');
  for (const { id, frames, channels } of media) {
    const known = entryOf(doc.media, id);
    if (known && (known.frames !== frames || known.channels !== channels))
      throw new EditRefused(`The file "${id}" is in the session already, with another length or width.`);
  }
}

/** Enters a finished recording: the take, its files, and a clip that shows it. */
export class AddTake extends FactsEdit {
  @IsId() id!: string;
  @IsId() track!: string;
  @IsInt() start!: number;
  @IsObject() @ValidateNested() @Type(() => MediaFacts) media!: MediaFacts;
  @IsOptional() @IsObject() @ValidateNested() @Type(() => MediaFacts) dry!: MediaFacts | null;
  /** The chains it went through when it began, per channel. */
  @IsArray() @ArrayMinSize(1) @ArrayMaxSize(MOST_CHANNELS) chains!: Stage[][];
  @IsISO8601() recordedAt!: string;
  @IsBoolean() recovered!: boolean;
  /** Cue that it was recorded for, and checks that were passed by knowingly. */
  @IsOptional() @IsId() cue?: string | null;
  @IsOptional() @IsArray() @ArrayMaxSize(200) @IsId({ each: true }) passedBy?: string[];
  /** Stretch of the timeline that is heard of it, where more was recorded; the rest is for crossfades. */
  @IsOptional() @IsObject() @ValidateNested() @Type(() => ShownStretch) show?: ShownStretch;

  get label() {
    return 'record take';
  }

  apply(doc: SessionDoc): void {
    const track = trackOf(doc, this.track);
    const files = [this.media, ...(this.dry ? [this.dry] : [])];
    refuseTaken(doc, this.id, files);
    for (const file of files) {
      if (file.channels !== widthOf(track.layout))
        throw new EditRefused(
          `${file.name} has ${file.channels} channels, ${track.name} is ${layoutOf(track.layout).name}.`,
        );
      if (file.sampleRate !== doc.format.sampleRate)
        throw new EditRefused(`${file.name} is at ${file.sampleRate} Hz, the session at ${doc.format.sampleRate} Hz.`);
      doc.media[file.id] = plainMedia(file);
    }
    // Numbers come from the name of the file, which was fixed when recording began.
    const number = Number(/_T(\d+)(?:_|\.|$)/.exec(this.media.name)?.[1] ?? track.takes.length + 1);
    track.takes.push({
      id: this.id,
      number,
      media: this.media.id,
      dryMedia: this.dry?.id ?? null,
      start: this.start,
      length: this.media.frames,
      // What was changed before its first sample it began with.
      chains: (this.chainChanges?.find((c) => c.at === 0)?.chains ?? this.chains).map(checkedChain),
      recordedAt: this.recordedAt,
      recovered: this.recovered,
      ...(this.cue ? { cue: this.cue } : {}),
      ...(this.passedBy?.length ? { passedBy: this.passedBy } : {}),
      ...this.facts(),
    });
    const end = this.start + this.media.frames;
    // What came before the timeline begins is kept in the take and cannot lie on it.
    const from = Math.max(this.start, this.show?.start ?? this.start, 0);
    const to = Math.min(end, this.show?.end ?? end);
    if (to <= from) return;
    // A take is never refused: under a locked clip it stays among the takes and is not heard.
    if (track.clips.some((c) => c.locked && c.start < to && c.start + c.length > from)) return;
    keepReachable(doc, track, from, to);
    placeWithJoints(doc, track, {
      id: `clip-${this.id}`,
      media: this.media.id,
      start: from,
      offset: from - this.start,
      length: to - from,
      gain: 0,
      name: `${track.name} ${number}`,
    });
  }
}

/** A recovered take that grew, because the rest of it was delivered later. */
export class LengthenTake extends FactsEdit {
  @IsId() take!: string;
  @IsInt() @Min(1) frames!: number;

  get label() {
    return 'complete recovered take';
  }

  apply(doc: SessionDoc): void {
    const track = doc.tracks.find((t) => t.takes.some((k) => k.id === this.take));
    const take = track?.takes.find((t) => t.id === this.take);
    if (!track || !take) throw new EditRefused('That take is not in the session any more; its file is kept.');
    if (this.frames < take.length)
      throw new EditRefused(`Take ${take.number} holds ${take.length} samples; it does not become shorter.`);
    Object.assign(take, this.facts());
    for (const id of [take.media, take.dryMedia]) {
      const media = id ? entryOf(doc.media, id) : undefined;
      if (media) media.frames = this.frames;
    }
    this.lengthenClip(track, take);
    take.length = this.frames;
    settleClips(doc, track);
  }

  // What is heard grows with it, up to what lies behind.
  private lengthenClip(track: SessionDoc['tracks'][0], take: Take): void {
    for (const clip of track.clips) {
      if (clip.locked || clip.media !== take.media || clip.offset + clip.length !== take.length) continue;
      const next = Math.min(...track.clips.filter((c) => c.start > clip.start).map((c) => c.start), Infinity);
      clip.length = Math.min(this.frames - clip.offset, next - clip.start);
    }
  }
}
