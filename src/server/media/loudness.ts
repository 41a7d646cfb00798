import { measureStream } from '@/core/measure';
import { newKernels } from '../kernels';
import { shared } from '../shared';
import { openFile } from './fileSource';
import { openAudio } from './openAudio';
import { pathOfMedia } from './store';

export interface MediaLoudness {
  /** LUFS and dBTP; -Infinity where there is only silence. */
  integrated: number;
  truePeak: number;
}

const known = () => shared('media-loudness', () => new Map<string, Promise<MediaLoudness>>());

/** Loudness of a whole file as it is now (`frames` long); measured once. */
export function mediaLoudness(media: string, frames: number): Promise<MediaLoudness> {
  const key = `${media}/${frames}`;
  const found = known().get(key);
  if (found) return found;
  const measured = measure(media);
  known().set(key, measured);
  measured.catch(() => known().delete(key));
  return measured;
}

async function measure(media: string): Promise<MediaLoudness> {
  const k = newKernels();
  const source = await openFile(await pathOfMedia(media));
  try {
    const { integrated, truePeak } = await measureStream(k, await openAudio(k, source));
    return { integrated, truePeak };
  } finally {
    await source.close();
  }
}
