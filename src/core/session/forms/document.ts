// The form of a whole document.
import { IsArray, IsBoolean, IsIn, Matches } from 'class-validator';
import { CHANNEL_ORDERS, isLayout } from '@/core/speakers';
import { FRAME_RATES } from '@/core/units';
import { FILE_KINDS, SAMPLE_RATES, WORD_LENGTHS } from '../edits/format';
import { IsId, IsLayout } from '../edits/edit';
import { BusForm, LaneForm, LineForm, SeatForm, TrackForm } from './mix';
import { Count, Dictionary, Figure, hasForm, List, MayBeNull, MayLack, Part, Text } from './rules';

const ORDERS = CHANNEL_ORDERS.map((o) => o.id);

class FormatForm {
  @IsIn(SAMPLE_RATES) sampleRate!: number;
  @IsIn(WORD_LENGTHS) wordLength!: number;
  @IsIn(FILE_KINDS) fileKind!: string;
  @MayLack() @IsBoolean() perChannel?: boolean;
  @IsIn(FRAME_RATES.map((r) => r.id)) frameRate!: string;
  @Matches(/^\d\d:\d\d:\d\d[:;]\d\d$/) startTimecode!: string;
  @IsLayout() layout!: string;
}

class MediaForm {
  @IsId() id!: string;
  @Text(500) name!: string;
  @Count(1) channels!: number;
  @Count() frames!: number;
  @Count(1) sampleRate!: number;
  @IsIn(['file', 'take', 'dry']) kind!: string;
  @MayLack() @IsIn(ORDERS) order?: string;
  @MayLack() @IsArray() @IsIn(ORDERS, { each: true }) unsaid?: string[];
}

class LimitsForm {
  @Text(80) name!: string;
  @MayBeNull() @Figure(-100, 0) target!: number | null;
  @Figure(0, 100) tolerance!: number;
  @Figure(-100, 20) truePeak!: number;
}

class DeliverableForm {
  @IsId() id!: string;
  @IsId() bus!: string;
  @IsLayout() layout!: string;
  @Text(80) token!: string;
  @MayLack() @IsIn(WORD_LENGTHS) wordLength?: number;
  @MayLack() @Part(() => LimitsForm) limits?: object;
  @MayLack() @IsBoolean() ownLayout?: boolean;
  @MayLack() @IsId() fold?: string;
  @MayLack() @IsIn(['lt-rt', 'four-in-two']) encode?: string;
  @MayLack() @Figure(-100, 20) ceiling?: number;
  @MayLack() @IsIn(ORDERS) order?: string;
  @MayLack() @IsIn(SAMPLE_RATES) sampleRate?: number;
  @MayLack() @IsIn(['bed', 'objects']) adm?: string;
  @MayLack() @IsIn(['none', 'tpdf', 'shaped']) dither?: string;
  @MayLack() @IsIn(FILE_KINDS) fileKind?: string;
  @MayLack() @IsBoolean() perChannel?: boolean;
}

class FoldForm {
  @IsId() id!: string;
  @Text(200) name!: string;
  @Figure(-100, 100) centre!: number;
  @Figure(-100, 100) surround!: number;
  @Figure(-100, 100) lfe!: number;
}

class RangeForm {
  @Count() start!: number;
  @Count() end!: number;
}

class NamedRangeForm extends RangeForm {
  @IsId() id!: string;
  @Text(200) name!: string;
}

class LeadInForm {
  @Figure(0, 3600) seconds!: number;
  @MayLack() @Figure(0, 3600) pop?: number;
  @Figure(-200, 0) level!: number;
}

class PrintingForm {
  @MayLack() @IsIn(['cues', 'markers', 'list']) by?: string;
  @MayLack() @List(() => NamedRangeForm, 10_000) list?: object[];
  @MayLack() @Part(() => LeadInForm) leadIn?: object;
  @MayLack() @IsIn([true]) toTarget?: boolean;
  @MayLack() @IsIn([true]) withoutChains?: boolean;
  @MayLack() @IsIn(['lower', 'upper']) letters?: string;
}

class PictureForm {
  @Matches(/^\/[\w./%-]{1,300}$/) file!: string;
  @Figure(Number.MIN_SAFE_INTEGER, Number.MAX_SAFE_INTEGER) start!: number;
  @MayLack() @Text(40) rate?: string;
  @MayLack() @Text(40) timecode?: string;
  @MayLack() @IsBoolean() sound?: boolean;
}

class AboutForm {
  @Text(5000) client!: string;
  @Text(5000) contact!: string;
  @Text(50_000) notes!: string;
}

class TempoForm {
  @Figure(0, 1e9) beat!: number;
  @Figure(1, 1000) tempo!: number;
  @IsBoolean() glides!: boolean;
}

class MeterForm {
  @Count(1) bar!: number;
  @Count(1) beats!: number;
  @Count(1) value!: number;
}

class TempoMapForm {
  @List(() => TempoForm, 100_000) tempos!: object[];
  @List(() => MeterForm, 100_000) meters!: object[];
}

class CueForm {
  @IsId() id!: string;
  @Text(80) number!: string;
  @Count() start!: number;
  @Count() end!: number;
  @Text(500) character!: string;
  @Text(100_000) text!: string;
  @Text(100_000) note!: string;
  @IsBoolean() done!: boolean;
}

class MarkerForm {
  @IsId() id!: string;
  @Count() at!: number;
  @Text(500) name!: string;
}

class ToneForm {
  @IsId() id!: string;
  @Text(500) name!: string;
  @IsId() media!: string;
  @Count() frames!: number;
}

class ClickForm {
  @IsIn(['never', 'recording', 'always']) when!: string;
  @IsIn(['tick', 'wood', 'tone']) sound!: string;
  @Figure(-200, 20) level!: number;
  @MayLack() @Text(16) to?: string;
}

class LeadForm {
  @IsBoolean() beeps!: boolean;
  @Figure(0, 3600) beepGap!: number;
  @Figure(0, 3600) streamer!: number;
  @IsBoolean() flash!: boolean;
}

class TailForm {
  @IsIn(['decayed', 'time']) until!: string;
  @Figure(0, 36_000) seconds!: number;
}

class SettingsForm {
  @IsIn(['headphones', 'loudspeakers']) listening!: string;
  @Figure(0, 3600) preRoll!: number;
  @Figure(0, 3600) postRoll!: number;
  @Part(() => ClickForm) click!: object;
  @Figure(0, 100) countIn!: number;
  @IsIn(['play', 'dim', 'mute']) guides!: string;
  @IsIn(['short', 'middle', 'long']) buffer!: string;
  @Part(() => LeadForm) lead!: object;
  @Figure(0, 3600) rollBack!: number;
  @MayLack() @Part(() => TailForm) tail?: object;
}

/** A document of this release. What its parts have to do with each other is looked at elsewhere (whole.ts). */
export class DocumentForm {
  @Count(1) version!: number;
  @Text(200) name!: string;
  @Text(8) code!: string;
  @Part(() => FormatForm) format!: object;
  @List(() => TrackForm, 10_000) tracks!: object[];
  @List(() => BusForm, 10_000) buses!: object[];
  @MayLack() @Part(() => SeatForm) newcomer?: object;
  @List(() => LineForm, 100_000) lines!: object[];
  @Dictionary(hasForm(() => MediaForm), 1_000_000) media!: object;
  @MayLack() @Part(() => AboutForm) about?: object;
  @MayLack() @Text(40) language?: string;
  @MayLack() @List(() => FoldForm, 1000) folds?: object[];
  @List(() => DeliverableForm, 10_000) deliverables!: object[];
  @Part(() => LimitsForm) limits!: object;
  @Text(500) namePattern!: string;
  @Part(() => RangeForm) range!: object;
  @MayLack() @Part(() => PrintingForm) printing?: object;
  @MayBeNull() @Part(() => PictureForm) picture!: object | null;
  @Dictionary((v) => typeof v === 'string', 1000, isLayout) destinations!: object;
  @Part(() => TempoMapForm) tempo!: object;
  @List(() => CueForm, 100_000) cues!: object[];
  @List(() => MarkerForm, 100_000) markers!: object[];
  @Dictionary(hasForm(() => LaneForm), 100_000, (key) => key.length <= 400) lanes!: object;
  @List(() => ToneForm, 10_000) shelf!: object[];
  @Part(() => SettingsForm) settings!: object;
}
