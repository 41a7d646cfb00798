import os from 'node:os';
import { Worker } from 'node:worker_threads';
import { expect, it } from 'vitest';

// On other systems a priority is that of the whole process.
it.runIf(process.platform === 'linux')('a thread that stands back leaves those beside it where they are', async () => {
  const before = os.getPriority();
  const priority = await new Promise<number>((resolve, reject) => {
    // What `yieldToSound` does, asked of the kernel by the thread itself.
    const worker = new Worker(
      `const os = require('node:os');
       os.setPriority(Math.min(19, os.getPriority() + 3));
       require('node:worker_threads').parentPort.postMessage(os.getPriority());`,
      { eval: true },
    );
    worker.once('message', resolve);
    worker.once('error', reject);
  });
  expect(priority).toBe(Math.min(19, before + 3));
  expect(os.getPriority()).toBe(before);
});
