import { test as base, type Page } from '@playwright/test';
import { rmSync } from 'node:fs';
import { freshData, startServer, type TestServer } from './server';

/** Servers that a test starts and ends as it likes, on demo data of its own; none is left behind. */
export interface Machine {
  data: string;
  start(port?: number): Promise<TestServer>;
}

/** A test with a server on demo data of its own, shared by the tests of one file. */
export const test = base.extend<{ machine: Machine }, { server: TestServer }>({
  machine: async ({}, provide, info) => {
    const data = freshData(`machine-${info.workerIndex}-${Date.now()}`);
    const started: TestServer[] = [];
    await provide({
      data,
      start: async (port) => {
        const server = await startServer({ data, port });
        started.push(server);
        return server;
      },
    });
    for (const server of started) await server.stop();
    rmSync(data, { recursive: true, force: true });
  },

  server: [
    async ({}, provide, info) => {
      const data = freshData(`worker-${info.workerIndex}-${Date.now()}`);
      const server = await startServer({ data });
      await provide(server);
      await server.stop();
      rmSync(data, { recursive: true, force: true });
    },
    { scope: 'worker' },
  ],
});

export { expect } from '@playwright/test';

/** Opens a place of the demo session and waits until it is there. */
export async function open(page: Page, url: string, place: string): Promise<void> {
  await page.goto(`${url}/s/lamp/${place}`);
  await page.waitForSelector('[data-roll]');
}

export const go = (page: Page, place: string): Promise<void> => page.click(`nav a[href$="/${place}"]`);

export const rolls = (page: Page, state: 'playing' | 'recording' | 'stopped'): Promise<unknown> =>
  page.waitForSelector(`[data-roll=${state}]`);

/** Switches the eight-line interface on in Line-up and waits for its signal. */
export async function switchOnLines(page: Page): Promise<void> {
  await go(page, 'lineup');
  await page.getByRole('button', { name: 'Switch on' }).click();
  await page.getByRole('button', { name: 'Switch off' }).waitFor();
}

/** Records on the armed tracks until `seconds` are safe on the server. */
export async function recordFor(page: Page, seconds: number): Promise<void> {
  await page.getByRole('button', { name: 'Record', exact: true }).click();
  await rolls(page, 'recording');
  await page.waitForFunction((s) => Number(/([\d.]+) s safe/.exec(document.body.innerText)?.[1] ?? 0) >= s, seconds);
}
