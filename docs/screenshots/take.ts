import path from 'node:path';
import { go, open, recordFor, rolls, switchOnLines, test } from '../../tests/e2e/support/studio';

// One picture per place, 1280x800, from the demo session while it is worked on.
test('pictures of the six places', async ({ page, server }) => {
  test.setTimeout(240_000);
  const shot = (name: string) => page.screenshot({ path: path.join(import.meta.dirname, `${name}.png`) });
  const steady = async () => {
    await page.waitForLoadState('networkidle').catch(() => {});
    await page.evaluate(() => document.fonts.ready);
  };
  await open(page, server.url, 'brief');
  await steady();
  await shot('brief');
  await page.getByRole('radio', { name: 'Make tracks' }).click();
  await page.getByLabel('Names, row 1').fill('Keeper, Gull, Tide {n}');
  await page.keyboard.press('Enter');
  await shot('brief-make');
  await page.getByRole('radio', { name: 'Tracks', exact: true }).click();

  await switchOnLines(page);
  await page.locator('[data-stage=lowCut] button[aria-expanded]').click();
  await page.waitForFunction(() => Number(document.querySelector('[aria-label="Level of Booth near"]')?.getAttribute('aria-valuenow')) > -20);
  await shot('lineup');
  await page.getByRole('radio', { name: 'Loudest passage' }).click();
  await page.getByRole('button', { name: 'Listen to the loudest passage' }).click();
  await page.locator('[data-level-row="standin-eight/5"]').getByRole('button', { name: /^Set the gain/ }).waitFor({ timeout: 40_000 });
  await shot('lineup-levels');
  await page.getByRole('button', { name: 'That was it' }).click();
  await page.getByRole('radio', { name: 'Patch' }).click();

  await go(page, 'floor');
  await page.getByLabel('Locate').fill('10:00:26:00');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Arm Pilot' }).click();
  await recordFor(page, 5);
  await shot('floor');
  await page.getByRole('button', { name: 'Stop recording' }).click();
  await page.locator('[data-take="1"]').waitFor();
  // The pictures after this one are of the demo as it was.
  await page.getByRole('button', { name: 'Undo' }).click();
  await page.locator('[data-take="1"]').waitFor({ state: 'detached' });
  await page.getByRole('button', { name: 'Arm Pilot' }).click();

  await go(page, 'flow');
  await page.getByRole('button', { name: 'Bus Effects' }).click();
  await page.getByRole('button', { name: 'Play' }).click();
  await rolls(page, 'playing');
  await page.waitForFunction(() => Number(document.querySelector('[aria-label="Level of Pilot"]')?.getAttribute('aria-valuenow')) > -30);
  await shot('flow');

  await go(page, 'room');
  await page.getByRole('button', { name: /Pilot/ }).click();
  await page.waitForFunction(() => Number(document.querySelector('[aria-label="Mix in L"]')?.getAttribute('aria-valuenow')) > -40);
  await shot('room');
  await page.getByRole('button', { name: 'Stop' }).click();

  await go(page, 'print');
  await page.getByRole('button', { name: /^Print \d+ files/ }).click();
  await page.getByTestId('sum').waitFor({ timeout: 120_000 });
  await page.locator('[data-testid=loudness-chart] .plotly').waitFor();
  await shot('print');
});
