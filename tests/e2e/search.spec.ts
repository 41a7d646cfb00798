// The search for actions: everything that Brief and Line-up can do is there, from wherever one searches.
import type { Page } from '@playwright/test';
import { ACTIONS } from '@/places/frame/actions';
import { docOf, expect, go, open, test } from './support/studio';

async function search(page: Page, text: string): Promise<void> {
  await page.keyboard.press('Control+k');
  await page
    .getByRole('combobox', { name: /Search for an action/ })
    .or(page.locator('[cmdk-input]'))
    .first()
    .fill(text);
}

test('each action of Brief and Line-up has its control, in the part of the place that it names', async ({
  page,
  server,
}) => {
  await open(page, server.url, 'brief');
  // These stand only while the device shown is on, on a network, or needs them.
  const sometimes = ['lineup.delay', 'lineup.network', 'lineup.plug', 'lineup.inputs', 'lineup.all-lines'];
  for (const { id, place, through } of ACTIONS.toSorted((a, b) => a.place.localeCompare(b.place))) {
    if (sometimes.includes(id)) continue;
    if (!page.url().endsWith(place)) await go(page, place);
    if (through) await page.locator(`[data-action="${through}"]`).click();
    await expect(page.locator(`[data-action="${id}"]`).first(), id).toBeVisible();
  }
});

test('an action is done from another place: a field is gone into, a list opened, a button pressed', async ({
  page,
  server,
}) => {
  await open(page, server.url, 'floor');
  await search(page, 'Set the count-in');
  await page.keyboard.press('Enter');
  await expect(page).toHaveURL(/\/brief$/);
  const countIn = page.getByRole('spinbutton', { name: 'Count-in' });
  await expect(countIn).toBeFocused();
  await page.keyboard.press('2');
  await page.keyboard.press('Enter');
  await expect.poll(async () => (await docOf(page, server.url)).settings.countIn).toBe(2);

  await search(page, 'Choose the sample rate');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('option', { name: '96 kHz' })).toBeVisible();
  await page.keyboard.press('Escape');

  await search(page, 'Patch by typing');
  await page.keyboard.press('Enter');
  await expect(page).toHaveURL(/\/lineup$/);
  await expect(page.getByRole('textbox', { name: 'Patch by typing' })).toBeFocused();
  await page.keyboard.type('2 > Pilot');
  await page.keyboard.press('Enter');
  await expect
    .poll(async () => (await docOf(page, server.url)).tracks.find((t) => t.id === 'pilot')!.inputs)
    .toEqual(['standin-eight/2']);

  await search(page, 'New session');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('dialog', { name: 'New session' })).toBeVisible();
  await page.keyboard.press('Escape');
});

test('what is shown of a place is found too, by the name that a screen reader tells', async ({ page, server }) => {
  await open(page, server.url, 'brief');
  await search(page, 'Limits of Fold-down');
  await page.getByRole('option', { name: 'Limits of Fold-down' }).click();
  await expect(page.getByRole('button', { name: 'as the job' }).last()).toBeVisible();
  await page.keyboard.press('Escape');
  await search(page, 'Name of Narrator');
  await page.getByRole('option', { name: 'Name of Narrator' }).click();
  await expect(page.getByRole('textbox', { name: 'Name of Narrator' })).toBeFocused();
});
