import { parentPort, workerData } from 'node:worker_threads';
import { FileFault } from '@/core/files';
import { Refused } from '../http';
import { newKernels } from '../kernels';
import { runTask, type MediaTask } from './mediaTasks';

/** How a thread tells what it could not do. */
export interface MediaFault {
  fault: string;
  /** HTTP status of a refusal, 'file' for a fault of the file, or the system's code (ENOSPC, for example). */
  code: number | string | null;
}
export type MediaAnswer = { frames: number } | { share: number } | MediaFault;

const codeOf = (error: unknown): MediaFault['code'] =>
  error instanceof Refused
    ? error.status
    : error instanceof FileFault
      ? 'file'
      : ((error as NodeJS.ErrnoException).code ?? null);

// One task, one thread.
const tell = (answer: MediaAnswer) => parentPort!.postMessage(answer);
const answer = await runTask(newKernels(), workerData as MediaTask, (share) => tell({ share })).catch(
  (error: Error) => ({
    fault: error.message,
    code: codeOf(error),
  }),
);
tell(answer);
