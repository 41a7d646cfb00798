import { parentPort, workerData } from 'node:worker_threads';
import { newKernels } from '../kernels';
import { yieldToSound } from '../yieldToSound';
import { printPart, type PartAnswer, type PartTask } from './printParts';
import { SharedExchange } from './sharedExchange';

// One part of a print that runs in several threads.
yieldToSound();
const port = parentPort!;
const task = workerData as PartTask;
const answer = (a: PartAnswer) => port.postMessage(a);

// The open port keeps the thread alive while it only waits for another part.
port.on('message', () => {});
printPart(newKernels(), task, [new SharedExchange(task.room, 'giver')], () => {})
  .then((files) => answer({ printed: files.map(({ deliverable, ...f }) => ({ ...f, id: deliverable.id })) }))
  .catch((error: Error) => answer({ error: error.message }))
  .finally(() => port.close());
