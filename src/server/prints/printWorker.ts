import { parentPort, workerData } from 'node:worker_threads';
import { newKernels } from '../kernels';
import { yieldToSound } from '../yieldToSound';
import type { PrintJob } from './job';
import { runPrint } from './printJob';

// Runs one print beside the server, so that playing and recording go on meanwhile.
yieldToSound();
const port = parentPort!;
const abort = new AbortController();
port.on('message', (message) => {
  if (message === 'cancel') abort.abort(new Error('cancelled'));
});

let last = 0;
runPrint(
  newKernels(),
  workerData as PrintJob,
  (progress) => {
    const now = Date.now();
    if (now - last < 100 && progress.share < 1) return;
    last = now;
    port.postMessage(progress);
  },
  abort.signal,
)
  .then((proof) => port.postMessage({ proof }))
  .catch((error: Error) => port.postMessage({ error: error.message }))
  .finally(() => port.close());
