import { expect, open, test } from './support/studio';

test('F1 opens the guide beside the work; its pictures and the documents that it leads to are there', async ({
  page,
  server,
}) => {
  await open(page, server.url, 'floor');
  const [guide] = await Promise.all([page.waitForEvent('popup'), page.keyboard.press('F1')]);
  await expect(guide.getByRole('heading', { level: 1 })).toHaveText('From the first word to the hand-over');
  for (const place of ['Brief', 'Line-up', 'Floor', 'Flow', 'Room', 'Print'])
    await expect(guide.getByRole('heading', { level: 2, name: new RegExp(`${place}:`) })).toBeVisible();
  for (const picture of await guide.getByRole('img').all()) {
    await picture.scrollIntoViewIfNeeded();
    await expect.poll(() => picture.evaluate((img: HTMLImageElement) => img.naturalWidth)).toBeGreaterThan(0);
  }
  await guide.getByRole('link', { name: 'operations.md' }).click();
  await expect(guide.getByRole('heading', { level: 1, name: 'Running Wide Room' })).toBeVisible();
  const answer = await page.request.get(`${server.url}/guide/nothing-of-that-name`);
  expect(answer.status()).toBe(404);
  expect((await page.request.get(`${server.url}/guide/pictures/..%2f..%2fpackage.json`)).status()).toBe(400);
});
