import { expect, type Page } from '@playwright/test';
import { docOf, editFrom, go, open, rolls, test } from './support/studio';

const RATE = 48_000;
const pointsOf = async (page: Page, url: string, key: string) => (await docOf(page, url)).lanes[key]?.points ?? [];

test('a lane is drawn, typed, moved, changed in a stretch and taken away again', async ({ page, server }) => {
  const { url } = server;
  await open(page, url, 'floor');
  await page.getByRole('button', { name: 'Lanes of Narrator' }).click();
  const lane = page.locator('[data-lane="narrator level"]');
  const box = (await lane.boundingBox())!;
  const points = () => pointsOf(page, url, 'narrator level');
  await page.mouse.click(box.x + 100, box.y + 20);
  await expect.poll(async () => (await points()).length).toBe(1);
  // Drawn by hand: thinned to what cannot be told apart.
  await page.mouse.move(box.x + 200, box.y + 20);
  await page.mouse.down();
  for (let i = 1; i <= 20; i++) await page.mouse.move(box.x + 200 + 5 * i, box.y + 20 + i);
  await page.mouse.up();
  await expect.poll(async () => (await points()).length).toBeGreaterThanOrEqual(3);
  expect((await points()).length).toBeLessThan(22);
  await page.keyboard.press('Control+z');
  await expect.poll(async () => (await points()).length).toBe(1);
  // Typed: a point at the playhead.
  await page.keyboard.press('Home');
  await page.getByRole('spinbutton', { name: 'Narrator, Level at the playhead' }).focus();
  await page.keyboard.type('-7.5');
  await page.keyboard.press('Enter');
  await expect.poll(async () => (await points()).map((p) => [p.at, p.value])).toContainEqual([0, -7.5]);
  // A point by the keyboard.
  const first = lane.getByRole('slider').first();
  await first.focus();
  await page.keyboard.press('ArrowUp');
  await page.keyboard.press('ArrowRight');
  await expect.poll(async () => (await points())[0]).toMatchObject({ at: RATE / 25, value: -7.4 });
  // In a stretch alone.
  await page.locator('[data-cue="4"] button').first().click();
  await page.keyboard.press('u');
  await page.getByRole('button', { name: 'Points of Narrator, Level' }).click();
  await page.getByRole('menuitem', { name: 'Lower the stretch by 1 dB' }).click();
  await expect.poll(async () => (await points()).length).toBeGreaterThanOrEqual(5);
  await page.getByRole('button', { name: 'Points of Narrator, Level' }).click();
  await page.getByRole('menuitem', { name: 'Remove the lane' }).click();
  await expect.poll(async () => (await points()).length).toBe(0);
  await page.keyboard.press('v');
});

test('what is ridden while it plays is written: by mouse and controller while held, by keys from here on', async ({
  page,
  server,
}) => {
  const { url } = server;
  await open(page, url, 'floor');
  await page.getByRole('button', { name: 'Lanes of Surf' }).click();
  await page.getByRole('combobox', { name: 'Ride of Surf, Level' }).click();
  await page.getByRole('option', { name: /while held/ }).click();
  await page.getByRole('button', { name: 'Play' }).click();
  await rolls(page, 'playing');
  const points = () => pointsOf(page, url, 'surf level');
  const field = (await page.getByRole('spinbutton', { name: 'Level of Surf' }).boundingBox())!;
  await page.mouse.move(field.x + 10, field.y + 8);
  await page.mouse.down();
  for (let i = 1; i <= 12; i++) await page.mouse.move(field.x + 10 - 5 * i, field.y + 8, { steps: 2 });
  const riding = page.locator('[data-lane="surf level"] path[stroke="var(--rec)"]');
  await expect(riding).toHaveCount(1);
  await page.mouse.up();
  await expect(riding).toHaveCount(0);
  await expect.poll(async () => (await points()).length).toBeGreaterThanOrEqual(3);
  const values = (await points()).map((p) => p.value);
  // It comes back to where it was.
  expect(values[0]).toBe(-6);
  expect(values.at(-1)).toBe(-6);
  expect(Math.min(...values)).toBeLessThan(-12);
  expect((await docOf(page, url)).tracks.find((t) => t.id === 'surf')!.level).toBe(-6);
  await page.getByRole('button', { name: 'Stop' }).click();
  await rolls(page, 'stopped');
  await page.keyboard.press('Control+z');
  await expect.poll(async () => (await points()).length).toBe(0);

  // By keys, from here on.
  await page.locator('[data-row=pad] button').nth(1).click();
  await page.keyboard.press('Shift+v');
  await expect(page.getByText('The level of Pad is ridden while it is held.')).toBeVisible();
  await page.keyboard.press('Shift+v');
  await expect(page.getByText('The level of Pad is ridden from where it is moved')).toBeVisible();
  await page.keyboard.press('Space');
  await rolls(page, 'playing');
  // The first level that is heard stands where sound has begun.
  await expect(page.getByLabel('Timecode', { exact: true })).not.toHaveValue('10:00:00:00');
  for (let i = 0; i < 4; i++) await page.keyboard.press('Alt+ArrowDown');
  // What was never heard is not written: it sounds on for so long that a busy machine has taken it over too.
  const clock = page.getByLabel('Timecode', { exact: true });
  const frames = async () => {
    const [, , seconds, f] = (await clock.inputValue()).split(/[:;]/).map(Number);
    return seconds! * 25 + f!;
  };
  const pressed = await frames();
  await expect.poll(frames).toBeGreaterThan(pressed + 50);
  await page.keyboard.press('Space');
  await rolls(page, 'stopped');
  const pad = () => pointsOf(page, url, 'pad level');
  await expect.poll(async () => (await pad()).at(-1)?.value).toBe(-5.5);
  expect((await pad())[0]!.value).toBe(-3.5);
  await editFrom(page, url, { type: 'removeLane', target: { node: 'pad', param: 'level' } });

  // By a controller: its fader tells where it is, not that it was let go; the ride ends when it rests.
  await page.keyboard.press('Shift+v');
  await page.keyboard.press('Shift+v');
  await page.keyboard.press('Control+k');
  await page.getByRole('combobox').fill('controller');
  await page.getByRole('option', { name: 'Set up a controller' }).click();
  const dialog = page.getByRole('dialog', { name: 'Controller' });
  await dialog.getByRole('button', { name: 'Key 1' }).click();
  await rolls(page, 'playing');
  for (const value of ['80', '70', '60']) await dialog.getByRole('slider', { name: 'Fader' }).fill(value);
  await expect.poll(async () => (await pad()).length).toBeGreaterThanOrEqual(3);
  await dialog.getByRole('button', { name: 'Key 1' }).click();
  await rolls(page, 'stopped');
  await page.keyboard.press('Escape');
  // While held it comes back; the level that is set by hand was not touched.
  expect(Math.min(...(await pad()).map((p) => p.value))).toBeLessThan(-6);
  expect((await pad()).at(-1)!.value).toBe(-3.5);
  expect((await docOf(page, url)).tracks.find((t) => t.id === 'pad')!.level).toBe(-3.5);
  await editFrom(page, url, { type: 'removeLane', target: { node: 'pad', param: 'level' } });
});

test('all stems are faded at the end in one action; the references fade with them and still add up', async ({
  page,
  server,
}) => {
  const { url } = server;
  await open(page, url, 'floor');
  const before = (await docOf(page, url)).lanes;
  await page.getByRole('button', { name: 'Lane', exact: true }).click();
  await page.getByRole('menuitem', { name: 'Fade all stems at the end, 4 s' }).click();
  await expect
    .poll(async () => Object.keys((await docOf(page, url)).lanes).length)
    .toBe(Object.keys(before).length + 5);
  await go(page, 'flow');
  await page.getByRole('button', { name: 'Bus Effects', exact: true }).click();
  await expect(page.locator('[data-lane="efx level"]')).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect.poll(async () => (await docOf(page, url)).lanes).toEqual(before);
});
