import {
  IsBoolean,
  IsIn,
  IsInt,
  IsNumber,
  IsOptional,
  IsString,
  Length,
  Matches,
  Max,
  MaxLength,
  Min,
} from 'class-validator';
import { FRAME_RATES, frameRate, timecodeToFrames, type FrameRateId } from '@/core/units';
import { type LayoutId } from '@/core/speakers';
import { EditRefused, type FileKind, type SessionDoc, type WordLength } from '../document';
import { Edit, IsLayout } from './edit';

export const SAMPLE_RATES = [44100, 48000, 88200, 96000] as const;
export const FILE_KINDS = ['Broadcast WAV', 'AIFF'] as const;
export const WORD_LENGTHS = [16, 24, 32] as const;

/** The words of the format sentence. Rate and layout are fixed once there is material. */
export class SetFormat extends Edit {
  @IsOptional()
  @IsIn(SAMPLE_RATES, { message: 'sampleRate must be 44100, 48000, 88200 or 96000 Hz' })
  sampleRate?: number;
  @IsOptional() @IsIn(WORD_LENGTHS, { message: 'wordLength must be 16, 24 or 32 (float) bit' }) wordLength?: WordLength;
  @IsOptional() @IsIn(FILE_KINDS, { message: 'fileKind must be Broadcast WAV or AIFF' }) fileKind?: FileKind;
  @IsOptional() @IsBoolean() perChannel?: boolean;
  @IsOptional() @IsIn(FRAME_RATES.map((r) => r.id)) frameRate?: FrameRateId;
  @IsOptional() @IsString() @Length(1, 11) startTimecode?: string;
  @IsOptional() @IsLayout() layout?: LayoutId;

  get label() {
    return 'change format';
  }

  override get risky() {
    return this.layout !== undefined || this.frameRate !== undefined;
  }

  apply(doc: SessionDoc): void {
    const now = doc.format;
    const files = Object.keys(doc.media).length;
    if (this.sampleRate !== undefined && this.sampleRate !== now.sampleRate && files > 0) {
      throw new EditRefused(
        `This session holds ${files} files at ${now.sampleRate} Hz, so its rate stays; nothing was changed. The Brief converts the files to ${this.sampleRate} Hz.`,
      );
    }
    const rate = frameRate(this.frameRate ?? now.frameRate);
    const start = this.startTimecode ?? now.startTimecode;
    try {
      timecodeToFrames(start, rate);
    } catch (error) {
      throw new EditRefused(`Start timecode: ${(error as Error).message}`);
    }
    doc.format = {
      ...now,
      sampleRate: this.sampleRate ?? now.sampleRate,
      wordLength: this.wordLength ?? now.wordLength,
      fileKind: this.fileKind ?? now.fileKind,
      perChannel: this.perChannel ?? now.perChannel ?? false,
      frameRate: rate.id,
      startTimecode: start,
    };
    if (this.layout !== undefined && this.layout !== now.layout) {
      doc.format.layout = this.layout;
      for (const bus of doc.buses) bus.layout = this.layout;
      // Fold-downs keep the layout that was asked for them, also while the mix happens to have the same.
      for (const d of doc.deliverables) {
        if (d.layout !== now.layout) d.ownLayout = true;
        if (!d.ownLayout) d.layout = this.layout;
      }
    }
  }
}

export class SetSession extends Edit {
  @IsOptional() @IsString() @Length(1, 80) name?: string;
  @IsOptional()
  @Matches(/^[A-Za-z0-9]{1,8}$/, { message: 'code must be 1 to 8 letters or digits: it begins every file name' })
  code?: string;
  @IsOptional()
  @Matches(/^[\w{}.-]{3,120}$/, { message: 'namePattern may hold letters, digits, _ - . and tokens in braces' })
  namePattern?: string;
  @IsOptional() @IsIn(['headphones', 'loudspeakers']) listening?: SessionDoc['settings']['listening'];
  @IsOptional() @IsString() @MaxLength(120) client?: string;
  @IsOptional() @IsString() @MaxLength(200) contact?: string;
  @IsOptional() @IsString() @MaxLength(2000) notes?: string;
  /** BCP 47: "en", "de-AT"; empty: none is told. */
  @IsOptional()
  @Matches(/^([A-Za-z]{2,3}(-[A-Za-z0-9]{2,8})*)?$/, { message: 'language is a code such as en, de or de-AT' })
  language?: string;
  @IsOptional() @IsNumber() @Min(0) @Max(30) preRoll?: number;
  @IsOptional() @IsNumber() @Min(0) @Max(30) postRoll?: number;

  get label() {
    return 'change session settings';
  }

  apply(doc: SessionDoc): void {
    if (this.name !== undefined) doc.name = this.name;
    if (this.code !== undefined) doc.code = this.code;
    if (this.namePattern !== undefined) doc.namePattern = this.namePattern;
    const { client, contact, notes } = this;
    if (client !== undefined || contact !== undefined || notes !== undefined) {
      const { about = { client: '', contact: '', notes: '' } } = doc;
      doc.about = {
        client: client ?? about.client,
        contact: contact ?? about.contact,
        notes: notes ?? about.notes,
      };
    }
    if (this.language === '') delete doc.language;
    else if (this.language !== undefined) doc.language = this.language;
    if (this.listening !== undefined) doc.settings.listening = this.listening;
    if (this.preRoll !== undefined) doc.settings.preRoll = this.preRoll;
    if (this.postRoll !== undefined) doc.settings.postRoll = this.postRoll;
  }
}

/** The range that is printed and looked at, in samples. */
export class SetRange extends Edit {
  @IsInt() @Min(0) start!: number;
  @IsInt() @Min(1) end!: number;

  get label() {
    return 'set range';
  }

  apply(doc: SessionDoc): void {
    if (this.end <= this.start) throw new EditRefused('The range must end after it starts; it was left as it is.');
    doc.range = { start: this.start, end: this.end };
  }
}
