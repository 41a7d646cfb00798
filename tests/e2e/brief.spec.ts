// The order sheet by hand: files, tracks in one go, settings, versions, templates, another rate.
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import type { Page } from '@playwright/test';
import { docOf, expect, open, rolls, test } from './support/studio';

const sheet = (page: Page, name: string) => page.getByRole('radio', { name, exact: true }).click();

test('deliverables: one more file, own limits and bits, letters that are taken are refused', async ({
  page,
  server,
}) => {
  await open(page, server.url, 'brief');
  await page.getByRole('button', { name: 'Deliverable', exact: true }).click();
  await page.getByRole('menuitem', { name: /Narration.*folded to stereo/ }).click();
  await expect(page.getByText('SP_NAR_20_100000_v01.wav')).toBeVisible();
  await page.getByLabel('Letters of Dialogue in the file name').fill('NAR');
  await page.keyboard.press('Enter');
  await expect(page.getByText(/Two files would have the same name/)).toBeVisible();
  await expect(page.getByText('SP_DIA_51_100000_v01.wav')).toBeVisible();
  await page.getByRole('button', { name: 'Limits of Fold-down' }).click();
  await page.getByRole('button', { name: /^A\/85/ }).click();
  await page.keyboard.press('Escape');
  const fold = page.locator('[data-deliverable=print-ref-stereo]');
  await expect(fold).toContainText('-24.0');
  await fold.getByRole('combobox', { name: 'Bits of Fold-down' }).click();
  await page.getByRole('option', { name: '16' }).click();
  await expect
    .poll(async () => (await docOf(page, server.url)).deliverables.find((d) => d.id === 'print-ref-stereo')!)
    .toMatchObject({
      wordLength: 16,
      limits: { name: 'A/85' },
    });
});

test('the order of the files is changed with the keyboard alone', async ({ page, server }) => {
  await open(page, server.url, 'brief');
  const order = async () => (await docOf(page, server.url)).deliverables.map((d) => d.id);
  const before = await order();
  const handle = page.getByRole('button', { name: 'Move Reference' });
  await handle.focus();
  await page.keyboard.press('Space');
  await expect(handle).toHaveAttribute('aria-pressed', 'true');
  await page.keyboard.press('ArrowDown');
  await expect(page.locator('[id^=DndLiveRegion]').first()).toHaveText(`At place 2 of ${before.length}.`);
  await page.keyboard.press('Space');
  await expect.poll(order).toEqual([before[1], before[0], ...before.slice(2)]);
});

test('tracks in one go: rows, pattern, list, default destination, 200 at once, one undo', async ({ page, server }) => {
  await open(page, server.url, 'brief');
  const before = (await docOf(page, server.url)).tracks.length;
  await sheet(page, 'Make tracks');
  await page.getByLabel('Names, row 1').fill('Scene {nnn}');
  await page.keyboard.press('Enter');
  const count = page.getByRole('spinbutton', { name: 'How many, row 1' });
  await count.focus();
  await page.keyboard.press('Enter');
  await page.keyboard.type('197');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'From a list' }).click();
  await page.getByLabel('Names', { exact: true }).fill('Keeper\nGull\nPilot');
  await page.getByRole('button', { name: 'Make a row of them' }).click();
  await expect(page.getByText('1 name is taken already')).toBeVisible();
  await expect(page.locator('[data-planned]').nth(196)).toContainText('Scene 197');
  await expect(page.locator('[data-planned]').last()).toContainText('Pilot');
  await page.getByRole('button', { name: 'Make 200 tracks' }).click();
  await expect.poll(async () => (await docOf(page, server.url)).tracks.length).toBe(before + 200);
  const made = (await docOf(page, server.url)).tracks.at(-1);
  expect(made).toMatchObject({ name: 'Pilot', destination: 'dia' });
  await page.keyboard.press('Control+z');
  await expect.poll(async () => (await docOf(page, server.url)).tracks.length).toBe(before);
});

test('a default destination that passes by the reference is told, and mended', async ({ page, server }) => {
  await open(page, server.url, 'brief');
  await page.getByRole('button', { name: 'Default destinations' }).click();
  await page.getByRole('combobox', { name: 'Default destination of mono' }).click();
  await page.getByRole('option', { name: /^monitor/ }).click();
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: /checks?$/ }).click();
  await expect(page.getByText('New mono tracks would pass by Reference')).toBeVisible();
  await page.getByRole('button', { name: 'No default for this width' }).click();
  await expect.poll(async () => (await docOf(page, server.url)).destinations.mono).toBeUndefined();
});

test('working settings and tempo map stay as set', async ({ page, server }) => {
  await open(page, server.url, 'brief');
  await sheet(page, 'Working settings');
  await page.getByRole('radio', { name: 'long', exact: true }).click();
  await page.getByRole('radio', { name: 'mute', exact: true }).click();
  const tempo = page.getByRole('spinbutton', { name: 'Tempo 1' });
  await tempo.focus();
  await page.keyboard.press('Enter');
  await page.keyboard.type('96');
  await page.keyboard.press('Enter');
  await expect.poll(async () => (await docOf(page, server.url)).tempo.tempos[0]!.tempo).toBe(96);
  await page.reload();
  await sheet(page, 'Working settings');
  await expect(page.getByRole('radio', { name: 'long', exact: true })).toHaveAttribute('data-state', 'on');
  await expect(page.getByRole('spinbutton', { name: 'Tempo 1' })).toHaveAttribute('aria-valuenow', '96');
  expect((await docOf(page, server.url)).settings).toMatchObject({ guides: 'mute', buffer: 'long' });
});

test('versions: kept by name, compared in words, gone back to without loss', async ({ page, server }) => {
  await open(page, server.url, 'brief');
  await sheet(page, 'Versions');
  await page.getByLabel('Name of the version').fill('agreed with the museum');
  await page.getByRole('button', { name: 'Keep this state' }).click();
  await expect(page.locator('[data-version="agreed with the museum"]')).toBeVisible();
  await sheet(page, 'Tracks');
  await page.getByLabel('Name of Foghorn').fill('Horn');
  await page.keyboard.press('Enter');
  await sheet(page, 'Versions');
  await page.locator('[data-version="agreed with the museum"] button').first().click();
  await expect(page.getByText('Foghorn is called Horn')).toBeVisible();
  await page.getByRole('button', { name: 'Go back to it' }).click();
  await expect(page.locator('[data-version^="before going back"]')).toBeVisible();
  expect((await docOf(page, server.url)).tracks.some((t) => t.name === 'Foghorn')).toBe(true);
  await page.keyboard.press('Control+z');
  await expect.poll(async () => (await docOf(page, server.url)).tracks.some((t) => t.name === 'Horn')).toBe(true);
});

test('templates: kept with files, exported, taken in again, begun from in another format', async ({ page, server }) => {
  await open(page, server.url, 'brief');
  await sheet(page, 'Templates');
  await page.getByRole('button', { name: 'Keep this session as a template' }).click();
  await page.getByLabel('Name of the template').fill('Lighthouse film');
  await page.getByRole('button', { name: 'Keep it' }).click();
  const card = page.locator('[data-template="Lighthouse film"]');
  await expect(card).toContainText('own');
  const [download] = await Promise.all([page.waitForEvent('download'), card.getByLabel(/^Export/).click()]);
  const zip = readFileSync(await download.path());
  expect(zip.subarray(0, 2).toString()).toBe('PK');
  await card.getByRole('button', { name: /^Remove template/ }).click();
  await card.getByRole('button', { name: 'Remove it' }).click();
  await expect(card).toHaveCount(0);
  await page
    .getByLabel('Template file')
    .setInputFiles({ name: 'x.zip', mimeType: 'application/zip', buffer: Buffer.from('no zip') });
  await expect(page.getByText(/no ZIP archive/)).toBeVisible();
  await page.getByLabel('Template file').setInputFiles({ name: 'x.zip', mimeType: 'application/zip', buffer: zip });
  await expect(card).toBeVisible();
  await card.getByLabel(/^Begin from/).click();
  await page.getByLabel('Name', { exact: true }).fill('Second film');
  await page.getByLabel('Short form').fill('SF');
  await page.getByRole('combobox', { name: 'Mix in' }).last().click();
  await page.getByRole('option', { name: 'stereo' }).click();
  await page.getByRole('button', { name: 'Make the session' }).click();
  await expect(page.getByText('SF_REF_20_100000_v01.wav').first()).toBeVisible();
  const id = new URL(page.url()).pathname.split('/')[2]!;
  const doc = await docOf(page, server.url, id);
  expect(doc).toMatchObject({ name: 'Second film', format: { layout: 'stereo' } });
  expect(doc.lines.length).toBeGreaterThan(0);
});

test('another rate: what would be converted is said, done, and undone', async ({ page, server }) => {
  test.setTimeout(180_000);
  await open(page, server.url, 'brief');
  await page.getByRole('combobox', { name: 'Sample rate' }).click();
  await page.getByRole('option', { name: '44.1 kHz' }).click();
  const dialog = page.getByRole('dialog');
  await expect(dialog).toContainText(/files of together \d+ s are at 48 kHz/);
  await dialog.getByRole('button', { name: /^Convert \d+ files/ }).click();
  await expect(page.getByRole('combobox', { name: 'Sample rate' })).toContainText('44.1 kHz', { timeout: 120_000 });
  const doc = await docOf(page, server.url);
  expect(doc.range.end).toBe(90 * 44100);
  await page.getByRole('button', { name: 'Play' }).click();
  await expect
    .poll(async () => Number(await page.getByRole('meter', { name: 'Reference C' }).getAttribute('aria-valuenow')), {
      timeout: 30_000,
    })
    .toBeGreaterThan(-50);
  await page.getByRole('button', { name: 'Stop' }).click();
  await page.keyboard.press('Control+z');
  await expect(page.getByRole('combobox', { name: 'Sample rate' })).toContainText('48 kHz');
});

test('a whole session leaves as one archive and comes in again, beside the first', async ({ page, server }) => {
  test.setTimeout(300_000);
  await open(page, server.url, 'brief');
  const before = await docOf(page, server.url);
  await page.getByRole('button', { name: 'Open', exact: true }).click();
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('menuitem', { name: /This session as one archive/ }).click(),
  ]);
  const archive = path.join(mkdtempSync(path.join(tmpdir(), 'wide-room-session-')), 'session.zip');
  await download.saveAs(archive);
  await page.getByLabel('Archive of a session').setInputFiles(archive);
  await expect(page.getByText(`${before.name} is here.`)).toBeVisible({ timeout: 60_000 });
  await page.waitForURL((url) => /\/s\/(?!lamp)/.test(url.pathname));
  // Its keys are there when its foot is.
  await page.waitForSelector('[data-roll]');
  const id = /\/s\/([^/]+)/.exec(page.url())![1]!;
  const after = await docOf(page, server.url, id);
  const shape = (d: typeof before) => d.tracks.map((t) => [t.name, t.clips.map((c) => [c.start, c.length, c.name])]);
  expect(shape(after)).toEqual(shape(before));
  // It sounds: the files are its own.
  await page.keyboard.press('Space');
  await rolls(page, 'playing');
  await expect
    .poll(async () => Number(await page.getByRole('meter', { name: 'Reference C' }).getAttribute('aria-valuenow')))
    .toBeGreaterThan(-60);
  await page.keyboard.press('Space');
  await rolls(page, 'stopped');
  // Something else is refused with what it is.
  const text = path.join(path.dirname(archive), 'notes.zip');
  writeFileSync(text, 'no archive');
  await page.getByLabel('Archive of a session').setInputFiles(text);
  await expect(page.getByText(/notes\.zip: This file is no ZIP archive/)).toBeVisible();
});

test('all sessions: called otherwise, duplicated, removed after a question, and brought back', async ({
  page,
  server,
}) => {
  await open(page, server.url, 'brief');
  await page.getByRole('button', { name: 'Open', exact: true }).click();
  await page.getByRole('menuitem', { name: /All sessions/ }).click();
  const desk = page.getByRole('dialog', { name: 'Sessions' });
  const lamp = desk.locator('[data-session=lamp]');
  await expect(lamp).toContainText('48 kHz, 24 bit');
  await lamp.getByRole('button', { name: 'Duplicate The Lamp at Sallow Point' }).click();
  const copy = desk.getByLabel('Name of The Lamp at Sallow Point, copy');
  await expect(copy).toBeVisible();
  await copy.fill('The second lamp');
  await page.keyboard.press('Enter');
  await expect(desk.getByLabel('Name of The second lamp')).toBeVisible();
  await desk.getByRole('button', { name: 'Remove The second lamp' }).click();
  await desk.getByRole('button', { name: 'Keep it' }).click();
  await desk.getByRole('button', { name: 'Remove The second lamp' }).click();
  await desk.getByRole('button', { name: 'Remove it' }).click();
  const bin = desk.getByRole('list', { name: 'In the bin' });
  await expect(bin).toContainText('The second lamp');
  await bin.getByRole('button', { name: 'Bring it back' }).click();
  await expect(desk.getByLabel('Name of The second lamp')).toBeVisible();
  // The one that is open cannot be taken from under its windows.
  await expect(lamp.getByRole('button', { name: 'The session that is open is not removed' })).toBeDisabled();
  const row = desk.getByRole('row').filter({ has: page.getByLabel('Name of The second lamp') });
  await row.getByRole('button', { name: 'Open it' }).click();
  await page.waitForURL((url) => /\/s\/(?!lamp)/.test(url.pathname));
  await expect(page.getByText('The second lamp').first()).toBeVisible();
});

test('a new session begins with a template that is chosen there; what is taken away is asked once more', async ({
  page,
  server,
}) => {
  await open(page, server.url, 'brief');
  await sheet(page, 'Versions');
  await page.getByLabel('Name of the version').fill('before the storm');
  await page.keyboard.press('Enter');
  const version = page.locator('[data-version="before the storm"]');
  await version.getByRole('button', { name: 'Remove version before the storm' }).click();
  await version.getByRole('button', { name: 'Keep it' }).click();
  await expect(version).toBeVisible();
  await version.getByRole('button', { name: 'Remove version before the storm' }).click();
  await version.getByRole('button', { name: 'Remove it' }).click();
  await expect(version).toHaveCount(0);
  // The rows of the builder stay while one looks elsewhere.
  await sheet(page, 'Make tracks');
  await page.getByLabel('Names, row 1').fill('Keeper, Wind');
  await page.keyboard.press('Enter');
  await sheet(page, 'Tracks');
  await sheet(page, 'Make tracks');
  await expect(page.getByLabel('Names, row 1')).toHaveValue('Keeper, Wind');

  await page.getByRole('button', { name: 'New session' }).click();
  const dialog = page.getByRole('dialog', { name: /New session/ });
  await dialog.getByLabel('Name').fill('Storm');
  await dialog.getByLabel('Short form').fill('ST');
  await dialog.getByRole('combobox', { name: 'Begins with' }).click();
  const first = page.getByRole('option').nth(1);
  const name = (await first.innerText()).split('\n')[0]!;
  await first.click();
  await expect(dialog.getByRole('combobox', { name: 'Begins with' })).toContainText(name);
  await dialog.getByRole('button', { name: 'Make the session' }).click();
  await page.waitForURL((url) => /\/s\/(?!lamp)/.test(url.pathname));
  const id = /\/s\/([^/]+)/.exec(page.url())![1]!;
  await expect.poll(async () => (await docOf(page, server.url, id)).tracks.length).toBeGreaterThan(0);
});
