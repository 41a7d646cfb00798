import { IsIn, IsOptional, IsString, Length, Matches } from 'class-validator';
import { FRAME_RATES, frameRate, timecodeToFrames, type FrameRateId } from '@/core/units';
import type { LayoutId } from '@/core/speakers';
import { EditRefused, type SessionFormat, type WordLength } from './document';
import { SAMPLE_RATES, WORD_LENGTHS } from './edits';
import { IsLayout } from './edits/edit';

/** What is asked before a session begins; the same rules in the dialog and on the server. */
export class NewSession {
  @IsString()
  @Length(1, 80, { message: 'name: give the session a name of 1 to 80 characters' })
  name!: string;

  @Matches(/^[A-Za-z0-9]{1,8}$/, { message: 'code: 1 to 8 letters or digits, it begins every file name' })
  code!: string;

  @IsIn(SAMPLE_RATES, { message: 'sampleRate: choose 44100, 48000, 88200 or 96000 Hz' })
  sampleRate!: number;

  @IsIn(WORD_LENGTHS, { message: 'wordLength: choose 16, 24 or 32 (float) bit' })
  wordLength!: WordLength;

  @IsIn(FRAME_RATES.map((r) => r.id), { message: 'frameRate: choose one of the list' })
  frameRate!: FrameRateId;

  @IsString()
  @Length(1, 11)
  startTimecode!: string;

  @IsLayout()
  layout!: LayoutId;

  /** Set-up to begin with. */
  @IsOptional()
  @IsString()
  template?: string;

  /** Throws EditRefused when the start timecode does not exist at the frame rate. */
  check(): void {
    try {
      timecodeToFrames(this.startTimecode, frameRate(this.frameRate));
    } catch (error) {
      throw new EditRefused(`startTimecode: ${(error as Error).message}`);
    }
  }

  format(): SessionFormat {
    const { sampleRate, wordLength, frameRate: fps, startTimecode, layout } = this;
    return { sampleRate, wordLength, fileKind: 'Broadcast WAV', frameRate: fps, startTimecode, layout };
  }
}
