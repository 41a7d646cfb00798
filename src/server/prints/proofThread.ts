import path from 'node:path';
import type { Worker } from 'node:worker_threads';
import { appDir } from '../config';
import { Refused } from '../http';
import type { CompareTask } from './compareTask';

/** What is looked at on a thread of its own. */
export type ProofTask = { kind: 'verify'; place: string } | CompareTask;
export type ProofAnswer = { found: unknown } | { error: string; status: number };

/** Does a task beside the server: measuring takes the whole of a processor. */
export function onProofThread<T>(task: ProofTask): Promise<T> {
  const { Worker: Thread } = process.getBuiltinModule('node:worker_threads');
  const worker: Worker = new Thread(path.join(appDir(), 'dist', 'workers', 'proof.mjs'), { workerData: task });
  return new Promise((resolve, reject) => {
    worker.on('message', (m: ProofAnswer) =>
      'error' in m ? reject(new Refused(m.status, m.error)) : resolve(m.found as T),
    );
    worker.on('error', reject);
    worker.on('exit', () => reject(new Error('The proof ended unexpectedly.')));
  });
}
