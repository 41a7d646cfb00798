// Every place looked at by axe (WCAG 2.1 A and AA), in both schemes; and what the keyboard and a controller reach.
import AxeBuilder from '@axe-core/playwright';
import { docOf, expect, go, open, rolls, test } from './support/studio';

test('axe finds no serious fault in any place, lights down and lights up', async ({ page, server }) => {
  test.setTimeout(180_000);
  const grave: string[] = [];
  await open(page, server.url, 'brief');
  for (const scheme of ['down', 'up']) {
    for (const place of ['brief', 'lineup', 'floor', 'flow', 'room', 'print']) {
      await go(page, place);
      await page.waitForURL(`**/${place}`);
      await page.waitForLoadState('networkidle');
      const axe = new AxeBuilder({ page }).withTags(['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa']);
      // Only colours change with the lights.
      if (scheme === 'up') axe.withRules(['color-contrast']);
      const { violations } = await axe.analyze();
      for (const v of violations)
        if (v.impact === 'serious' || v.impact === 'critical')
          grave.push(
            `${place}, lights ${scheme}: ${v.id} at ${v.nodes
              .map((n) => n.target.join(' '))
              .slice(0, 4)
              .join(' | ')}`,
          );
    }
    await page.keyboard.press('l');
  }
  expect(grave).toEqual([]);
});

test('a controller is taught, rolls, and moves a level; the history goes back', async ({ page, server }) => {
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
