import { newKernels } from '../kernels';
import { formatKept } from './convert';
import { openFile } from './fileSource';
import { openAudio } from './openAudio';
import { onThread } from './onThread';

/** Writes a file at another rate as Broadcast WAV, in as many bits as keep everything; gives its length. */
export async function toRate(from: string, to: string, sampleRate: number): Promise<number> {
  const source = await openFile(from);
  const { format } = await openAudio(newKernels(), source).finally(() => source.close());
  const as = { kind: 'wav' as const, sampleRate, format: formatKept(format, true) };
  return (await onThread({ task: 'convert', from, to, as })).frames;
}
