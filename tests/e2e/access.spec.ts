// What the keyboard and a controller reach.
import type { Page } from '@playwright/test';
import { docOf, expect, go, open, rolls, safe, test } from './support/studio';

test('a controller is taught, rolls, safe, and moves a level; the history goes back', async ({ page, server }) => {
  await open(page, server.url, 'floor');
  await page.getByRole('button', { name: /^Boat/ }).first().click();
  await page.keyboard.press('Control+k');
  await page.getByRole('combobox').fill('controller');
  await page.getByRole('option', { name: 'Set up a controller' }).click();
  const dialog = page.getByRole('dialog', { name: 'Controller' });
  await test.step('a key is taught and does what it was taught', async () => {
    await dialog.getByRole('button', { name: 'Teach Play or stop' }).click();
    await dialog.getByRole('button', { name: 'Key 8' }).click();
    await expect(dialog.getByRole('listitem').first()).toContainText('key 43');
    await dialog.getByRole('button', { name: 'Key 8' }).click();
    await rolls(page, 'playing');
    await dialog.getByRole('button', { name: 'Key 8' }).click();
    await rolls(page, 'stopped');
  });
  const level = async () => (await docOf(page, server.url)).tracks.find((t) => t.id === 'boat')!.level;
  const before = await level();
  await test.step('the fader moves the level of the selected track', async () => {
    await dialog.getByRole('slider', { name: 'Fader' }).fill('127');
    await expect.poll(level).toBe(12);
    await page.keyboard.press('Escape');
  });
  await test.step('the history lists it, and goes back to before it and forward again', async () => {
    await page.keyboard.press('Control+Shift+H');
    const steps = page.getByRole('dialog', { name: 'History' }).getByRole('listitem');
    await expect(steps.first()).toContainText('set track level');
    await page.keyboard.press('Escape');
    await page.keyboard.press('Control+z');
    await expect.poll(level).toBe(before);
    await page.keyboard.press('Control+Shift+H');
    await steps.first().getByRole('button').click();
    await expect.poll(level).toBe(12);
  });
});

test('space plays from wherever one clicked last', async ({ page, server }) => {
  await open(page, server.url, 'brief');
  await go(page, 'floor');
  await page.keyboard.press(' ');
  await rolls(page, 'playing');
  await page.keyboard.press(' ');
  await rolls(page, 'stopped');
});

/** Goes on by Tab until the element of this role and name has the focus. */
async function tabTo(page: Page, role: string, name: string | RegExp): Promise<void> {
  const wanted = page.getByRole(role as 'button', { name, exact: typeof name === 'string' }).first();
  for (let i = 0; i < 250; i++) {
    if (await wanted.evaluateAll((all) => all[0] !== undefined && all[0] === document.activeElement)) return;
    await page.keyboard.press('Tab');
  }
  throw new Error(`${role} ${String(name)} is not reached by Tab`);
}

test('the keyboard alone: a job is prepared, a line patched, its chain set, and a take recorded', async ({
  page,
  server,
}) => {
  test.setTimeout(180_000);
  const { url } = server;
  const { keyboard } = page;
  await open(page, url, 'brief');
  await test.step('a word of the format sentence', async () => {
    await tabTo(page, 'combobox', 'Word length');
    await keyboard.press('Enter');
    await expect(page.getByRole('option', { name: '24 bit' })).toBeFocused();
    await keyboard.press('ArrowDown');
    await expect(page.getByRole('option', { name: '32 bit float' })).toBeFocused();
    await keyboard.press('Enter');
    // What follows is said first; Enter goes on.
    await expect(page.getByRole('button', { name: 'Record at 32 bit float' })).toBeFocused();
    await keyboard.press('Enter');
    await expect.poll(async () => (await docOf(page, url)).format.wordLength).toBe(32);
    await keyboard.press('Control+z');
    await expect.poll(async () => (await docOf(page, url)).format.wordLength).toBe(24);
  });
  await test.step('two tracks in one go', async () => {
    await tabTo(page, 'radio', 'Tracks');
    await keyboard.press('ArrowRight');
    await expect(page.getByRole('radio', { name: 'Make tracks' })).toBeFocused();
    await keyboard.press('Enter');
    await expect(page.getByRole('textbox', { name: 'Names, row 1' })).toBeVisible();
    await tabTo(page, 'textbox', 'Names, row 1');
    await keyboard.type('Deck A, Deck B');
    await tabTo(page, 'button', 'Make 2 tracks');
    await keyboard.press('Enter');
    await expect
      .poll(async () => (await docOf(page, url)).tracks.map((t) => t.name).slice(-2))
      .toEqual(['Deck A', 'Deck B']);
  });
  await test.step('a device is switched on and a line patched', async () => {
    await keyboard.press('Control+k');
    await keyboard.type('Line-up');
    await keyboard.press('Enter');
    await page.waitForURL('**/lineup');
    await tabTo(page, 'combobox', 'Input device');
    await keyboard.press('Enter');
    await expect(page.locator('[role=option]:focus')).toBeVisible();
    await keyboard.type('Eight');
    await expect(page.getByRole('option', { name: 'Eight-line interface (stand-in)' })).toBeFocused();
    await keyboard.press('Enter');
    await tabTo(page, 'button', 'Switch on');
    await keyboard.press('Enter');
    await page.getByRole('button', { name: 'Switch off', exact: true }).waitFor();
    await tabTo(page, 'textbox', 'Patch by typing');
    await keyboard.type('2 > Deck A');
    await keyboard.press('Enter');
    const track = async () => (await docOf(page, url)).tracks.find((t) => t.name === 'Deck A')!;
    await expect.poll(async () => (await track()).inputs).toEqual(['standin-eight/2']);
  });
  await test.step('its chain is set and the track armed', async () => {
    await tabTo(page, 'button', /^Line 2,/);
    await keyboard.press('Enter');
    const gate = page.getByRole('switch', { name: 'Gate on' });
    const was = await gate.getAttribute('aria-checked');
    await tabTo(page, 'switch', 'Gate on');
    await keyboard.press('Space');
    await expect(gate).toHaveAttribute('aria-checked', was === 'true' ? 'false' : 'true');
    await tabTo(page, 'button', 'Arm Deck A');
    await keyboard.press('Enter');
  });
  await test.step('a take is recorded and circled', async () => {
    await keyboard.press('Control+k');
    await keyboard.type('Floor');
    await keyboard.press('Enter');
    await page.waitForURL('**/floor');
    await expect(page.getByText('signal', { exact: true })).toBeVisible();
    await keyboard.press('r');
    await rolls(page, 'recording');
    await safe(page, 1);
    await keyboard.press('r');
    await rolls(page, 'stopped');
    await tabTo(page, 'button', /^Circle (cue \d+, )?take 1 of Deck A/);
    await keyboard.press('Enter');
    const takes = async () => (await docOf(page, url)).tracks.find((t) => t.name === 'Deck A')!.takes;
    await expect.poll(async () => (await takes())[0]?.circled).toBe(true);
  });
});
