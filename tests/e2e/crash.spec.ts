// The server dies while a performer speaks.
import { readFileSync, readdirSync } from 'node:fs';
import path from 'node:path';
import type { Page } from '@playwright/test';
import { parseWav } from '@/core/files';
import { newKernels } from '../support/kernels';
import { samplesOf } from '../support/files';
import { cableTo } from './support/cable';
import { ownBrowser } from './support/ownBrowser';
import { canMount, smallDisk } from './support/smallDisk';
import {
  docOf,
  editFrom,
  expect,
  go,
  open,
  recordFor,
  recorded,
  recordedOn,
  rolls,
  switchOnDevice,
  switchOnLines,
  test,
} from './support/studio';
import { largestBreak } from './support/tone';
import { MemorySource } from '../support/memorySource';

const takeFile = (data: string, part = '') =>
  path.join(
    data,
    'sessions/lamp/media',
    readdirSync(path.join(data, 'sessions/lamp/media')).find((f) => f.endsWith(`_T01${part}.wav`) && /Pilot/.test(f))!,
  );
const secondsOf = async (file: string) =>
  (await parseWav(new MemorySource(new Uint8Array(readFileSync(file))))).frames / 48000;

/** A voice arrives on Pilot, which is armed. */
async function voiceArrives(page: Page, url: string): Promise<void> {
  await open(page, url, 'lineup');
  await switchOnLines(page);
  await go(page, 'floor');
  await page.getByRole('button', { name: 'Arm Pilot', exact: true }).click();
  await expect(page.getByText('signal', { exact: true })).toBeVisible();
}

/** The console's steady tone arrives on Pilot, which is armed; `server` where the page is reached by another way. */
async function steadyTone(page: Page, url: string, server = url): Promise<void> {
  await open(page, url, 'lineup');
  await switchOnDevice(page, 'Networked console (stand-in)');
  await page.getByLabel('Patch by typing').fill('16 > Pilot');
  await page.getByRole('button', { name: 'Patch', exact: true }).click();
  await editFrom(page, server, { type: 'seatTrack', track: 'pilot', armed: true });
  await go(page, 'floor');
  await expect(page.getByText('signal', { exact: true })).toBeVisible();
}

/** The recorded tone is unbroken from its first sample to its last. */
async function unbroken(data: string): Promise<void> {
  const [tone] = await samplesOf(newKernels(), new MemorySource(new Uint8Array(readFileSync(takeFile(data, '_dry')))));
  const first = tone!.findIndex((v) => v !== 0);
  expect(largestBreak(tone!.subarray(first), 1000)).toBeLessThan(1e-5);
}

test('a killed server loses nothing that was recorded', async ({ browser, machine }) => {
  test.setTimeout(200_000);
  const { data } = machine;
  let server = await machine.start();
  const port = Number(new URL(server.url).port);
  const page = await (await browser.newContext()).newPage();
  await voiceArrives(page, server.url);
  await recordFor(page, 4);
  const heldSafe = Number(/([\d.]+) s safe/.exec(await page.locator('[data-testid=rows]').innerText())![1]);
  await server.kill();

  await test.step('on disk there is a file that opens, up to the last second before the kill', async () => {
    expect(await secondsOf(takeFile(data))).toBeGreaterThanOrEqual(heldSafe - 0.1);
  });
  await test.step('recording goes on in the browser, and says so', async () => {
    await expect(page.getByText('kept in this browser').first()).toBeVisible();
    await recorded(page, heldSafe + 3);
  });
  server = await machine.start(port);
  await test.step('after the restart the take is on its track', async () => {
    const doc = await docOf(page, server.url);
    const [take] = recordedOn(doc, 'pilot').takes;
    expect(take).toMatchObject({ number: 1, recovered: true });
    expect(take.length / 48000).toBeGreaterThanOrEqual(heldSafe - 0.1);
  });
  await test.step('what was spoken meanwhile is delivered, and the take grows to its whole length', async () => {
    await page.getByRole('button', { name: 'Stop recording' }).click();
    await expect(page.getByText('finishing take…')).toHaveCount(0, { timeout: 30_000 });
    await page.getByRole('radio', { name: 'Takes' }).click();
    await expect(page.locator('[data-take="1"]')).toContainText('recovered');
    expect(await secondsOf(takeFile(data))).toBeGreaterThan(heldSafe + 3);
    const doc = await docOf(page, server.url);
    const [take] = recordedOn(doc, 'pilot').takes;
    expect(take.length / 48000).toBeCloseTo(await secondsOf(takeFile(data)), 3);
  });
  await page.context().close();
});

test('a network that is cut for half a minute costs no sample', async ({ browser, machine }) => {
  test.setTimeout(200_000);
  const { data } = machine;
  const server = await machine.start();
  const cable = await cableTo(server.url);
  const page = await (await browser.newContext()).newPage();
  await steadyTone(page, cable.url, server.url);
  await recordFor(page, 2);
  cable.cut();
  await recorded(page, 32);
  await expect(page.getByText('kept in this browser').first()).toBeVisible();
  cable.mend();
  await page.getByRole('button', { name: 'Stop recording' }).click();
  await expect(page.getByText('finishing take…')).toHaveCount(0, { timeout: 60_000 });
  expect(await secondsOf(takeFile(data))).toBeGreaterThan(30);
  await unbroken(data);
  await page.context().close();
  await cable.close();
});

test('a take of a page that died is delivered by the next page', async ({ browser, machine }) => {
  test.setTimeout(200_000);
  const { data } = machine;
  const server = await machine.start();
  const context = await browser.newContext();
  const page = await context.newPage();
  await voiceArrives(page, server.url);
  await recordFor(page, 2);
  await page.close();
  const next = await context.newPage();
  await open(next, server.url, 'floor');
  await next.getByRole('radio', { name: 'Takes' }).click();
  await expect(next.locator('[data-take="1"]')).toBeVisible({ timeout: 30_000 });
  expect(await secondsOf(takeFile(data))).toBeGreaterThanOrEqual(1.9);
  await context.close();
});

test('server and browser killed, one after the other: everything to the last flushed second is there again', async ({
  machine,
}) => {
  test.setTimeout(200_000);
  const { data } = machine;
  let server = await machine.start();
  const port = Number(new URL(server.url).port);
  const profile = path.join(data, 'profile');
  let own = await ownBrowser(profile);
  let { page } = own;
  await voiceArrives(page, server.url);
  await recordFor(page, 2);
  await server.kill();
  const soFar = async () =>
    Number(/recording\s*([\d.]+) s/.exec(await page.locator('[data-testid=rows]').innerText())![1]);
  const atKill = await soFar();
  await expect.poll(soFar).toBeGreaterThan(atKill + 3);
  const last = await soFar();
  await own.kill();

  server = await machine.start(port);
  own = await ownBrowser(profile);
  page = own.page;
  await open(page, server.url, 'floor');
  await expect(page.getByText(/Recovered: take 1 of Pilot/)).toBeVisible();
  const take = async () => {
    return recordedOn(await docOf(page, server.url), 'pilot').takes[0];
  };
  // A second is flushed at a time.
  await expect.poll(async () => (await take()).length / 48000, { timeout: 60_000 }).toBeGreaterThan(last - 1.2);
  expect(await secondsOf(takeFile(data))).toBeGreaterThan(last - 1.2);
  await page.getByRole('radio', { name: 'Takes' }).click();
  await expect(page.locator('[data-take="1"]')).toContainText('recovered');
  await own.kill();
});

test('a disk that fills up while recording costs no sample, and it is said before and then', async ({
  browser,
  machine,
}) => {
  test.skip(!canMount(), 'no file system of its own can be mounted here');
  test.setTimeout(200_000);
  const { data } = machine;
  const disk = smallDisk(path.join(data, 'sessions/lamp/media'), 1_000_000);
  try {
    const server = await machine.start();
    const page = await (await browser.newContext()).newPage();
    await steadyTone(page, server.url);
    await page.getByRole('button', { name: 'Record', exact: true }).click();
    await expect(page.getByRole('dialog')).toContainText(/disk/i);
    await page.getByRole('button', { name: 'Record anyway' }).click();
    await rolls(page, 'recording');
    await expect(page.getByText(/disk of the server is full/).first()).toBeVisible({ timeout: 30_000 });
    await recorded(page, 8.2);
    disk.resize(64_000_000);
    await page.getByRole('button', { name: 'Stop recording' }).click();
    await expect(page.getByText('finishing take…')).toHaveCount(0, { timeout: 60_000 });
    expect(await secondsOf(takeFile(data))).toBeGreaterThan(8);
    const [tone] = await samplesOf(
      newKernels(),
      new MemorySource(new Uint8Array(readFileSync(takeFile(data, '_dry')))),
    );
    const first = tone!.findIndex((v) => v !== 0);
    expect(largestBreak(tone!.subarray(first), 1000)).toBeLessThan(1e-5);
    await page.context().close();
    await server.stop();
  } finally {
    disk.end();
  }
});

test('a second program on the same data folder is refused clearly', async ({ machine }) => {
  test.setTimeout(120_000);
  await machine.start();
  await expect(machine.start()).rejects.toThrow(/in use by another Wide Room/);
});
