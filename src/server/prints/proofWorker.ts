import { parentPort, workerData } from 'node:worker_threads';
import { newKernels } from '../kernels';
import { yieldToSound } from '../yieldToSound';
import { Refused } from '../http';
import { doCompare } from './compareTask';
import type { ProofAnswer, ProofTask } from './proofThread';
import { verifyPrint } from './verify';

// Playing goes on beside it.
yieldToSound();
const task = workerData as ProofTask;
const answer = (a: ProofAnswer) => parentPort!.postMessage(a);
const k = newKernels();
const work: Promise<unknown> = task.kind === 'verify' ? verifyPrint(k, task.place) : doCompare(k, task);
work.then(
  (found) => answer({ found }),
  (error: Error) => answer({ error: error.message, status: error instanceof Refused ? error.status : 500 }),
);
