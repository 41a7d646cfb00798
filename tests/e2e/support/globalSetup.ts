import { mkdirSync, rmSync } from 'node:fs';
import { startServer, TEMPLATE } from './server';

/** Makes the demo's data once, plain but for pictures; each test file works on a copy. */
export default async function setup(): Promise<void> {
  rmSync(TEMPLATE, { recursive: true, force: true });
  mkdirSync(TEMPLATE, { recursive: true });
  const server = await startServer({ data: TEMPLATE, plain: process.env.WHOLE_DEMO === undefined });
  await server.stop();
}
