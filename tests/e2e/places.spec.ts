// Each place by hand: what a mouse and a keyboard do there.
import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import type { Page } from '@playwright/test';
import { docOf, editFrom, expect, go, open, rolls, switchOnLines, test } from './support/studio';

const PLACES = ['brief', 'lineup', 'floor', 'flow', 'room', 'print'];

const centre = async (page: Page, selector: string) => {
  const box = (await page.locator(selector).first().boundingBox())!;
  return { x: box.x + box.width / 2, y: box.y + box.height / 2 };
};

async function drag(page: Page, from: { x: number; y: number }, to: { x: number; y: number }) {
  await page.mouse.move(from.x, from.y);
  await page.mouse.down();
  await page.mouse.move((from.x + to.x) / 2, (from.y + to.y) / 2, { steps: 6 });
  await page.mouse.move(to.x, to.y, { steps: 6 });
  await page.mouse.up();
}

test('every place fits 1280x800 in both schemes, isolated and without errors', async ({ page, server }) => {
  const trouble: string[] = [];
  page.on('console', (m) => m.type() === 'error' && trouble.push(m.text()));
  await open(page, server.url, 'brief');
  expect(await page.evaluate(() => crossOriginIsolated)).toBe(true);
  for (const place of PLACES) {
    await go(page, place);
    await page.waitForURL(`**/${place}`);
    const size = await page.evaluate(() => [
      document.documentElement.scrollWidth,
      document.documentElement.scrollHeight,
      document.querySelector('footer')!.getBoundingClientRect().bottom,
    ]);
    expect(size, place).toEqual([1280, 800, 800]);
    await page.keyboard.press('l');
  }
  expect(trouble).toEqual([]);
});

test('the keyboard: places, command search, keys sheet', async ({ page, server }) => {
  await open(page, server.url, 'brief');
  await page.keyboard.press('4');
  await page.waitForURL('**/flow');
  await page.keyboard.press('Shift+?');
  await expect(page.getByRole('dialog')).toContainText('Record on all armed tracks');
  await page.keyboard.press('Escape');
  await page.keyboard.press('Control+k');
  await page.keyboard.type('10:00:45:00');
  await page.keyboard.press('Enter');
  await expect(page.getByLabel('Locate')).toHaveValue('10:00:45:00');
  await page.keyboard.press('Control+k');
  await page.keyboard.type('go to room');
  await page.keyboard.press('Enter');
  await page.waitForURL('**/room');
  // A name with a figure sets a value; one beyond its limits is told.
  const level = async () => (await docOf(page, server.url)).tracks.find((t) => t.id === 'ropes')!.level;
  const before = await level();
  await page.keyboard.press('Control+k');
  await page.keyboard.type('ropes level 40');
  await expect(page.getByRole('option', { name: /Ropes, Level/ })).toContainText('goes from -100 to 24 dB');
  for (let i = 0; i < 2; i++) await page.keyboard.press('Backspace');
  await page.keyboard.type('-3,5');
  await expect(page.getByRole('option', { name: /Ropes, Level/ })).toContainText('−3.5 dB');
  await page.keyboard.press('Enter');
  await expect.poll(level).toBe(-3.5);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect.poll(level).toBe(before);
});

test('brief: a new session is checked before it is made, and gets tracks', async ({ page, server }) => {
  await open(page, server.url, 'brief');
  await page.getByRole('button', { name: 'New session' }).click();
  await page.getByRole('button', { name: 'Make the session' }).click();
  await expect(page.getByText('give the session a name of 1 to 80 characters')).toBeVisible();
  await page.getByLabel('Name', { exact: true }).fill('Tide tables');
  await page.getByLabel('Short form').fill('TT');
  await page.getByLabel('Starts at').fill('10:00:00:25');
  await page.getByRole('button', { name: 'Make the session' }).click();
  await expect(page.getByText(/frames count from 00 to 24/)).toBeVisible();
  await page.getByLabel('Starts at').fill('09:59:50:00');
  await page.getByRole('combobox', { name: 'Mix in' }).click();
  await page.getByRole('option', { name: 'stereo' }).click();
  await page.getByRole('button', { name: 'Make the session' }).click();
  await expect(page.getByText('Tide tables')).toBeVisible();
  await expect(page.getByText('TT_REF_20_095950_v01.wav')).toBeVisible();
  await page.getByLabel('Names, row 1').fill('Narrator');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Make 1 track' }).click();
  await expect(page.getByLabel('Name of Narrator')).toBeVisible();
});

test('line-up: a cord is pulled from a line to a track', async ({ page, server }) => {
  await open(page, server.url, 'lineup');
  const from = await centre(page, '.react-flow__node[data-id="standin-eight/4"] .react-flow__handle.source');
  const to = await centre(page, '.react-flow__node[data-id="foghorn"] .react-flow__handle.target');
  await drag(page, from, to);
  await expect
    .poll(async () => (await docOf(page, server.url)).tracks.find((t) => t.id === 'foghorn')!.inputs)
    .toEqual(['standin-eight/4']);
  await page.getByLabel('Patch by typing').fill('5-6 > Boat');
  await page.keyboard.press('Enter');
  await expect
    .poll(async () => (await docOf(page, server.url)).tracks.find((t) => t.id === 'boat')!.inputs)
    .toEqual(['standin-eight/5', 'standin-eight/6']);
  await page.getByLabel('Patch by typing').fill('9 > Boat');
  await page.keyboard.press('Enter');
  await expect(page.getByText(/has lines 1 to 8/)).toBeVisible();
});

test('line-up: the browser’s own input stands in the same list and gives signal', async ({ page, server }) => {
  await open(page, server.url, 'lineup');
  await page.getByRole('combobox', { name: 'Input device' }).click();
  await page.getByRole('option', { name: /Fake/ }).first().click();
  await page.getByRole('button', { name: 'Switch on', exact: true }).click();
  await page.getByRole('button', { name: 'Switch off', exact: true }).waitFor();
  await expect
    .poll(
      async () =>
        Number(
          await page
            .getByRole('meter', { name: /^Level of/ })
            .first()
            .getAttribute('aria-valuenow'),
        ),
      { timeout: 20_000 },
    )
    .toBeGreaterThan(-50);
});

test('floor: the roll check speaks before the mistake, and its mend mends', async ({ page, server }) => {
  await open(page, server.url, 'floor');
  await page.getByRole('button', { name: 'Record', exact: true }).click();
  await expect(page.getByRole('dialog')).toContainText('No track is armed');
  await page.getByRole('button', { name: 'Arm Narrator' }).last().click();
  await expect(page.getByRole('dialog')).toContainText('is switched off');
  await page.getByRole('button', { name: 'Not now' }).click();
  await switchOnLines(page);
  await page.getByRole('radio', { name: 'loudspeakers' }).click();
  await page.getByRole('button', { name: 'Record', exact: true }).click();
  await expect(page.getByRole('dialog')).toContainText('Narrator may feed back');
  await page.getByRole('button', { name: 'I wear headphones' }).click();
  await expect(page.getByRole('dialog')).toContainText('Ready to record');
  await page.getByRole('button', { name: 'Not now' }).click();
});

test('floor: a clip is moved and trimmed by hand, drawn to frames and phrases; undo survives a reload', async ({
  page,
  server,
}) => {
  await open(page, server.url, 'floor');
  const clip = async () => (await docOf(page, server.url)).tracks.find((t) => t.id === 'boat')!.clips[0]!;
  const before = await clip();
  const box = (await page.getByTestId('clips').boundingBox())!;
  const y = box.y + 4 * 46 + 23;
  const perPixel = (90 * 48000 * 1.02) / box.width;
  const middle = box.x + (before.start + before.length / 2) / perPixel;
  await drag(page, { x: middle, y }, { x: middle + 60, y });
  await expect.poll(async () => (await clip()).start).toBeGreaterThan(before.start + 50 * perPixel);
  const moved = await clip();
  // To a whole frame, or to the beginning of a phrase no more than a tenth of a second away.
  expect(Math.abs(moved.start - before.start - 60 * perPixel)).toBeLessThan(4_800 + 1_920 + perPixel);
  const end = box.x + (moved.start + moved.length) / perPixel - 2;
  await drag(page, { x: end, y }, { x: end - 80, y });
  await expect.poll(async () => (await clip()).length).toBeLessThan(moved.length - 70 * perPixel);
  await page.reload();
  await page.waitForSelector('[data-roll]');
  await page.getByRole('button', { name: 'Undo' }).click();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect.poll(clip).toEqual(before);
});

test('floor: a file is brought in where its time reference says', async ({ page, server }) => {
  const file = path.join(mkdtempSync(path.join(tmpdir(), 'wide-room-')), 'Whistle.wav');
  execFileSync('ffmpeg', [
    '-v',
    'error',
    '-f',
    'lavfi',
    '-i',
    'sine=880:d=2:r=48000',
    '-c:a',
    'pcm_s24le',
    '-write_bext',
    '1',
    '-metadata',
    `time_reference=${36_012 * 48000}`,
    file,
  ]);
  await open(page, server.url, 'floor');
  await page.getByTestId('import').setInputFiles(file);
  await expect(page.getByText(/where its time reference says/)).toBeVisible();
  const doc = await docOf(page, server.url);
  expect(doc.tracks.at(-1)).toMatchObject({
    name: 'Whistle',
    layout: 'mono',
    clips: [{ start: 12 * 48000, length: 96000 }],
  });
});

test('flow: a band is pulled to another stem, and to a new one that is named in the same step', async ({
  page,
  server,
}) => {
  await open(page, server.url, 'flow');
  const destination = async () => (await docOf(page, server.url)).tracks.find((t) => t.id === 'ropes')!.destination;
  const end = await centre(page, '.react-flow__edge[data-id="band:ropes"] .react-flow__edgeupdater-target');
  await drag(page, end, await centre(page, '.react-flow__node[data-id="mus"] .react-flow__handle.target'));
  await expect.poll(destination).toBe('mus');
  const again = await centre(page, '.react-flow__edge[data-id="band:ropes"] .react-flow__edgeupdater-target');
  await drag(page, again, await centre(page, '.react-flow__node[data-id="new-bus"] .react-flow__handle'));
  await page.getByLabel('Name of the new bus').fill('Harbour');
  await page.keyboard.press('Enter');
  await expect.poll(destination).toMatch(/^stem-/);
  await expect(page.getByRole('button', { name: 'Bus Harbour' })).toBeVisible();
});

test('flow: the audit tells a path around the reference, nowhere and a loop; one button mends each', async ({
  page,
  server,
}) => {
  await open(page, server.url, 'flow');
  const to = async (name: string, option: string) => {
    await page.getByRole('button', { name, exact: true }).click();
    await page.getByRole('combobox', { name: /^Destination of/ }).click();
    await page.getByRole('option', { name: option, exact: true }).click();
  };
  const audit = page.getByRole('complementary', { name: /Path audit/ });
  await to('Track Gulls', 'Monitor only');
  await expect(audit).toContainText('Gulls passes by the reference');
  await expect(page.locator('[data-dot=amber]').first()).toBeVisible();
  await audit.getByRole('button', { name: /^Send to/ }).click();
  await expect(audit).toContainText('Every source reaches one stem');
  await to('Track Gulls', 'Nowhere');
  await expect(audit).toContainText('Gulls reaches no stem');
  await audit.getByRole('button', { name: /^Send to/ }).click();
  await to('Bus Music', 'Effects');
  await to('Bus Effects', 'Music');
  await expect(audit).toContainText('run in a circle');
  await audit.locator('[data-check^=loop] button').click();
  await expect(audit.locator('[data-check^=loop]')).toHaveCount(0);
});

test('room: a source is dragged and typed; the centre feeds all alike', async ({ page, server }) => {
  await open(page, server.url, 'room');
  const plan = (await page.getByTestId('plan').boundingBox())!;
  const gains = () => page.locator('[data-speaker] [data-gain]').allInnerTexts();
  await page.getByRole('button', { name: /Pilot/ }).click();
  const dot = await centre(page, '[data-dot=pilot] circle');
  await drag(page, dot, { x: plan.x + plan.width / 2, y: plan.y + plan.height * (292 / 600) });
  await expect.poll(gains).toEqual(['-7.0 dB', '-7.0 dB', '-7.0 dB', '·', '-7.0 dB', '-7.0 dB']);
  for (const [label, value] of [
    ['distance', '100'],
    ['azimuth', '15'],
  ]) {
    await page.getByRole('spinbutton', { name: label, exact: true }).focus();
    await page.keyboard.press('Enter');
    await page.keyboard.type(value!);
    await page.keyboard.press('Enter');
  }
  await expect.poll(gains).toEqual(['-3.0 dB', '·', '-3.0 dB', '·', '·', '·']);
});

test('two windows on one session agree', async ({ page, context, server }) => {
  await open(page, server.url, 'flow');
  const other = await context.newPage();
  await open(other, server.url, 'flow');
  for (const p of [page, other]) await p.getByRole('button', { name: 'Track Pilot' }).click();
  await page.getByRole('button', { name: 'Mute Pilot' }).click();
  await expect(other.getByRole('button', { name: 'Mute Pilot' })).toHaveAttribute('aria-pressed', 'true');
  await other.getByRole('spinbutton', { name: 'Level of Pilot' }).focus();
  await other.keyboard.press('ArrowUp');
  await expect(page.getByRole('spinbutton', { name: 'Level of Pilot' })).toHaveAttribute('aria-valuenow', '-2.5');
  // Undo in the one takes back the last change of both.
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(other.getByRole('spinbutton', { name: 'Level of Pilot' })).toHaveAttribute('aria-valuenow', '-2.6');
  await other.close();
});

test('a level that is dragged draws its own row anew, and no other', async ({ page, server }) => {
  await open(page, server.url, 'floor');
  await page.getByTestId('clips').waitFor();
  const level = page.getByRole('spinbutton', { name: 'Level of Surf' });
  await level.scrollIntoViewIfNeeded();
  const before = (await level.getAttribute('aria-valuenow'))!;
  // What the waveforms are drawn from has come.
  await page.waitForLoadState('networkidle');
  // Meters move by themselves; nothing else does.
  await page.evaluate(() => {
    const seen = { rows: new Set<string>(), painted: 0 };
    Object.assign(window, { seen });
    const paint = CanvasRenderingContext2D.prototype.putImageData;
    CanvasRenderingContext2D.prototype.putImageData = function (...args: unknown[]) {
      seen.painted++;
      return Reflect.apply(paint, this, args);
    };
    new MutationObserver((list) => {
      for (const m of list) {
        const at = m.target instanceof Element ? m.target : m.target.parentElement;
        const row = at?.closest('[data-ends]');
        if (row && !at!.closest('[role=meter]')) seen.rows.add(row.getAttribute('data-ends')!);
      }
    }).observe(document.querySelector('[data-testid=rows]')!, {
      subtree: true,
      childList: true,
      attributes: true,
      characterData: true,
    });
  });
  const box = (await level.boundingBox())!;
  await page.mouse.move(box.x + 8, box.y + 6);
  await page.mouse.down();
  for (let i = 1; i <= 20; i++) await page.mouse.move(box.x + 8 - 2 * i, box.y + 6);
  await page.mouse.up();
  await expect(level).not.toHaveAttribute('aria-valuenow', before);
  const seen = await page.evaluate(() => {
    const { rows, painted } = (window as unknown as { seen: { rows: Set<string>; painted: number } }).seen;
    return { rows: [...rows], painted };
  });
  expect(seen.rows).toEqual(['surf']);
  expect(seen.painted).toBe(0);
  await page.getByRole('button', { name: 'Undo' }).click();
});

test('two people on one session: each hears and arms alone, undoes their own, and is told of the other', async ({
  page,
  browser,
  server,
}) => {
  const context = await browser.newContext();
  const other = await context.newPage();
  const call = async (p: typeof page, name: string, colour: string) => {
    await p.getByRole('button', { name: 'Who is here' }).click();
    await p.getByLabel('Your name').fill(name);
    await p.keyboard.press('Enter');
    await p.getByRole('radio', { name: colour }).click();
    await p.keyboard.press('Escape');
  };
  for (const p of [page, other]) await open(p, server.url, 'flow');
  await call(page, 'Ines', 'moss');
  await call(other, 'Tomas', 'clay');
  await page.getByRole('button', { name: 'Who is here' }).click();
  await expect(page.getByRole('list', { name: 'Others' })).toContainText('Tomas');
  await page.keyboard.press('Escape');

  // Solo, arm and monitor are each one's own, also after a reload.
  for (const p of [page, other]) await p.getByRole('button', { name: 'Track Apprentice' }).click();
  await page.getByRole('button', { name: 'Solo Apprentice' }).click();
  await page.keyboard.press('a');
  await page.getByRole('button', { name: 'dim', exact: true }).click();
  await other.getByRole('button', { name: 'Mute Apprentice' }).click();
  await expect(page.getByRole('button', { name: 'Mute Apprentice' })).toHaveAttribute('aria-pressed', 'true');
  await expect(other.getByRole('button', { name: 'Solo Apprentice' })).toHaveAttribute('aria-pressed', 'false');
  await expect(other.getByRole('button', { name: 'dim', exact: true })).toHaveAttribute('aria-pressed', 'false');
  // Tests before this one may have armed more.
  await expect(page.getByText(/(Apprentice|\d tracks) armed/)).toBeVisible();
  await expect(other.getByText('no track armed')).toBeVisible();
  const kept = async () =>
    (await (await page.request.get(`${server.url}/api/sessions/lamp`)).json()) as {
      state: { armed: string[] };
      selected: { id: string } | null;
    };
  await expect.poll(async () => (await kept()).selected?.id).toBe('apprentice');
  await expect.poll(async () => (await kept()).state.armed).toContain('apprentice');
  await page.reload();
  await expect(page.getByText(/(Apprentice|\d tracks) armed/)).toBeVisible();
  await expect(page.getByRole('button', { name: 'Solo Apprentice' })).toHaveAttribute('aria-pressed', 'true');

  // Undo is one's own; where the other has changed the same since, it is said.
  const undo = (p: typeof page) => p.getByRole('button', { name: 'Undo' });
  const mute = (p: typeof page) => p.getByRole('button', { name: 'Mute Apprentice' });
  await page.getByRole('button', { name: 'Track Ropes' }).click();
  await page.getByRole('button', { name: 'Mute Ropes' }).click();
  await undo(other).click();
  await expect(mute(other)).toHaveAttribute('aria-pressed', 'false');
  await expect(page.getByRole('button', { name: 'Mute Ropes' })).toHaveAttribute('aria-pressed', 'true');
  const level = (p: typeof page) => p.getByRole('spinbutton', { name: 'Level of Ropes' });
  await level(page).focus();
  await page.keyboard.press('ArrowUp');
  await other.getByRole('button', { name: 'Track Ropes' }).click();
  await expect(level(other)).not.toHaveAttribute('aria-valuenow', '0');
  await level(other).focus();
  await other.keyboard.press('ArrowUp');
  const both = (await level(other).getAttribute('aria-valuenow'))!;
  await expect(level(page)).toHaveAttribute('aria-valuenow', both);
  await undo(page).click();
  await expect(page.getByText('Tomas has changed the same since (Ropes, level)')).toBeVisible();
  await expect(level(page)).toHaveAttribute('aria-valuenow', both);
  await page.getByRole('button', { name: 'The step before' }).click();
  await expect(page.getByRole('button', { name: 'Mute Ropes' })).toHaveAttribute('aria-pressed', 'false');
  await context.close();
  await expect(page.getByRole('button', { name: 'Who is here' })).toBeVisible();
  // As it was found.
  await editFrom(
    page,
    server.url,
    { type: 'seatTrack', track: 'apprentice', armed: false, soloed: false },
    { type: 'setMonitor', dimmed: false },
    { type: 'setTrack', track: 'ropes', level: 0 },
  );
});

test('flow: sends to a return with a room for each stem, stems limited together; the print proves it', async ({
  page,
  server,
}) => {
  test.setTimeout(200_000);
  await open(page, server.url, 'flow');
  const audit = page.getByRole('complementary', { name: /Path audit/ });
  const send = async (from: string, to: string) => {
    await page.getByRole('button', { name: `Track ${from}`, exact: true }).click();
    await page.getByRole('button', { name: `New send of ${from}` }).click();
    await page.getByRole('menuitem', { name: to }).click();
  };
  await send('Pilot', 'New return');
  await expect(page.getByRole('spinbutton', { name: 'Send of Pilot to Return' })).toHaveText(/-12\.0/);
  await expect(audit.locator('[data-check^=two-stems]')).toHaveCount(0);
  await send('Narrator', 'Return return');
  await audit.getByRole('button', { name: 'Give Return one room for each stem' }).click();
  await expect(audit.locator('[data-check^=two-stems]')).toHaveCount(0);
  await page.getByRole('button', { name: 'Bus Reference', exact: true }).click();
  await page.getByRole('button', { name: 'Limit the stems of Reference together' }).click();
  await page.getByRole('spinbutton', { name: 'Ceiling of the stems of Reference' }).focus();
  await page.keyboard.type('-12');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'One more reference' }).click();
  await page.getByRole('button', { name: 'Narration is in Reference 2' }).click();
  await expect
    .poll(async () => (await docOf(page, server.url)).buses.find((b) => b.name === 'Reference 2')?.leftOut)
    .toEqual(['nar']);
  await go(page, 'print');
  await page.getByLabel('Print to').fill('10:00:10:00');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: /^Print \d+ files/ }).click();
  const sum = page.getByTestId('sum');
  await expect(sum).toContainText('They add up to Reference.', { timeout: 60_000 });
  await expect(sum).toContainText('the ceiling is -12.00');
  await expect(sum).toContainText('Reference 2 leaves it out');
  const made = (await docOf(page, server.url)).buses.filter((b) => b.name === 'Reference 2' || b.kind === 'return');
  await editFrom(
    page,
    server.url,
    { type: 'setReference', bus: 'ref', linked: null },
    ...made.map((b) => ({ type: 'removeBus', bus: b.id }) as const),
  );
});

test('print: a level on the reference is told before, and the proof says honestly why the stems differ', async ({
  page,
  server,
}) => {
  test.setTimeout(200_000);
  await open(page, server.url, 'flow');
  await page.getByRole('button', { name: 'Bus Reference', exact: true }).click();
  await page.getByRole('spinbutton', { name: 'Level of Reference' }).focus();
  await page.keyboard.press('ArrowDown');
  await go(page, 'print');
  await expect(page.getByText('Reference stands at -0.1 dB')).toBeVisible();
  await page.getByLabel('Print to').fill('10:00:10:00');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: /^Print \d+ files/ }).click();
  await expect(page.getByTestId('sum')).toContainText('do not add up', { timeout: 60_000 });
  await expect(page.getByTestId('sum')).toContainText('the reference stands at -0.1 dB instead of unity');

  // Back in: on tracks of their own, which nothing takes for sources, and heard in place of the mix by one key.
  const before = await docOf(page, server.url);
  await page.getByRole('button', { name: 'Back in' }).click();
  await expect(page.getByRole('button', { name: /^Hear print \d/ })).toBeVisible({ timeout: 30_000 });
  const after = await docOf(page, server.url);
  const held = after.tracks.filter((t) => t.print !== undefined);
  expect(held.map((t) => [t.muted, t.destination, t.clips[0]!.start, t.clips[0]!.length])).toEqual(
    before.deliverables.map(() => [true, 'monitor', 0, 480_000]),
  );
  expect(held.map((t) => t.name)).toContainEqual(expect.stringMatching(/^Print \d+: Reference$/));
  await expect(page.getByText('passes by the reference')).toHaveCount(0);
  await page.keyboard.press('b');
  await expect(page.getByRole('button', { name: 'Hear the mix' })).toBeVisible();
  await page.keyboard.press('Space');
  await rolls(page, 'playing');
  await go(page, 'flow');
  const meter = page.getByRole('meter', { name: 'Monitor', exact: true });
  await expect.poll(async () => Number(await meter.getAttribute('aria-valuenow'))).toBeGreaterThan(-55);
  await expect
    .poll(async () => Number(await page.getByRole('meter', { name: 'Narration out' }).getAttribute('aria-valuenow')))
    .toBe(-60);
  await page.keyboard.press('Space');
  await rolls(page, 'stopped');
  await go(page, 'print');
  await expect(page.getByRole('button', { name: 'Hear the mix' })).toBeVisible();
  await page.keyboard.press('b');
  await expect(page.getByRole('button', { name: /^Hear print \d/ })).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(page.getByRole('button', { name: 'Back in' })).toBeVisible();

  // The session's range moves on; the print says its own.
  await page.getByLabel('Print to').fill('10:00:20:00');
  await page.keyboard.press('Enter');
  await expect(page.getByTestId('own-range')).toContainText('10:00:00:00 to 10:00:10:00');
  await page.getByRole('button', { name: 'Take its range' }).click();
  await expect(page.getByTestId('own-range')).toHaveCount(0);
  await page.getByRole('combobox', { name: 'Tail' }).click();
  await page.getByRole('option', { name: 'until decayed' }).click();
  await expect
    .poll(async () => (await docOf(page, server.url)).settings.tail)
    .toEqual({ until: 'decayed', seconds: 20 });
  await page.keyboard.press('Control+z');
  await expect.poll(async () => (await docOf(page, server.url)).settings.tail).toBeUndefined();
});

test('print: a timeline goes to other programs with what it cannot say, and comes in again', async ({
  page,
  server,
}) => {
  await open(page, server.url, 'print');
  const doc = () => docOf(page, server.url);
  const before = await doc();
  await page.getByRole('button', { name: 'Hand over…' }).click();
  await expect(page.getByRole('list', { name: 'What does not go along' })).toContainText('chains and paths stay here');
  await page.getByRole('combobox', { name: 'Format' }).click();
  await page.getByRole('option', { name: 'Edit lists' }).click();
  await page.getByRole('combobox', { name: 'Format' }).click();
  await page.getByRole('option', { name: 'Timeline' }).click();
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Save', exact: true }).click(),
  ]);
  expect(download.suggestedFilename()).toMatch(/\.otio$/);
  const file = path.join(mkdtempSync(path.join(tmpdir(), 'wide-room-')), 'Lamp.otio');
  await download.saveAs(file);
  // On tracks of other names it comes in beside what is there; what is missing is named.
  const text = readFileSync(file, 'utf8').replaceAll('"name": "Foghorn"', '"name": "Horn"');
  writeFileSync(file, text.replaceAll('Bell_buoy', 'Nowhere'));
  await page.getByLabel('Timeline or edit list').setInputFiles(file);
  const dialog = page.getByRole('dialog', { name: 'Bring in Lamp.otio' });
  await expect(dialog).toContainText('on 1 new track: Horn');
  await expect(dialog.getByRole('list', { name: 'What does not match' })).toContainText('is not among the files');
  await dialog.getByRole('button', { name: /^Lay \d+ clips$/ }).click();
  await expect.poll(async () => (await doc()).tracks.at(-1)!.name).toBe('Horn');
  const horn = (d: typeof before, name: string) =>
    d.tracks.find((t) => t.name === name)!.clips.map((c) => [c.media, c.start, c.offset, c.length]);
  expect(horn(await doc(), 'Horn')).toEqual(horn(before, 'Foghorn'));
  await page.keyboard.press('Control+z');
  await expect.poll(async () => (await doc()).tracks.length).toBe(before.tracks.length);
  writeFileSync(file, '{"OTIO_SCHEMA": "Nothing.1"}');
  await page.getByLabel('Timeline or edit list').setInputFiles(file);
  await expect(page.getByText(/Lamp.otio: .*Nothing was brought in/)).toBeVisible();
});

test('print: raw tracks go to another engineer from one start, with the line sheet and checksums', async ({
  page,
  server,
}) => {
  await open(page, server.url, 'print');
  await page.getByRole('button', { name: 'Raw tracks…' }).click();
  const list = page.getByRole('list', { name: 'Tracks to hand over' });
  for (const box of await list.getByRole('checkbox').all()) await box.uncheck();
  await expect(page.getByRole('button', { name: 'Hand over 0 tracks' })).toBeDisabled();
  for (const name of [/^Foghorn/, /^Surf/]) await list.getByRole('checkbox', { name }).check();
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Hand over 2 tracks' }).click(),
  ]);
  const dir = mkdtempSync(path.join(tmpdir(), 'wide-room-raw-'));
  await download.saveAs(path.join(dir, 'raw.zip'));
  execFileSync('unzip', ['-q', path.join(dir, 'raw.zip'), '-d', dir]);
  execFileSync('sha256sum', ['--check', '--quiet', 'SHA256SUMS'], { cwd: dir });
  const { tracks, media } = await docOf(page, server.url);
  const horn = tracks.find((t) => t.id === 'foghorn')!;
  const length = (file: string) => Number(execFileSync('soxi', ['-s', path.join(dir, file)], { encoding: 'utf8' }));
  const sound = (file: string, from: number, n: number) =>
    execFileSync('sox', [file, '-t', 'raw', '-', 'trim', `${from}s`, `${n}s`], { maxBuffer: 1 << 28 });
  expect(length('SP_Foghorn.wav')).toBe(length('SP_Surf.wav'));
  // The first clip lies where it lies in the session, with the samples of its file: no chain, no level.
  const clip = horn.clips[0]!;
  const file = path.join(server.data, 'sessions/lamp/media', media[clip.media]!.name);
  const [at, n] = [(clip.fadeIn?.frames ?? 0) + 4_800, 9_600];
  expect(sound(path.join(dir, 'SP_Foghorn.wav'), clip.start + at, n)).toEqual(sound(file, clip.offset + at, n));
  expect(readFileSync(path.join(dir, 'about.txt'), 'utf8')).toContain('Each file begins at 10:00:00:00');
  expect(readFileSync(path.join(dir, 'line-sheet.csv'), 'utf8')).toContain('line');
  // Takes that nobody circled are not there, and it is said.
  await page.getByRole('button', { name: 'Raw tracks…' }).click();
  for (const box of await list.getByRole('checkbox').all()) await box.uncheck();
  await list.getByRole('checkbox', { name: /^Foghorn/ }).check();
  await page.getByRole('radio', { name: 'takes as recorded' }).click();
  await page.getByRole('button', { name: 'Hand over 1 track' }).click();
  await expect(page.getByText(/have no circled takes; there is nothing to hand over/)).toBeVisible();
});

test('print: cancelled, it leaves no file, and the version counts up', async ({ page, server }) => {
  test.setTimeout(200_000);
  await open(page, server.url, 'print');
  await page.getByLabel('Print to').fill('10:01:30:00');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: /^Print \d+ files/ }).click();
  await expect(page.getByRole('progressbar')).toBeVisible();
  await page.getByRole('button', { name: /^Cancel Print/ }).click();
  await expect(page.getByText(/Cancelled; the files that had begun were removed/)).toBeVisible();
  const prints = await (await page.request.get(`${server.url}/api/sessions/lamp/prints`)).json();
  expect(prints[0].state).toBe('cancelled');
  const dir = path.join(server.data, 'sessions/lamp/prints', `v${String(prints[0].version).padStart(2, '0')}`);
  expect(execFileSync('ls', [dir], { encoding: 'utf8' })).toBe('');
});
