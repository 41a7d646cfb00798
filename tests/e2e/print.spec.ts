// Print by hand: several ranges, what is printed beside the brief, the line in which prints wait.
import { execFileSync } from 'node:child_process';
import { mkdtempSync, readdirSync, readFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import type { Page } from '@playwright/test';
import type { PrintFacts } from '@/core/print';
import { parseFigures } from '@/core/units';
import { docOf, editFrom, expect, open, test } from './support/studio';

const prints = async (page: Page, url: string, id = 'lamp') =>
  parseFigures(await (await page.request.get(`${url}/api/sessions/${id}/prints`)).text()) as PrintFacts[];

const run = (...[command, ...args]: [string, ...string[]]) => execFileSync(command, args, { encoding: 'utf8' });

test('each cue gets its own files, with lead-in and loudness; names, table, archive and report tell them apart', async ({
  page,
  server,
}) => {
  test.setTimeout(300_000);
  await open(page, server.url, 'print');
  const { cues } = await docOf(page, server.url);
  await page.getByRole('combobox', { name: 'What is printed' }).click();
  await page.getByRole('option', { name: /each cue/ }).click();
  // The reference and one track beside the brief, and nothing else.
  await page.getByRole('button', { name: 'Which files are printed' }).click();
  const list = page.getByRole('dialog', { name: 'Which files are printed' });
  await list.getByRole('button', { name: 'none' }).first().click();
  await list.getByRole('checkbox', { name: /^Reference/ }).check();
  await list.getByRole('checkbox', { name: /^Narrator/ }).check();
  await page.keyboard.press('Escape');
  await expect(page.getByRole('button', { name: `Print ${2 * cues.length} files` })).toBeVisible();
  await page.getByRole('checkbox', { name: 'Lead-in' }).check();
  await page.getByRole('checkbox', { name: /^All files to/ }).check();
  await page.getByLabel('Language of what is spoken').fill('en');
  await page.keyboard.press('Enter');
  await expect.poll(async () => (await docOf(page, server.url)).language).toBe('en');
  // A name that cannot be made says which token it is.
  await editFrom(page, server.url, { type: 'setSession', namePattern: '{session}_{bus}_{rage}' });
  await expect(page.getByText(/"\{rage\}"; known are/).last()).toBeVisible();
  await editFrom(page, server.url, {
    type: 'setSession',
    namePattern: '{session}_{bus}_{layout}_{language}_v{version}',
  });
  await expect(page.getByText(/Files of cue .* and cue .* would have one name/)).toBeVisible();
  await page.getByRole('button', { name: 'Put the range into the names' }).click();
  await expect(page.getByText('Nothing stands in the way of a print.')).toBeVisible();

  await page.getByRole('button', { name: /^Print \d+ files/ }).click();
  await expect(page.getByTestId('ranges-shown')).toBeVisible({ timeout: 120_000 });
  const [made] = await prints(page, server.url);
  expect(made!.proof!.files.map((f) => f.file)).toEqual(
    cues.flatMap((c) => ['REF_51', 'Narrator_10'].map((bus) => `SP_${bus}_en_v01_${c.number}.wav`)),
  );
  for (const f of made!.proof!.files.filter((x) => x.file.includes('_REF_'))) {
    expect(Math.abs(f.facts.integrated + 23)).toBeLessThan(0.05);
    expect(f.lead).toBe(3 * 48_000);
  }
  await expect(page.locator('[data-print]')).toHaveCount(2 * cues.length);
  await page.getByRole('combobox', { name: 'Range shown' }).click();
  await page.getByRole('option', { name: /^2/ }).first().click();
  await expect(page.locator('[data-print]')).toHaveCount(2);
  await expect(page.getByTestId('sound-chart')).toContainText('L/R correlate');

  const [download] = await Promise.all([page.waitForEvent('download'), page.getByTestId('archive').click()]);
  const dir = mkdtempSync(path.join(tmpdir(), 'wide-room-cues-'));
  await download.saveAs(path.join(dir, 'print.zip'));
  run('unzip', '-q', path.join(dir, 'print.zip'), '-d', dir);
  execFileSync('sha256sum', ['--check', '--quiet', 'SHA256SUMS'], { cwd: dir });
  expect(readdirSync(dir).filter((f) => f.endsWith('.wav'))).toHaveLength(2 * cues.length);
  const paper = run('pdftotext', '-layout', path.join(dir, 'report.pdf'), '-');
  const text = readFileSync(path.join(dir, 'report.txt'), 'utf8');
  for (const words of [paper, text]) {
    expect(words).toContain(`${cues.length} ranges`);
    expect(words.replace(/\s+/g, ' ')).toContain('with a tone 2 s before it');
  }
  await page.getByLabel('Archive to prove again').setInputFiles(path.join(dir, 'print.zip'));
  await expect(page.getByRole('dialog', { name: 'All of it is as it was proven' })).toBeVisible({ timeout: 60_000 });
  await page.keyboard.press('Escape');
  // Back in: a track for each, its clips where their cues stand, without their lead-ins.
  await page.getByRole('button', { name: 'Back in' }).click();
  await expect(page.getByRole('button', { name: /^Hear print/ })).toBeVisible({ timeout: 60_000 });
  const back = (await docOf(page, server.url)).tracks.filter((t) => t.print !== undefined);
  expect(back.map((t) => t.clips.map((c) => c.start))).toEqual([0, 1].map(() => cues.map((c) => c.start)));
  await page.keyboard.press('Control+z');
});

test('a list of ranges is written, changed, and refused where it cannot be', async ({ page, server }) => {
  await open(page, server.url, 'print');
  await page.getByRole('combobox', { name: 'What is printed' }).click();
  await page.getByRole('option', { name: /a list of ranges/ }).click();
  const dialog = page.getByRole('dialog', { name: 'Ranges to print' });
  await dialog.getByRole('button', { name: 'The session’s range' }).click();
  await dialog.getByLabel('Name of Reel 1').fill('Opening');
  await page.keyboard.press('Enter');
  await dialog.getByLabel('Opening to').fill('10:00:20:00');
  await page.keyboard.press('Enter');
  await expect
    .poll(async () => (await docOf(page, server.url)).printing?.list)
    .toEqual([expect.objectContaining({ name: 'Opening', start: 0, end: 20 * 48_000 })]);
  await dialog.getByLabel('Opening from').fill('10:00:30:00');
  await page.keyboard.press('Enter');
  await expect(page.getByText(/Opening must end after it starts/)).toBeVisible();
  await expect(dialog.getByLabel('Opening from')).toHaveValue('10:00:00:00');
  await page.keyboard.press('Escape');
  await expect(page.getByRole('button', { name: 'Change the list' })).toBeVisible();
  await editFrom(page, server.url, { type: 'setPrinting', by: 'range', list: [], leadIn: 0, toTarget: false });
});

test('prints wait in line, are seen from another window, taken out of it, and made once more', async ({
  page,
  server,
  context,
}) => {
  test.setTimeout(200_000);
  await open(page, server.url, 'print');
  await editFrom(page, server.url, {
    ...{ type: 'setSession', namePattern: '{session}_{bus}_{layout}_{start}_v{version}' },
  });
  const button = page.getByRole('button', { name: /^Print \d+ files/ });
  const count = Math.max(0, ...(await prints(page, server.url)).map((p) => p.version));
  await button.click();
  await expect(page.getByRole('progressbar')).toBeVisible();
  // The same once more is no second print.
  await button.click();
  await expect(page.getByText(/of just this is (running|in line) already/)).toBeVisible();
  await editFrom(page, server.url, { type: 'setSession', client: 'the harbour museum' });
  await button.click();
  const line = page.getByRole('list', { name: 'Line of prints' });
  await expect(line.getByRole('listitem')).toHaveCount(2);
  await expect(line).toContainText('comes next');
  const other = await context.newPage();
  await open(other, server.url, 'print');
  await expect(other.getByRole('list', { name: 'Line of prints' }).getByRole('listitem')).toHaveCount(2);
  await other.getByRole('button', { name: new RegExp(`^Cancel Print ${count + 2}`) }).click();
  await expect(page.getByText('Taken out of the line.')).toBeVisible();
  await other.getByRole('button', { name: new RegExp(`^Cancel Print ${count + 1}`) }).click();
  await expect(line).toHaveCount(0, { timeout: 20_000 });
  await other.close();
  await page.getByRole('button', { name: `Print ${count + 2} once more` }).click();
  await expect(page.getByRole('combobox', { name: 'Print shown' })).toContainText(`Print ${count + 3}`, {
    timeout: 20_000,
  });
  await expect(page.getByTestId('archive')).toBeVisible({ timeout: 90_000 });
  const states = (await prints(page, server.url)).slice(0, 3).map((p) => p.state);
  expect(states).toEqual(['done', 'cancelled', 'cancelled']);
});

test('a print that is over is removed with its files; other windows see it go', async ({ page, server, context }) => {
  await open(page, server.url, 'print');
  const button = page.getByRole('button', { name: /^Print \d+ files/ });
  const count = Math.max(0, ...(await prints(page, server.url)).map((p) => p.version));
  await button.click();
  await page.getByRole('button', { name: `Cancel Print ${count + 1}` }).click();
  const remove = page.getByRole('button', { name: `Remove print ${count + 1}`, exact: true });
  await remove.click();
  await page.getByRole('button', { name: 'Keep it' }).click();
  const other = await context.newPage();
  await open(other, server.url, 'print');
  await expect(other.getByRole('combobox', { name: 'Print shown' })).toContainText(`Print ${count + 1}`);
  await remove.click();
  await page
    .getByRole('group', { name: `Remove print ${count + 1}` })
    .getByRole('button')
    .first()
    .click();
  await expect(page.getByText(/is removed, with its files/)).toBeVisible();
  await expect(other.getByRole('button', { name: `Remove print ${count + 1}`, exact: true })).toHaveCount(0);
  expect((await prints(page, server.url)).map((p) => p.version)).not.toContain(count + 1);
  await other.close();
});

test('two prints are compared in figures, and their difference is heard', async ({ page, server }) => {
  test.setTimeout(200_000);
  await open(page, server.url, 'print');
  await page.getByLabel('Print to').fill('10:00:08:00');
  await page.keyboard.press('Enter');
  const one = async () => {
    const known = (await prints(page, server.url)).map((p) => p.id);
    await page.getByRole('button', { name: /^Print \d+ files/ }).click();
    // Its number is one that no print had, also none that was removed.
    const made = async () => (await prints(page, server.url)).find((p) => !known.includes(p.id));
    await expect.poll(made).toMatchObject({ state: 'done' });
    const { version } = (await made())!;
    await expect(page.getByRole('combobox', { name: 'Print shown' })).toContainText(`Print ${version}`);
    return version;
  };
  const first = await one();
  await editFrom(page, server.url, { type: 'setBus', bus: 'mus', muted: true });
  await page.getByRole('button', { name: /^Print \d+ files/ }).click();
  await page.getByRole('button', { name: 'Print anyway' }).click();
  await expect
    .poll(async () => (await prints(page, server.url))[0])
    .toMatchObject({ version: first + 1, state: 'done' });
  await page.getByRole('button', { name: 'Compare with another print' }).click();
  await page.getByRole('menuitem', { name: `with print ${first}`, exact: true }).click();
  const dialog = page.getByRole('dialog', { name: `Print ${first + 1} against print ${first}` });
  await expect(dialog.getByRole('row', { name: /^Narration/ })).toContainText('equal to the bit', { timeout: 60_000 });
  await expect(dialog.getByRole('row', { name: /^Music/ })).toContainText(/→.*dBFS/);
  await dialog.getByRole('button', { name: 'Bring the difference in' }).click();
  await expect
    .poll(async () =>
      (await docOf(page, server.url)).tracks.find((t) => t.name === `Print ${first + 1} less print ${first}`),
    )
    .toMatchObject({ muted: true, destination: 'monitor', clips: [{ start: 0, length: 8 * 48_000 }] });
  await page.keyboard.press('Control+z');
  await editFrom(page, server.url, { type: 'setBus', bus: 'mus', muted: false });
});
