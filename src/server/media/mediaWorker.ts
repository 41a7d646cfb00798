import type { MessagePort } from 'node:worker_threads';
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
export type MediaAnswer = { frames: number } | MediaFault;

const codeOf = (error: unknown): MediaFault['code'] =>
  error instanceof Refused
    ? error.status
    : error instanceof FileFault
      ? 'file'
      : ((error as NodeJS.ErrnoException).code ?? null);

/** One task; `share` is told how much of it is done. Each has memory of its own, which goes with it. */
export default async function work({ task, share }: { task: MediaTask; share: MessagePort }): Promise<MediaAnswer> {
  try {
    return await runTask(newKernels(), task, (done) => share.postMessage(done));
  } catch (error) {
    return { fault: (error as Error).message, code: codeOf(error) };
  } finally {
    share.close();
  }
}
