// Every place in windows from small to large: nothing is cut off, and no control is out of reach.
import type { Page } from '@playwright/test';
import { expect, go, open, test } from './support/studio';

const SIZES = [
  { width: 1024, height: 768 },
  { width: 1280, height: 800 },
  { width: 1920, height: 1080 },
  { width: 2560, height: 1440 },
];
const PLACES = ['brief', 'lineup', 'floor', 'flow', 'room', 'print'];

/** Controls that can be seen by nobody: beyond the window, or cut off by something that does not scroll. */
const outOfReach = (page: Page): Promise<string[]> =>
  page.evaluate(() => {
    const lost: string[] = [];
    const scrolls = (o: string) => o === 'auto' || o === 'scroll';
    for (const el of document.querySelectorAll<HTMLElement>('button, a[href], input, textarea, [role=spinbutton]')) {
      const r = el.getBoundingClientRect();
      const style = getComputedStyle(el);
      if (
        r.width === 0 ||
        r.height === 0 ||
        style.visibility === 'hidden' ||
        el.closest('.react-flow, [hidden], .sr-only')
      )
        continue;
      const [x, y] = [r.left + r.width / 2, r.top + r.height / 2];
      let [inX, inY] = [false, false];
      for (let p = el.parentElement; p; p = p.parentElement) {
        const s = getComputedStyle(p);
        const b = p.getBoundingClientRect();
        inX ||= scrolls(s.overflowX);
        inY ||= scrolls(s.overflowY);
        const cutX = !inX && s.overflowX !== 'visible' && (x < b.left - 1 || x > b.right + 1);
        const cutY = !inY && s.overflowY !== 'visible' && (y < b.top - 1 || y > b.bottom + 1);
        if (cutX || cutY) {
          lost.push(el.getAttribute('aria-label') ?? el.textContent ?? el.tagName);
          break;
        }
        if (!p.parentElement && ((!inX && (x < 0 || x > innerWidth)) || (!inY && (y < 0 || y > innerHeight))))
          lost.push(el.getAttribute('aria-label') ?? el.textContent ?? el.tagName);
      }
    }
    return lost;
  });

for (const size of SIZES)
  test(`${size.width} by ${size.height}: all controls of all places are in reach`, async ({ page, server }) => {
    await page.setViewportSize(size);
    await open(page, server.url, 'brief');
    for (const place of PLACES) {
      await go(page, place);
      await page.waitForLoadState('networkidle');
      const over = await page.evaluate(() => document.documentElement.scrollWidth - innerWidth);
      expect(over, `${place} is wider than the window`).toBeLessThanOrEqual(0);
      expect(await outOfReach(page), place).toEqual([]);
    }
    await go(page, 'brief');
    for (const sheet of ['Make tracks', 'Working settings', 'Versions', 'Templates', 'Tracks']) {
      await page.getByRole('radio', { name: sheet, exact: true }).click();
      expect(await outOfReach(page), sheet).toEqual([]);
    }
    await go(page, 'lineup');
    for (const view of ['Patch table', 'Line sheet', 'Loudest passage', 'Room tone', 'Cords']) {
      await page.getByRole('radio', { name: view, exact: true }).click();
      expect(await outOfReach(page), view).toEqual([]);
    }
    await go(page, 'flow');
    await page.getByRole('radio', { name: 'Table' }).click();
    expect(await outOfReach(page), 'flow as a table').toEqual([]);
    await page.getByRole('radio', { name: 'Map' }).click();
  });

test('notices cover no button that mends a finding', async ({ page, server }) => {
  await page.setViewportSize({ width: 1024, height: 768 });
  await open(page, server.url, 'lineup');
  await page.getByRole('button', { name: 'Arm Narrator' }).click();
  const mend = page
    .locator('[data-foot] .btn')
    .filter({ hasText: /Switch it on|Disarm/ })
    .first();
  await expect(mend).toBeVisible();
  await page.getByRole('textbox', { name: 'Patch by typing' }).fill('99 > Pilot');
  for (let i = 0; i < 3; i++) await page.keyboard.press('Enter');
  await expect(page.locator('[data-sonner-toast]').first()).toBeVisible();
  // A real press: it would not arrive under a notice.
  await mend.click({ trial: true });
  await page.getByRole('button', { name: 'Record', exact: true }).click();
  const dialog = page.getByRole('dialog', { name: 'Before recording' });
  await expect(dialog).toBeVisible();
  for (const button of await dialog.getByRole('button').all()) await button.click({ trial: true });
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Arm Narrator' }).click();
});
