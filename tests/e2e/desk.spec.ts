// What one finds again after a reload, and clips that are chosen, cut, placed and dropped by hand.
import { docOf, editFrom, expect, go, open, rolls, switchOnLines, test } from './support/studio';

test('the desk is found as it was left: device on, mode, cue, playhead, folding', async ({ page, server }) => {
  await open(page, server.url, 'lineup');
  await switchOnLines(page);
  await go(page, 'floor');
  await page.locator('[data-cue="5"] button').first().click();
  const at = await page.getByLabel('Locate').inputValue();
  await page.getByRole('combobox', { name: 'What the record key records' }).click();
  await page.getByRole('option', { name: 'the cue' }).click();
  await page.getByRole('button', { name: 'Takes of Apprentice' }).click();
  await expect(page.getByRole('button', { name: 'Takes of Apprentice' })).toHaveAttribute('aria-expanded', 'true');
  await page.getByRole('radio', { name: 'Takes' }).click();
  await page.waitForFunction(() => /"mode":"cue"/.test(localStorage.getItem('wide-room-desk-lamp') ?? ''));
  await page.reload();
  await page.waitForSelector('[data-roll]');
  await expect(page.getByLabel('Locate')).toHaveValue(at);
  await expect(page.getByRole('combobox', { name: 'What the record key records' })).toContainText('cue 5');
  await expect(page.getByRole('button', { name: 'Takes of Apprentice' })).toHaveAttribute('aria-expanded', 'true');
  await expect(page.getByRole('radio', { name: 'Takes' })).toBeChecked();
  // Sound may begin once something was pressed.
  await go(page, 'lineup');
  await expect(page.getByRole('button', { name: 'Switch off', exact: true })).toBeVisible();
});

test('clips are chosen by a lasso, cut, placed elsewhere; a file is dropped on a row and a time', async ({
  page,
  server,
}) => {
  const { url } = server;
  await open(page, url, 'floor');
  await page.keyboard.press('f');
  const clips = (await page.getByTestId('clips').boundingBox())!;
  const track = async (id: string) => (await docOf(page, url)).tracks.find((t) => t.id === id)!;
  const before = (await track('foghorn')).clips;
  const row = (await page.locator('[data-row=foghorn]').boundingBox())!;
  await page.mouse.move(clips.x + 2, row.y + 2);
  await page.mouse.down();
  await page.mouse.move(clips.x + clips.width - 4, row.y + row.height - 6, { steps: 6 });
  await expect(page.getByTestId('lasso')).toBeVisible();
  await page.mouse.up();
  await expect(page.getByText(`${before.length} clips`, { exact: true })).toBeVisible();
  await page.keyboard.press('Control+x');
  await expect.poll(async () => (await track('foghorn')).clips.length).toBe(0);
  await page.getByLabel('Locate').fill('10:00:05:00');
  await page.keyboard.press('Enter');
  await page.keyboard.press('Control+v');
  const starts = (list: { start: number }[]) => list.map((c) => c.start - Math.min(...list.map((x) => x.start)));
  await expect.poll(async () => starts((await track('foghorn')).clips)).toEqual(starts(before));
  expect(Math.min(...(await track('foghorn')).clips.map((c) => c.start))).toBe(5 * 48_000);
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Control+z');
  await expect.poll(async () => (await track('foghorn')).clips.map((c) => c.id)).toEqual(before.map((c) => c.id));

  await page.getByRole('radio', { name: 'Files' }).click();
  const { doc } = { doc: await docOf(page, url) };
  const mono = Object.values(doc.media).find((m) => m.channels === 1 && m.kind === 'file')!;
  const carry = page.locator(`[data-carry="${mono.id}"]`);
  await carry.scrollIntoViewIfNeeded();
  const held = doc.tracks.find((t) => t.id === 'foghorn')!.clips.length;
  const target = page.getByTestId('rows');
  const box = (await target.boundingBox())!;
  await carry.dragTo(target, { targetPosition: { x: clips.x - box.x + clips.width * 0.5, y: row.y - box.y + 20 } });
  await expect.poll(async () => (await track('foghorn')).clips.filter((c) => c.media === mono.id).length).toBe(1);
  expect((await track('foghorn')).clips.length).toBeLessThanOrEqual(held + 2);
  const dropped = (await track('foghorn')).clips.find((c) => c.media === mono.id)!;
  expect(Math.abs(dropped.start / 48_000 - 45.9)).toBeLessThan(1.5);
  await page.keyboard.press('Control+z');
});

test('a line is played again and round; the ruler is listened along; a stretch is typed', async ({ page, server }) => {
  await open(page, server.url, 'floor');
  await page.locator('[data-cue="4"] button').first().click();
  const start = await page.getByLabel('Locate').inputValue();
  await page.keyboard.press('p');
  await rolls(page, 'playing');
  // It ends by itself and goes back to where it was.
  await rolls(page, 'stopped');
  await expect(page.getByLabel('Locate')).toHaveValue(start);

  const ruler = (await page.getByTestId('ruler').boundingBox())!;
  await page.mouse.move(ruler.x + 100, ruler.y + 20);
  await page.mouse.down();
  await page.mouse.move(ruler.x + 200, ruler.y + 20, { steps: 4 });
  await page.mouse.up();
  await page.getByRole('button', { name: /^Chosen stretch/ }).click();
  await page.getByLabel('Start of the stretch').fill('10:00:10:00');
  await page.keyboard.press('Enter');
  const length = page.getByRole('spinbutton', { name: 'Length of the stretch' });
  await length.focus();
  await page.keyboard.type('2.5');
  await page.keyboard.press('Enter');
  await expect(page.getByLabel('End of the stretch')).toHaveValue('10:00:12:12');
  await page.getByRole('button', { name: 'Round and round' }).click();
  await rolls(page, 'playing');
  await page.keyboard.press('Escape');
  const clock = page.getByLabel('Timecode', { exact: true });
  const seconds = async () => Number((await clock.inputValue()).slice(6, 8));
  // It comes back to its beginning: later readings are earlier ones again.
  await expect.poll(seconds, { intervals: [100] }).toBe(12);
  await expect.poll(seconds, { intervals: [100] }).toBe(10);
  await page.getByRole('button', { name: 'Stop' }).click();
  await rolls(page, 'stopped');

  await page.keyboard.down('Shift');
  await page.mouse.move(ruler.x + 300, ruler.y + 20);
  await page.mouse.down();
  await rolls(page, 'playing');
  await page.mouse.move(ruler.x + 340, ruler.y + 20, { steps: 8 });
  await page.mouse.up();
  await page.keyboard.up('Shift');
  await rolls(page, 'stopped');
  expect(await page.evaluate(() => getSelection()?.toString() ?? '')).toBe('');
});

test('what a session does not use any more is found, told, and freed', async ({ page, server }) => {
  const { url } = server;
  await open(page, url, 'brief');
  const desk = async () => {
    await page.locator('[data-action="brief.open"]').click();
    await page.getByRole('menuitem', { name: 'All sessions…' }).click();
  };
  const free = page.getByRole('button', { name: 'Free what The Lamp at Sallow Point does not use' });
  await desk();
  await free.click();
  await expect(page.getByText('Every file of The Lamp at Sallow Point is used.')).toBeVisible();
  await page.keyboard.press('Escape');
  const drone = (await docOf(page, url)).tracks.find((t) => t.id === 'drone')!.clips[0]!;
  await editFrom(page, url, { type: 'removeClip', clip: drone.id });
  await editFrom(page, url, { type: 'removeMedia', media: [drone.media] });
  const lies = async () =>
    drone.media in
    ((await (await page.request.get(`${url}/api/sessions/lamp/files`)).json()) as { bytes: object }).bytes;
  expect(await lies()).toBe(true);
  await desk();
  await free.click();
  const question = page.getByRole('dialog', { name: 'Unused files' });
  await expect(question).toContainText(
    /1 file that nothing uses.*With it go \d+ steps? of undo and 1 automatic version/,
  );
  await expect(page.getByRole('button', { name: 'Keep it' })).toBeFocused();
  // Escape closes the question and nothing else.
  await page.keyboard.press('Escape');
  await expect(question).toHaveCount(0);
  await free.click();
  await page.getByRole('button', { name: 'Remove it for good' }).click();
  await expect(page.getByText(/of The Lamp at Sallow Point are free/)).toBeVisible();
  await expect.poll(lies).toBe(false);
});
