// Line-up, what is moved by hand: cords that change places, stages in another order, the room taken from a line, a
// console that is looked at again.
import type { Page } from '@playwright/test';
import { docOf, editFrom, expect, go, open, switchOnLines, test } from './support/studio';

const trackOf = async (page: Page, url: string, id: string) =>
  (await docOf(page, url)).tracks.find((t) => t.id === id)!;
const line = (n: number) => `standin-eight/${n}`;

test('cords change places: by words, and pulled from one channel to another', async ({ page, server }) => {
  const { url } = server;
  await open(page, url, 'lineup');
  await editFrom(
    page,
    url,
    { type: 'patch', track: 'pilot', channel: 0, line: line(2) },
    { type: 'patch', track: 'apprentice', channel: 0, line: line(3) },
  );
  const inputs = async () => [
    (await trackOf(page, url, 'pilot')).inputs[0],
    (await trackOf(page, url, 'apprentice')).inputs[0],
  ];
  const cord = (end: string) => page.locator(`.react-flow__edge[data-id="${end}:0"]`);
  await cord('pilot').locator('.react-flow__edge-interaction').click({ force: true });
  const bar = page.getByRole('group', { name: 'The chosen cord' });
  await expect(bar).toContainText('Table left goes to Pilot');
  await bar.getByRole('combobox').click();
  await expect(page.getByRole('option', { name: /^Apprentice/ })).toContainText('changes places with');
  await page.getByRole('option', { name: /^Apprentice/ }).click();
  await expect.poll(inputs).toEqual([line(3), line(2)]);
  // The bar goes with the cord.
  await expect(bar).toContainText('Table left goes to Apprentice');

  const middle = async (locator: ReturnType<Page['locator']>) => {
    const box = (await locator.boundingBox())!;
    return [box.x + box.width / 2, box.y + box.height / 2] as const;
  };
  await page.mouse.move(...(await middle(cord('apprentice').locator('.react-flow__edgeupdater-target'))));
  await page.mouse.down();
  const [x, y] = await middle(page.locator('.react-flow__handle[data-nodeid="pilot"][data-handleid="0"]'));
  await page.mouse.move(x - 40, y + 10, { steps: 5 });
  await page.mouse.move(x, y, { steps: 5 });
  await page.mouse.up();
  await expect.poll(inputs).toEqual([line(2), line(3)]);
  // One step back takes both back.
  await page.keyboard.press('Control+z');
  await expect.poll(inputs).toEqual([line(3), line(2)]);
  await page.keyboard.press('Control+z');
});

test('stages change places by keys while nothing rolls; a preset sets the whole of one', async ({ page, server }) => {
  const { url } = server;
  await open(page, url, 'lineup');
  await switchOnLines(page);
  const owner = { kind: 'line', id: line(1) } as const;
  await editFrom(
    page,
    url,
    { type: 'addStage', owner, id: 'press', stage: 'compressor' },
    { type: 'addStage', owner, id: 'ceiling', stage: 'limiter' },
    { type: 'setStage', owner, stage: 'press', values: { window: 50, keyLowCut: 200 } },
  );
  await page.locator(`button[data-line="${line(1)}"]`).click();
  const chain = async () => (await docOf(page, url)).lines.find((l) => l.id === owner.id)!.chain;
  const order = async () => (await chain()).map((s) => s.id).filter((id) => ['press', 'ceiling'].includes(id));
  await page.getByRole('button', { name: 'Move Limiter' }).focus();
  await page.keyboard.press('Space');
  await expect(page.getByRole('button', { name: 'Move Limiter' })).toHaveAttribute('aria-pressed', 'true');
  await page.keyboard.press('ArrowUp');
  await expect(page.getByText('At place 4 of 5.')).toBeAttached();
  await page.keyboard.press('Space');
  await expect.poll(order).toEqual(['ceiling', 'press']);
  await expect(page.locator('[data-roll=stopped]')).toBeVisible();

  // What a stage is given and gives stands at it, and how late the limiter makes the sound.
  await expect(page.getByRole('meter', { name: 'Level into Limiter' })).toBeVisible();
  await expect(page.getByRole('meter', { name: 'Level out of Limiter' })).toBeVisible();
  await expect(page.locator('[data-stage=limiter]')).toContainText(/\d\.\d ms/);

  await page.locator('[data-stage=compressor] [aria-expanded]').last().click();
  await page.getByRole('button', { name: 'Dialogue, firm' }).click();
  const press = async () => (await chain()).find((s) => s.id === 'press')!.values;
  await expect.poll(press).toMatchObject({ ratio: 4, makeup: 3, window: 10 });
  expect((await press()).keyLowCut).toBeLessThan(200);
});

test('the room is recorded straight from a line, heard, and kept to the sample', async ({ page, server }) => {
  test.setTimeout(120_000);
  const { url } = server;
  await open(page, url, 'lineup');
  await switchOnLines(page);
  await page.getByRole('radio', { name: 'Room tone', exact: true }).click();
  await page.getByRole('radio', { name: 'a line, now' }).click();
  await page.getByRole('button', { name: '1 s', exact: true }).click();
  await page.getByRole('button', { name: /^Record \d+ s/ }).click();
  await page.getByRole('button', { name: 'Find a quiet place' }).click({ timeout: 40_000 });
  const places = page.getByRole('list', { name: 'Quiet places' }).getByRole('listitem');
  await expect(places.first()).toContainText('dBFS', { timeout: 20_000 });
  await places
    .first()
    .getByRole('button', { name: /^Hear what begins/ })
    .click();
  await expect(places.first().getByRole('button', { name: 'Silence' })).toBeVisible();
  await expect(places.first().getByRole('button', { name: /^Hear what begins/ })).toBeVisible();
  await page.getByLabel('Start of the room tone').focus();
  await page.keyboard.type('0,25');
  await page.keyboard.press('Enter');
  await page.getByLabel('Name of the room tone').fill('Hut');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Cut 1 s' }).click();
  await expect(page.locator('[data-tone=Hut]')).toContainText('1.000 s');
  const doc = await docOf(page, url);
  expect(doc.shelf.find((t) => t.name === 'Hut')!.frames).toBe(48_000);
  expect(doc.tracks.some((t) => t.armed)).toBe(false);
});

test('what was set at a console is shown when it is looked at again, and a cut link is mended from its check', async ({
  page,
  server,
}) => {
  await open(page, server.url, 'lineup');
  const device = page.getByRole('combobox', { name: 'Input device' });
  await device.click();
  await page.getByRole('option', { name: /^Networked console/ }).click();
  await page.getByRole('button', { name: 'Switch on', exact: true }).click();
  const panel = page.getByRole('dialog', { name: 'Network' });
  const show = () => page.locator('[data-action="lineup.network"]').click();
  await show();
  await panel.getByLabel('Fader of Booth').focus();
  await page.keyboard.type('-12,5');
  await page.keyboard.press('Enter');
  await panel.getByRole('checkbox').click();
  await panel.getByRole('button', { name: 'Cut' }).first().click();
  await expect(panel).toContainText('First link is cut');
  await page.keyboard.press('Escape');
  await device.click();
  await page.getByRole('option', { name: /^Eight-line/ }).click();
  await go(page, 'floor');
  await go(page, 'lineup');
  await device.click();
  await page.getByRole('option', { name: /^Networked console/ }).click();
  await page.getByRole('button', { name: 'Switch off', exact: true }).click();
  await page.getByRole('button', { name: 'Switch on', exact: true }).click();
  await show();
  await expect(panel.getByLabel('Fader of Booth')).toHaveText(/^[-−]12\.5/);
  await expect(panel.getByRole('checkbox')).toBeChecked();
  await expect(panel).toContainText('First link is cut');
  await page.keyboard.press('Escape');
  // The check is there for lines that a track is patched to.
  await page.getByLabel('Patch by typing').fill('1 > Narrator');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Mend the links' }).click();
  await expect(page.getByText(/^One of the two links/)).toHaveCount(0);
  await show();
  await expect(panel).toContainText('First link carries the stream');
});
