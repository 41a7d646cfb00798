import { existsSync } from 'node:fs';
import { availableParallelism } from 'node:os';
import path from 'node:path';
import { MessageChannel } from 'node:worker_threads';
import { Piscina } from 'piscina';
import { FileFault } from '@/core/files';
import { appDir } from '../config';
import { Refused } from '../http';
import { newKernels } from '../kernels';
import { shared } from '../shared';
import type { MediaAnswer, MediaFault } from './mediaWorker';
import { runTask, type MediaTask } from './mediaTasks';

/** Threads stay for so long after their last task (ms): the next of many files need not wait for one. */
const STAYS = 10_000;
/** A long task leaves others room beside it. */
const MOST_THREADS = Math.max(4, availableParallelism());

const file = (): string => path.join(appDir(), 'dist', 'workers', 'media.mjs');

const pool = (): Piscina =>
  shared(
    'media-threads',
    () =>
      new Piscina({
        ...{ filename: file(), minThreads: 0, maxThreads: MOST_THREADS, idleTimeout: STAYS },
        concurrentTasksPerWorker: 1,
        // What a task needs lies in the kernels' memory; the rest is collected soon.
        resourceLimits: { maxYoungGenerationSizeMb: 8, maxOldGenerationSizeMb: 512 },
      }),
  );

function errorOf({ fault, code }: MediaFault): Error {
  if (typeof code === 'number') return new Refused(code, fault);
  return code === 'file' ? new FileFault(fault) : Object.assign(new Error(fault), { code });
}

/** Does a task beside the server, which goes on answering meanwhile. Throws what the task throws. */
export async function onThread(
  task: MediaTask,
  onShare: (share: number) => void = () => {},
): Promise<{ frames: number }> {
  // Run from sources there is no built worker.
  if (!existsSync(file())) return runTask(newKernels(), task, onShare);
  const { port1, port2 } = new MessageChannel();
  port1.on('message', onShare);
  try {
    const answer = (await pool().run({ task, share: port2 }, { transferList: [port2] })) as MediaAnswer;
    if ('fault' in answer) throw errorOf(answer);
    return answer;
  } finally {
    port1.close();
  }
}
