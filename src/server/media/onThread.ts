import { existsSync } from 'node:fs';
import path from 'node:path';
import type { Worker } from 'node:worker_threads';
import { FileFault } from '@/core/files';
import { appDir } from '../config';
import { Refused } from '../http';
import { newKernels } from '../kernels';
import type { MediaAnswer, MediaFault } from './mediaWorker';
import { runTask, type MediaTask } from './mediaTasks';

function errorOf({ fault, code }: MediaFault): Error {
  if (typeof code === 'number') return new Refused(code, fault);
  return code === 'file' ? new FileFault(fault) : Object.assign(new Error(fault), { code });
}

/** Does a task beside the server, which goes on answering meanwhile. Throws what the task throws. */
export async function onThread(
  task: MediaTask,
  onShare: (share: number) => void = () => {},
): Promise<{ frames: number }> {
  const file = path.join(appDir(), 'dist', 'workers', 'media.mjs');
  // Run from sources there is no built worker.
  if (!existsSync(file)) return runTask(newKernels(), task, onShare);
  // Asked of Node at run time: the bundler would take a worker that it sees for a module of its own.
  const { Worker: Thread } = process.getBuiltinModule('node:worker_threads');
  const worker: Worker = new Thread(file, { workerData: task });
  return new Promise((resolve, reject) => {
    worker.on('message', (a: MediaAnswer) => {
      if ('share' in a) onShare(a.share);
      else if ('fault' in a) reject(errorOf(a));
      else resolve(a);
    });
    worker.on('error', reject);
    worker.on('exit', () => reject(new Error('the thread ended without an answer')));
  });
}
