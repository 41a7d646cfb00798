import type { Kernels } from '@/core/kernels';
import { convertAudio, type ConvertTo } from './convert';
import { openFile } from './fileSource';
import { freezeToFile, type FreezeTask } from './freezeTask';
import { layOut } from './layOut';
import { makePeaks } from './peaks';

/** Work on a whole file that would keep the server from answering if it were done on its own thread. */
export type MediaTask =
  | { task: 'peaks'; from: string }
  | { task: 'convert'; from: string; to: string; as: ConvertTo }
  | { task: 'layOut'; from: string; to: string }
  | FreezeTask;

/** `onShare`: is told how much of it is done, 0 to 1, where that is known. */
export async function runTask(
  k: Kernels,
  job: MediaTask,
  onShare: (share: number) => void = () => {},
): Promise<{ frames: number }> {
  if (job.task === 'freeze') return freezeToFile(k, job, onShare);
  if (job.task === 'layOut') return layOut(k, job.from, job.to);
  if (job.task === 'peaks') return makePeaks(k, job.from);
  const source = await openFile(job.from);
  try {
    const { frames } = await convertAudio(k, source, job.to, job.as);
    return { frames };
  } finally {
    await source.close();
  }
}
