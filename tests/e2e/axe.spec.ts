// Every place looked at by axe (WCAG 2.1 A and AA), in both schemes.
import AxeBuilder from '@axe-core/playwright';
import { editFrom, expect, go, open, test } from './support/studio';

test('axe finds no serious fault in any place, lights down and lights up', async ({ page, server }) => {
  test.setTimeout(180_000);
  const grave: string[] = [];
  const look = async (place: string, scheme: string) => {
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
  };
  await open(page, server.url, 'brief');
  await editFrom(page, server.url, {
    type: 'writeLane',
    target: { node: 'narrator', param: 'level' },
    from: 0,
    to: 480_000,
    points: [0, 480_000].map((at) => ({ at, value: -3, shape: 'line' as const })),
  });
  for (const scheme of ['down', 'up']) {
    for (const place of ['brief', 'lineup', 'floor', 'flow', 'room', 'print']) {
      await go(page, place);
      await page.waitForURL(`**/${place}`);
      await page.waitForLoadState('networkidle');
      if (place === 'floor') await page.getByRole('button', { name: 'Lanes of Narrator' }).click();
      await look(place, scheme);
      if (place === 'room') {
        for (const lens of ['Ports', 'Calibrate', 'Listen']) {
          await page.getByRole('radio', { name: lens, exact: true }).click();
          const fresh = page.getByRole('button', { name: 'New room' });
          if (lens === 'Ports' && scheme === 'down') await fresh.click();
          if (lens === 'Ports') await expect(page.getByRole('region', { name: 'Test signal' })).toBeVisible();
          if (lens === 'Listen') await page.getByRole('radio', { name: /^stereo/ }).click();
          await look(`room, ${lens}`, scheme);
        }
        await page.getByRole('radio', { name: 'Place', exact: true }).click();
      }
      if (place !== 'flow') continue;
      await page.getByRole('radio', { name: 'Table' }).click();
      await page.locator('[data-flow-row=narrator]').click();
      await look('flow as a table', scheme);
      await page.getByRole('radio', { name: 'Map' }).click();
    }
    await page.keyboard.press('l');
  }
  expect(grave).toEqual([]);
});
