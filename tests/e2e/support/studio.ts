import { test as base, type BrowserContext, type Page } from '@playwright/test';
import type { EditJson, SessionDoc, Take } from '@/core/session';
import { rmSync } from 'node:fs';
import { freshData, startServer, type TestServer } from './server';

/** Servers that a test starts and ends as it likes, on demo data of its own; none is left behind. */
export interface Machine {
  data: string;
  start(port?: number): Promise<TestServer>;
}

/** The server of the test file that runs now. */
interface Shelf {
  file: string;
  data: string;
  server: TestServer | null;
  /** One for all tests of a file: what the browser has loaded once it need not load and compile again. */
  context: BrowserContext | null;
}

async function clear(shelf: Shelf): Promise<void> {
  await shelf.context?.close();
  shelf.context = null;
  await shelf.server?.stop();
  if (shelf.data) rmSync(shelf.data, { recursive: true, force: true });
  shelf.server = null;
}

/** A test with a server on demo data of its own; the tests of one file share it, and no others. */
export const test = base.extend<{ machine: Machine; server: TestServer }, { shelf: Shelf }>({
  shelf: [
    async ({}, provide) => {
      const shelf: Shelf = { file: '', data: '', server: null, context: null };
      await provide(shelf);
      await clear(shelf);
    },
    { scope: 'worker' },
  ],
  server: async ({ shelf }, provide, info) => {
    if (shelf.file !== info.file || !shelf.server) {
      await clear(shelf);
      const data = freshData(`file-${info.workerIndex}-${Date.now()}`);
      Object.assign(shelf, { file: info.file, data, server: await startServer({ data }) });
    }
    await provide(shelf.server!);
  },
  context: async ({ browser, shelf, server, contextOptions }, provide) => {
    void server;
    if (!shelf.context) {
      shelf.context = await browser.newContext(contextOptions);
      // Each test begins with an empty desk: what the one before left is not its own.
      await shelf.context.addInitScript(() => {
        if (sessionStorage.getItem('desk') || !location.host) return;
        sessionStorage.setItem('desk', 'its own');
        for (const key of Object.keys(localStorage))
          if (key.startsWith('wide-room-desk-')) localStorage.removeItem(key);
      });
    }
    const { context } = shelf;
    await provide(context);
    for (const page of context.pages()) await page.close();
  },
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
  await switchedOn(page);
}

/** Waits until the shown device is on; one that was on before the page was loaded comes back by itself. */
async function switchedOn(page: Page): Promise<void> {
  const [off, on] = ['Switch on', 'Switch off'].map((name) => page.getByRole('button', { name, exact: true }));
  await off!.or(on!).waitFor();
  if (await off!.isVisible()) await off!.click();
  await on!.waitFor();
}

/** Records on the armed tracks until `seconds` are safe on the server. */
export async function recordFor(page: Page, seconds: number): Promise<void> {
  await page.getByRole('button', { name: 'Record', exact: true }).click();
  await rolls(page, 'recording');
  await safe(page, seconds);
}

/** A look at a whole page's words lays the page out: four times a second is enough, and leaves the sound its time. */
const SELDOM = { polling: 250 };

/** Waits until so many seconds of what is being recorded are safe on the server. */
export const safe = (page: Page, seconds: number): Promise<unknown> =>
  page.waitForFunction((s) => Number(/([\d.]+) s safe/.exec(document.body.innerText)?.[1] ?? 0) >= s, seconds, SELDOM);

/** Waits until so many seconds are recorded, wherever they are kept; `take`: of the take of this number. */
export const recorded = (page: Page, seconds: number, take?: number): Promise<unknown> =>
  page.waitForFunction(
    ([s, words]) => Number(new RegExp(words).exec(document.body.innerText)?.[1] ?? 0) >= s,
    [seconds, `${take ?? ''}\\s*recording\\s*([\\d.]+) s`] as const,
    SELDOM,
  );

/** A connection that waited is sometimes closed by the server just when it is used again. */
const ALONE = { Connection: 'close' };

/** A session and its revision as the server has them. */
export async function storedOf(page: Page, url: string, id = 'lamp'): Promise<{ doc: SessionDoc; revision: number }> {
  return (await page.request.get(`${url}/api/sessions/${id}`, { headers: ALONE })).json() as never;
}

/** A session as the server has it. */
export const docOf = async (page: Page, url: string, id = 'lamp'): Promise<SessionDoc> =>
  (await storedOf(page, url, id)).doc;

/** A track with the takes that were recorded here: files that were recorded over stand before them. */
export function recordedOn(
  doc: SessionDoc,
  id: string,
): SessionDoc['tracks'][number] & { takes: [Take, ...Take[]] & { at(index: number): Take } } {
  const track = doc.tracks.find((t) => t.id === id)!;
  // A test that looks at a take which is not there fails at that look.
  return { ...track, takes: track.takes.filter((t) => !t.imported) as never };
}

/** Makes edits from outside the page; the page follows. */
export async function editFrom(page: Page, url: string, ...edits: EditJson[]): Promise<void> {
  const own = edits.filter((e) => e.type.startsWith('seat') || e.type === 'setMonitor');
  const shared = edits.filter((e) => !own.includes(e));
  if (shared.length) await sharedFrom(page, url, shared);
  if (own.length === 0) return;
  // The page's own seat: its browser says whose it is.
  const answer = await page.request.post(`${url}/api/sessions/lamp/seat`, { headers: ALONE, data: { edits: own } });
  if (!answer.ok()) throw new Error(await answer.text());
}

async function sharedFrom(page: Page, url: string, edits: EditJson[]): Promise<void> {
  const { revision } = await storedOf(page, url);
  const answer = await page.request.post(`${url}/api/sessions/lamp/edits`, {
    headers: ALONE,
    data: { id: `test-${revision}-${edits[0]!.type}`, base: revision, edits },
  });
  if (!answer.ok()) throw new Error(await answer.text());
}

/** Switches a device on by its name in the list, and waits for it. */
export async function switchOnDevice(page: Page, name: string): Promise<void> {
  await go(page, 'lineup');
  await page.getByRole('combobox', { name: 'Input device' }).click();
  await page.getByRole('option', { name }).click();
  await switchedOn(page);
}
