import { editFrom, expect, go, open, rolls, switchOnLines, test } from '../../tests/e2e/support/studio';

// `npm run screenshots` writes the pictures anew; `npm run screenshots:check` holds the views against those that are kept.
// What is live in them (meters, the playhead, a waveform that grows) differs each time: a view that has lost its layout,
// its colours or its font differs by more.
const TOLERANCE = { maxDiffPixelRatio: 0.02, threshold: 0.2 };

// One picture per place, 1280x800, from the demo session while it is worked on.
test('pictures of the six places', async ({ page, server }) => {
  test.setTimeout(300_000);
  const shot = async (name: string, of = page) =>
    expect.soft(await of.screenshot()).toMatchSnapshot(`${name}.png`, TOLERANCE);
  const steady = async () => {
    await page.waitForLoadState('networkidle').catch(() => {});
    await page.evaluate(() => document.fonts.ready);
  };
  await open(page, server.url, 'brief');
  await steady();
  await shot('brief');
  await page.getByRole('radio', { name: 'Make tracks' }).click();
  await page.getByLabel('Names, row 1').fill('Keeper, Gull, Tide {n}');
  await page.keyboard.press('Enter');
  await shot('brief-make');
  await page.getByRole('radio', { name: 'Tracks', exact: true }).click();

  await switchOnLines(page);
  await page.locator('[data-stage=lowCut] button[aria-expanded]').click();
  await page.waitForFunction(() => Number(document.querySelector('[aria-label="Level of Booth near"]')?.getAttribute('aria-valuenow')) > -20);
  await shot('lineup');
  await page.getByRole('radio', { name: 'Loudest passage' }).click();
  await page.getByRole('button', { name: 'Listen to the loudest passage' }).click();
  await page.locator('[data-level-row="standin-eight/5"]').getByRole('button', { name: /^Set the gain/ }).waitFor({ timeout: 40_000 });
  await shot('lineup-levels');
  await page.getByRole('button', { name: 'That was it' }).click();
  await page.getByRole('radio', { name: 'Cords' }).click();

  await go(page, 'floor');
  await page.getByRole('button', { name: 'Arm Pilot', exact: true }).click();
  await page.locator('[data-cue="4"] button').first().click();
  await page.getByRole('combobox', { name: 'What the record key records' }).click();
  await page.getByRole('option', { name: 'the cue' }).click();
  for (let take = 1; take <= 3; take++) {
    await page.keyboard.press('r');
    await rolls(page, 'recording');
    if (take === 3) {
      await page.waitForFunction(() => Number(/([\d.]+) s safe/.exec(document.body.innerText)?.[1] ?? 0) >= 1.6);
      await shot('floor');
    }
    await rolls(page, 'stopped');
    await page.locator(`[data-take-row="${take}"]`).waitFor();
  }
  await page.getByLabel('Note on cue 4, take 2 of Pilot').fill('warm, slower');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Circle cue 4, take 2 of Pilot' }).click();
  for (let i = 0; i < 6; i++) await page.keyboard.press('=');
  const head = (await page.getByTestId('playhead').boundingBox())!;
  const row = (await page.locator('[data-take-row="2"]').boundingBox())!;
  await page.mouse.move(head.x + 70, row.y + 14);
  await page.mouse.down();
  await page.mouse.move(head.x + 230, row.y + 14, { steps: 8 });
  await page.mouse.up();
  const pilot = (await page.locator('[data-row="pilot"]').boundingBox())!;
  await page.mouse.click(head.x + 150, pilot.y + 24);
  await page.getByRole('region', { name: 'Clip', exact: true }).waitFor();
  await page.waitForFunction(() => (document.body.innerText.match(/-\d\d\.\d LUFS/g) ?? []).length >= 3);
  await shot('floor-comp');
  const prompt = await page.context().newPage();
  await prompt.goto(`${server.url}/prompt/lamp`);
  await prompt.getByText('Mind the gauge.').waitFor();
  await shot('prompt', prompt);
  await prompt.close();
  // The pictures after this one are of the demo as it was.
  for (let undone = 0; undone < 6; undone++) await page.keyboard.press('Control+z');
  await page.locator('[data-take-row="1"]').waitFor({ state: 'detached' });
  await page.getByRole('button', { name: 'Arm Pilot', exact: true }).click();

  await page.getByRole('button', { name: 'Show everything' }).click();
  await page.getByRole('radio', { name: 'Script' }).click();
  await page.getByRole('button', { name: 'Lanes of Surf' }).click();
  await page.getByRole('button', { name: 'Lanes of Pad' }).click();
  await page.getByRole('combobox', { name: 'Ride of Pad, Level' }).click();
  await page.getByRole('option', { name: /while held/ }).click();
  await page.locator('[data-lane="pad level"]').scrollIntoViewIfNeeded();
  await shot('floor-lanes');
  await page.getByRole('button', { name: 'Lanes of Surf' }).click();
  await page.getByRole('button', { name: 'Lanes of Pad' }).click();

  await go(page, 'flow');
  await page.getByRole('button', { name: 'Track Pilot' }).click();
  await page.getByRole('button', { name: 'Follow Pilot' }).click();
  await page.getByRole('button', { name: 'Play', exact: true }).click();
  await rolls(page, 'playing');
  await page.waitForFunction(() => Number(document.querySelector('[aria-label="Level of Pilot"]')?.getAttribute('aria-valuenow')) > -30);
  await page.waitForFunction(() => /^[-−]\d/.test(document.querySelector('[data-testid=reference-loudness]')?.textContent ?? ''));
  await shot('flow');
  await page.getByRole('button', { name: 'Show all' }).first().click();
  await page.keyboard.press('t');
  await page.locator('[data-flow-row=foghorn]').click();
  await page.locator('[data-flow-row=bell]').click({ modifiers: ['Shift'] });
  await shot('flow-table');
  await page.keyboard.press('Escape');
  await page.keyboard.press('t');

  await go(page, 'room');
  await page.getByRole('button', { name: 'Stop' }).click();
  await page.getByRole('radio', { name: 'Ports' }).click();
  await page.getByRole('button', { name: 'New room' }).click();
  await page.getByRole('button', { name: 'Round trip' }).click();
  await page.getByText('R sounds.').waitFor();
  await shot('room-ports');
  await page.getByRole('radio', { name: 'Calibrate' }).click();
  await page.getByRole('button', { name: 'with faults' }).click();
  await page.getByRole('button', { name: 'Look for faults' }).click();
  await page.locator('[data-found=swapped]').waitFor({ timeout: 60_000 });
  await page.getByRole('button', { name: 'Sound Ls' }).click();
  await page.waitForFunction(() => Number(document.querySelector('[data-testid=meter-now]')?.textContent) > 70);
  await shot('room-calibrate');
  await page.getByRole('button', { name: 'Let go' }).click();
  await page.getByRole('radio', { name: 'Listen' }).click();
  await page.getByRole('radio', { name: /^stereo/ }).click();
  await page.getByRole('button', { name: 'Play', exact: true }).click();
  await rolls(page, 'playing');
  await page.waitForFunction(() => /^[-−]\d/.test(document.querySelectorAll('[data-figures^=heard] td')[1]?.textContent ?? ''));
  await page.waitForFunction(() => /^−?[01]/.test(document.querySelectorAll('[data-figures^=heard] td')[4]?.textContent ?? ''));
  await shot('room-listen');
  await page.getByRole('button', { name: 'Stop' }).click();
  await page.goto(`${server.url}/s/dome/room`);
  await page.locator('[data-dot=gulls]').focus();
  await page.getByTestId('trail').waitFor();
  await shot('room');
  await open(page, server.url, 'print');

  await go(page, 'print');
  await page.getByRole('button', { name: /^Print \d+ files/ }).click();
  await page.getByTestId('sum').waitFor({ timeout: 120_000 });
  await page.locator('[data-testid=loudness-chart] .plotly').waitFor();
  await shot('print');
  await page.getByRole('button', { name: 'Hand over…' }).click();
  await shot('hand-over');
  await page.keyboard.press('Escape');
  // Each cue, and behind it the range once more.
  await editFrom(
    page,
    server.url,
    { type: 'setPrinting', by: 'cues', leadIn: 3, pop: 2 },
    { type: 'setSession', namePattern: '{session}_{range}_{bus}_{layout}_v{version}' },
  );
  await page.getByRole('button', { name: /^Print \d+ files/ }).click();
  await page.getByRole('progressbar').waitFor();
  await editFrom(page, server.url, { type: 'setPrinting', by: 'range' });
  await page.getByRole('button', { name: /^Print \d+ files/ }).click();
  await page.getByText('comes next').waitFor();
  await shot('print-line');
  await page.getByTestId('ranges-shown').or(page.getByTestId('sum')).first().waitFor({ timeout: 120_000 });
});
