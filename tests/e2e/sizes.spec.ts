// Every place in windows from small to large: nothing is cut off, and no control is out of reach.
import type { Page } from '@playwright/test';
import { expect, open, test } from './support/studio';

const SIZES = [
  { width: 1024, height: 768 },
  { width: 1280, height: 800 },
  { width: 1920, height: 1080 },
  { width: 2560, height: 1440 },
] as const;

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

/** Two frames: one in which the page is laid out anew, and one for what follows from its new sizes. */
const laidOut = (page: Page): Promise<void> =>
  page.evaluate(() => new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(() => done()))));

/** Looks at what is shown in a window of each size. */
async function inEachSize(page: Page, shown: string): Promise<void> {
  for (const size of SIZES) {
    const where = `${shown}, ${size.width} by ${size.height}`;
    await page.setViewportSize(size);
    await laidOut(page);
    const over = await page.evaluate(() => document.documentElement.scrollWidth - innerWidth);
    expect(over, `${where}: wider than the window`).toBeLessThanOrEqual(0);
    expect(await outOfReach(page), where).toEqual([]);
  }
}

/** Places, and what else can be shown in them. */
const PLACES: Record<string, readonly string[]> = {
  brief: ['Make tracks', 'Working settings', 'Versions', 'Templates', 'Tracks'],
  lineup: ['Patch table', 'Line sheet', 'Loudest passage', 'Room tone', 'Cords'],
  floor: [],
  flow: ['Table', 'Map'],
  room: [],
  print: [],
};

for (const [place, views] of Object.entries(PLACES))
  test(`${place}: all controls are in reach in a small window, and in large ones`, async ({ page, server }) => {
    await page.setViewportSize(SIZES[0]);
    await open(page, server.url, place);
    await inEachSize(page, place);
    for (const view of views) {
      await page.getByRole('radio', { name: view, exact: true }).click();
      await inEachSize(page, view);
    }
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
