import { parentPort, workerData } from 'node:worker_threads';
import { newKernels } from '../kernels';
import { yieldToSound } from '../yieldToSound';
import { Refused } from '../http';
import { verifyPrint } from './verify';

// Measuring takes the whole of a processor: playing goes on beside it.
yieldToSound();
verifyPrint(newKernels(), (workerData as { place: string }).place).then(
  (found) => parentPort!.postMessage({ found }),
  (error: Error) =>
    parentPort!.postMessage({ error: error.message, status: error instanceof Refused ? error.status : 500 }),
);
