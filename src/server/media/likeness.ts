import { parseAudio } from '@/core/files';
import { openFile } from './fileSource';

/**
 * In what a file on disk is not the sound it should be, in words; empty where it is. Throws FileFault for what is no sound.
 */
export async function unlike(
  file: string,
  wanted: { channels: number; sampleRate: number; frames: number },
): Promise<string[]> {
  const source = await openFile(file);
  const info = await parseAudio(source).finally(() => source.close());
  return [
    info.channels === wanted.channels ? '' : `${info.channels} channels instead of ${wanted.channels}`,
    info.sampleRate === wanted.sampleRate ? '' : `${info.sampleRate} Hz instead of ${wanted.sampleRate}`,
    info.frames >= wanted.frames ? '' : `${info.frames} samples instead of ${wanted.frames}`,
  ].filter(Boolean);
}
