// The room by hand: its loudspeakers, test signals, a calibration from start to sheet, and how others hear the mix.
import { execFileSync } from 'node:child_process';
import { mkdtempSync, readdirSync, readFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import type { Page } from '@playwright/test';
import type { EditJson } from '@/core/session';
import { newKernels, noise, sine } from '../support/kernels';
import { writeWav } from '../reference/tools';
import { docOf, editFrom, expect, go, open, rolls, storedOf, switchOnLines, test } from './support/studio';

const run = (command: string, ...args: string[]): string =>
  execFileSync(command, args, { encoding: 'utf8', stdio: ['ignore', 'pipe', 'pipe'] });

const lens = (page: Page, name: string) => page.getByRole('radio', { name, exact: true }).click();
const speaker = (page: Page, label: string) => page.locator(`[data-room-speaker="${label}"]`);

async function newRoom(page: Page): Promise<void> {
  await lens(page, 'Ports');
  await page.getByRole('button', { name: 'New room' }).click();
  await expect(page.getByTestId('room-now')).toHaveText(/^Mixing room( \d+)?$/);
  await expect(page.getByTestId('monitor-way')).toHaveText(/^5.1 → Mixing room( \d+)?$/);
}

/** Loudest meter of a speaker so far, as the picture says it. */
const level = (page: Page, label: string) =>
  speaker(page, label)
    .getByRole('meter')
    .getAttribute('aria-valuenow')
    .then((v) => Number(v));

test('loudspeakers hang on ports; two on one, and one beyond the output, stop it; a room goes out and comes in', async ({
  page,
  server,
}) => {
  await open(page, server.url, 'room');
  await newRoom(page);
  const wrong = page.getByRole('list', { name: 'What is wrong with the room' });
  await expect(wrong).toContainText('Free ports: 7, 8, 9, 10, 11, 12.');
  const port = (label: string) => page.getByRole('textbox', { name: `Port of ${label}`, exact: true });
  await port('R').fill('1');
  await port('R').press('Enter');
  await expect(wrong).toContainText('L and R share port 1');
  await expect(page.getByRole('button', { name: /Speaker L, port 1, wrong/ })).toBeVisible();
  await port('R').fill('14');
  await port('R').press('Enter');
  await expect(wrong).toContainText('has 12 ports; R stands beyond them');
  await page.getByRole('button', { name: 'Undo in this room' }).click();
  await expect(wrong).toContainText('L and R share port 1');
  // In order from the third one on.
  await page.getByLabel('First of the ports').focus();
  await page.keyboard.type('3');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Ports in order' }).click();
  await expect(port('Rs')).toHaveValue('8');

  // Out as a file, in again beside it.
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('link', { name: 'Hand over' }).click(),
  ]);
  const file = await download.path();
  expect(JSON.parse(readFileSync(file, 'utf8'))).toMatchObject({
    format: 'wide-room-rooms',
    rooms: [{ layout: '5.1' }],
  });
  await page.getByLabel('File of rooms').setInputFiles(file);
  await expect(page.getByTestId('room-now')).toHaveText(/Mixing room \d/);
  await page.getByLabel('File of rooms').setInputFiles({
    ...{ name: 'note.json', mimeType: 'application/json', buffer: Buffer.from('{"rooms": []}') },
  });
  await expect(page.getByText('This is no file of rooms of Wide Room; nothing was taken in.')).toBeVisible();

  // Without a room two ears listen.
  await page.getByRole('combobox', { name: 'Room of this machine' }).click();
  await page.getByRole('option', { name: 'No room: two ears' }).click();
  await expect(page.getByTestId('monitor-way')).toHaveText('5.1 → stereo');
});

test('ports, microphones, meters and files stand in their own orders; what a file does not say is asked', async ({
  page,
  server,
}) => {
  await open(page, server.url, 'room');
  await newRoom(page);
  await page.getByLabel('Order of the ports').click();
  await page.getByRole('option', { name: /^film/ }).click();
  await page.getByRole('button', { name: 'Ports in order' }).click();
  const port = (label: string) => page.getByRole('textbox', { name: `Port of ${label}`, exact: true });
  await expect(port('C')).toHaveValue('2');
  await expect(port('LFE')).toHaveValue('6');

  // Microphones that stand as the loudspeakers do, patched to a track at once.
  await page.getByLabel('Device of the microphones').click();
  await page.getByRole('option', { name: /Eight-line/ }).click();
  const line = (label: string) => page.getByRole('textbox', { name: `Line of ${label}`, exact: true });
  await line('R').fill('1');
  await line('R').press('Enter');
  const wrong = page.getByRole('list', { name: 'What is wrong with the microphones' });
  await expect(wrong).toContainText('The microphones of L and R share line 1');
  await page.getByLabel('Patch the microphones to a track').click();
  await page.getByRole('option', { name: 'Surf' }).click();
  await expect(page.getByText(/share line 1.*Nothing was patched/)).toBeVisible();
  await page.getByLabel('Order of the lines').click();
  await page.getByRole('option', { name: /^pairs first/ }).click();
  await page.getByRole('button', { name: 'Lines in order' }).click();
  await expect(line('C')).toHaveValue('5');
  await page.getByLabel('Patch the microphones to a track').click();
  await page.getByRole('option', { name: 'Surf' }).click();
  const inputs = async () =>
    (await docOf(page, server.url)).tracks.find((t) => t.id === 'surf')!.inputs.map((l) => l?.split('/')[1]);
  await expect.poll(inputs).toEqual(['1', '2', '5', '6', '3', '4']);
  await page.keyboard.press('Control+z');
  await expect.poll(inputs).not.toContain('6');

  await lens(page, 'Place');
  const meters = page.getByTestId('reference-meter').getByRole('meter');
  const names = () => meters.evaluateAll((all) => all.map((m) => m.getAttribute('aria-label')));
  await page.getByLabel('Order of the meters').click();
  await page.getByRole('option', { name: /^film/ }).click();
  await expect.poll(names).toEqual(['L', 'C', 'R', 'Ls', 'Rs', 'LFE'].map((l) => `Reference ${l}`));
  await page.getByLabel('Order of the meters').click();
  await page.getByRole('option', { name: /^as WAV/ }).click();

  // A file whose last channel is an LFE, and which says nothing of its channels.
  const file = path.join(mkdtempSync(path.join(tmpdir(), 'wide-room-')), 'Quay.wav');
  const k = newKernels();
  const channels = Array.from({ length: 6 }, (_, c) =>
    c === 5 ? sine(48_000, 48_000, 55, 0.3) : noise(48_000, 0.1, c),
  );
  writeWav(k, file, channels, { mask: 0 });
  await go(page, 'floor');
  await page.getByTestId('import').setInputFiles(file);
  await page.getByRole('button', { name: /\d+ checks?/ }).click();
  await expect(page.getByText('Quay.wav does not say which channel is which')).toBeVisible();
  await expect(page.getByText(/its channel 6 is silent or holds low sounds only/)).toBeVisible();
  await page.getByRole('button', { name: 'film: L C R Ls Rs LFE' }).click();
  await expect(page.getByText('Quay.wav does not say which channel is which')).toHaveCount(0);
  const quay = async () => Object.values((await docOf(page, server.url)).media).find((m) => m.name === 'Quay.wav');
  await expect.poll(quay).toMatchObject({ order: 'film' });
  await page.keyboard.press('Escape');
  await page.getByRole('radio', { name: 'Files' }).click();
  await expect(page.getByLabel('Channel order of Quay.wav')).toHaveText('L C R Ls Rs LFE');

  await go(page, 'brief');
  await page.getByLabel('Order of the channels of Reference').click();
  await page.getByRole('option', { name: /^film/ }).click();
  await expect
    .poll(async () => (await docOf(page, server.url)).deliverables.find((d) => d.bus === 'ref'))
    .toMatchObject({ order: 'film' });
  for (let i = 0; i < 4; i++) await page.keyboard.press('Control+z');
  await expect.poll(quay).toBeUndefined();
  await go(page, 'room');
  await lens(page, 'Ports');
  await page.getByRole('combobox', { name: 'Room of this machine' }).click();
  await page.getByRole('option', { name: 'No room: two ears' }).click();
});

test('test signals start low, sound on the speaker that is meant, go round, and are asked about when they are loud', async ({
  page,
  server,
}) => {
  await open(page, server.url, 'room');
  await newRoom(page);
  const panel = page.getByRole('region', { name: 'Test signal' });
  await page.getByRole('button', { name: /^Speaker C,/ }).click();
  await panel.getByRole('button', { name: 'On C' }).click();
  await expect.poll(() => level(page, 'C')).toBeGreaterThan(-45);
  expect(await level(page, 'L')).toBe(-60);
  await expect(panel.getByRole('status')).toHaveText('C sounds.');
  await panel.getByRole('button', { name: 'Round trip' }).click();
  for (const label of ['L', 'R']) await expect(panel.getByRole('status')).toHaveText(`${label} sounds.`);
  await panel.getByRole('button', { name: 'Round trip' }).click();
  await expect(panel.getByRole('status')).toContainText('never printed');

  await panel.getByLabel('Level of the test signal').focus();
  await page.keyboard.type('-10');
  await page.keyboard.press('Enter');
  await panel.getByRole('button', { name: 'On all' }).click();
  await expect(panel.getByRole('status')).toContainText('-10 dBFS is loud.');
  expect(await level(page, 'Rs')).toBe(-60);
  await panel.getByRole('button', { name: 'start at −40' }).click();
  await panel.getByRole('button', { name: 'On all' }).click();
  await expect.poll(() => level(page, 'Rs')).toBeGreaterThan(-45);
  // What plays ends it.
  await page.keyboard.press('Space');
  await rolls(page, 'playing');
  await expect(panel.getByRole('button', { name: 'On all' })).toHaveAttribute('aria-pressed', 'false');
});

test('what another window changes of the room is heard here while it sounds; a take keeps it silent', async ({
  page,
  context,
  server,
}) => {
  await open(page, server.url, 'room');
  await newRoom(page);
  const panel = page.getByRole('region', { name: 'Test signal' });
  await page.getByRole('button', { name: /^Speaker L,/ }).click();
  await panel.getByRole('button', { name: 'On L' }).click();
  await expect.poll(() => level(page, 'L')).toBeGreaterThan(-45);
  const other = await context.newPage();
  await open(other, server.url, 'room');
  await lens(other, 'Ports');
  await other.getByRole('spinbutton', { name: 'Trim of L', exact: true }).focus();
  await other.keyboard.type('-6');
  await other.keyboard.press('Enter');
  await expect(page.getByRole('spinbutton', { name: 'Trim of L', exact: true })).toHaveAttribute('aria-valuenow', '-6');
  await other.close();
  await panel.getByRole('button', { name: 'On L' }).click();

  // Somebody is recorded: no test signal, no calibration; the take goes on.
  await switchOnLines(page);
  await go(page, 'floor');
  await page.getByRole('button', { name: 'Arm Narrator' }).click();
  await page.keyboard.press('r');
  await rolls(page, 'recording');
  await go(page, 'room');
  await expect(panel.getByRole('button', { name: 'On all' })).toBeDisabled();
  await lens(page, 'Calibrate');
  await page.getByRole('button', { name: 'Sound L', exact: true }).click();
  await expect(page.getByText('A take is being recorded: nothing sounds in the room meanwhile.')).toBeVisible();
  await rolls(page, 'recording');
  await page.keyboard.press('r');
  await rolls(page, 'stopped');
});

test('a calibration from start to sheet: faults are named and mended, speakers end within 0.5 dB, one undo takes it back', async ({
  page,
  server,
}) => {
  test.setTimeout(180_000);
  await open(page, server.url, 'room');
  await newRoom(page);
  await lens(page, 'Calibrate');
  await page.getByRole('button', { name: 'with faults' }).click();
  await page.getByRole('button', { name: 'Look for faults' }).click();
  const found = page.getByRole('list', { name: 'Found in the room' });
  // The seed swaps one pair, reverses one speaker and kills one.
  await expect(found.locator('[data-found=dead]')).toHaveCount(1, { timeout: 60_000 });
  await expect(found.locator('[data-found=swapped]')).toHaveCount(1);
  await expect(found.locator('[data-found=reversed]')).toHaveCount(1);
  const dead = (await found.locator('[data-found=dead]').textContent())!.split(' ')[0]!;
  await page.getByRole('button', { name: 'Mend all that can be mended here' }).click();
  await expect(found.locator('[data-found=swapped]')).toHaveCount(0);
  await page.getByRole('button', { name: 'Measure and set all' }).click();
  const alive = ['L', 'R', 'C', 'LFE', 'Ls', 'Rs'].filter((l) => l !== dead);
  const row = (label: string) => page.locator(`[data-level-of="${label}"]`);
  for (const label of alive) await expect(row(label)).toContainText('equal', { timeout: 60_000 });
  await expect(row(dead)).toContainText('not heard');
  await expect(page.getByRole('button', { name: 'Measure and set all' })).toBeEnabled();
  await page.getByRole('button', { name: 'Keep this calibration' }).click();
  await expect(page.getByText(/last time .*79.0 dB SPL, within 0\.\d dB/)).toBeVisible();

  const { rooms } = (await (await page.request.get(`${server.url}/api/rooms`)).json()) as {
    rooms: { id: string; room: { speakers: { label: string; trim: number; delay: number }[] } }[];
  };
  expect(rooms.at(-1)!.room.speakers.filter((s) => s.trim !== 0).length).toBeGreaterThanOrEqual(4);
  expect(rooms.at(-1)!.room.speakers.some((s) => s.delay > 0.2)).toBe(true);
  const sheet = await (await page.request.get(`${server.url}/api/rooms/${rooms.at(-1)!.id}/sheet`)).text();
  expect(sheet).toContain('within 0.5 dB');
  expect(sheet).toContain('their cables are swapped');
  // One step back: as it was before all of it.
  await lens(page, 'Ports');
  await page.getByRole('button', { name: 'Undo in this room' }).click();
  await expect(page.getByText('Never calibrated.')).toBeVisible();
  await expect(page.getByRole('button', { name: 'Undo in this room' })).toBeDisabled();
});

test('by hand: what a meter reads is typed or taken, and gives the trim', async ({ page, server }) => {
  await open(page, server.url, 'room');
  await newRoom(page);
  await lens(page, 'Calibrate');
  await page.getByRole('button', { name: 'Sound L', exact: true }).click();
  await page.getByLabel('What the meter reads of L').fill('80.4');
  await page.keyboard.press('Enter');
  const row = (label: string) => page.locator(`[data-level-of="${label}"]`);
  await expect(row('L').locator('[data-trim]')).toHaveText('-1.4');
  await page.getByRole('button', { name: 'Next: R' }).click();
  await expect(page.getByTestId('meter-now')).toHaveText(/^[78]\d\.\d$/);
  // The needle settles: slow.
  await expect
    .poll(async () => {
      const shown = async () => Number(await page.getByTestId('meter-now').textContent());
      const before = await shown();
      return Math.abs((await shown()) - before) < 0.3 && before > 70;
    })
    .toBe(true);
  await page.getByRole('button', { name: /Take the meter’s/ }).click();
  await expect(row('R').locator('[data-trim]')).not.toHaveText('0.0');
  // Out of reach is told, and nothing is trimmed.
  await page.getByRole('button', { name: 'Next: C' }).click();
  await page.getByLabel('What the meter reads of C').fill('30');
  await page.keyboard.press('Enter');
  await expect(page.getByText(/C reads 30.0 dB SPL; no trim brings it to 79.0/)).toBeVisible();
  await expect(row('C').locator('[data-trim]')).toHaveText('0.0');
  await page.getByRole('button', { name: 'Let go' }).click();
  await expect(row('L').locator('[data-trim]')).toHaveText('0.0');
});

test('a microphone of one’s own measures once a meter beside it was read', async ({ page, server }) => {
  test.setTimeout(180_000);
  await open(page, server.url, 'room');
  await newRoom(page);
  await lens(page, 'Calibrate');
  const ear = page.getByRole('combobox', { name: 'Measuring microphone' });
  await expect(ear).toHaveText('that of the simulated room');
  // The same microphone, as any line of a device: nobody said how loud it hears.
  await ear.click();
  await page.getByRole('option', { name: 'Measuring mic' }).click();
  await expect(page.getByText('how loud it hears is not known yet')).toBeVisible();
  await page.getByRole('button', { name: 'Measure and set all' }).click();
  await expect(page.getByText(/Nobody said yet how loud this microphone hears/)).toBeVisible();
  await page.getByRole('button', { name: 'Sound L', exact: true }).click();
  const typed = page.getByLabel('What the meter reads of L');
  await typed.fill('84');
  await page.getByRole('button', { name: 'The microphone hears that' }).click();
  await expect(page.getByText(/its full scale is [\d.]+ dB SPL/)).toBeVisible();
  await page.getByRole('button', { name: 'Measure and set all' }).click();
  const row = (label: string) => page.locator(`[data-level-of="${label}"]`);
  for (const label of ['L', 'R', 'C', 'LFE', 'Ls', 'Rs'])
    await expect(row(label)).toContainText('equal', { timeout: 60_000 });
  // The meter said 84 of L as it was; 79 are asked.
  expect(Number(await row('L').locator('[data-trim]').textContent())).toBeCloseTo(-5, 0);
  await ear.click();
  await page.getByRole('option', { name: 'that of the simulated room' }).click();
});

test('a layout of one’s own: made for a room, mixed in, and taken back', async ({ page, server }) => {
  await open(page, server.url, 'room');
  await newRoom(page);
  await page.getByRole('combobox', { name: 'Layout of the room' }).click();
  await page.getByRole('option', { name: 'A layout of your own…' }).click();
  await page.getByLabel('Name of the layout').fill('Dome');
  const speakers = page.getByLabel('Speakers, one on each line');
  await speakers.fill('L 30 0\nR -30 0\nL 90 0');
  await page.getByRole('button', { name: 'Keep the layout' }).click();
  await expect(page.getByRole('alert')).toContainText('two speakers are called L');
  await speakers.fill('L 30 0\nR -30 0\nBack 180 0\nTop 0 90');
  await page.getByRole('button', { name: 'Keep the layout' }).click();
  await expect(speaker(page, 'Top')).toBeVisible();
  // A session mixes in it; what becomes of its material is said before.
  await page.keyboard.press('1');
  await page.waitForURL('**/brief');
  await page.getByRole('combobox', { name: 'Layout of the mix' }).click();
  await page.getByRole('option', { name: 'Dome' }).click();
  const dialog = page.getByRole('dialog');
  await expect(dialog).toContainText('sources keep the place in the room');
  await expect(dialog).toContainText('Surf: channels that Dome has not are folded into its own.');
  await expect(dialog).toContainText(/Files stay as they were asked for: .* in stereo/);
  await dialog.getByRole('button', { name: 'Mix in Dome' }).click();
  await expect.poll(async () => (await docOf(page, server.url)).format.layout).toMatch(/^own\/Dome\//);
  const doc = await docOf(page, server.url);
  expect(doc.buses.filter((b) => b.kind === 'stem').every((b) => b.layout === doc.format.layout)).toBe(true);
  await page.keyboard.press('Control+z');
  await expect.poll(async () => (await docOf(page, server.url)).format.layout).toBe('5.1');
});

test('the monitor is heard in mono by one key, and in any narrower layout with its coefficients', async ({
  page,
  server,
}) => {
  await open(page, server.url, 'room');
  await editFrom(page, server.url, { type: 'setTrack', track: 'surf', level: -3 });
  await lens(page, 'Listen');
  await page.keyboard.press('Shift+M');
  await expect(page.getByTestId('monitor-way')).toHaveText(/^5.1 → mono → /);
  await expect(page.getByRole('radio', { name: /^mono/ })).toBeChecked();
  await page.keyboard.press('Shift+M');
  await expect(page.getByTestId('monitor-way')).toHaveText(/^5.1 → (stereo|Mixing)/);
  await page.getByRole('radio', { name: /^stereo/ }).click();
  const table = page.getByRole('region', { name: 'Fold-down' }).getByRole('table').first();
  await expect(table.getByRole('row', { name: /^C / })).toHaveText('C0.7070.707');
  await expect(table.getByRole('row', { name: /^LFE/ })).toHaveText('LFE··');
  await page.getByLabel('LFE', { exact: true }).focus();
  await page.keyboard.type('-6');
  await page.keyboard.press('Enter');
  await expect(table.getByRole('row', { name: /^LFE/ })).toHaveText('LFE0.5010.501');
  await expect(page.getByText('coefficients of your own')).toBeVisible();
  await page.getByRole('combobox', { name: 'Coefficients' }).click();
  await page.getByRole('option', { name: 'ITU-R BS.775' }).click();
  await expect(table.getByRole('row', { name: /^LFE/ })).toHaveText('LFE··');
});

test('sources are raised from the side, by keys and the wheel; stacked ones are chosen in turn; all of a bus move together', async ({
  page,
  server,
}) => {
  await open(page, server.url, 'room');
  await editFrom(page, server.url, { type: 'setFormat', layout: '7.1.4' });
  const place = async (id: string) => (await docOf(page, server.url)).tracks.find((t) => t.id === id)!.placement;
  const pilot = page.locator('[data-dot=pilot]');
  await pilot.focus();
  await page.keyboard.press('Shift+PageUp');
  await expect.poll(async () => (await place('pilot')).elevation).toBe(10);
  const side = (await page.locator('[data-side-dot=pilot]').boundingBox())!;
  await page.mouse.move(side.x + side.width / 2, side.y + side.height / 2);
  await page.mouse.down();
  await page.mouse.move(side.x + side.width / 2, side.y - 26, { steps: 6 });
  await page.mouse.up();
  await expect.poll(async () => (await place('pilot')).elevation).toBeGreaterThan(30);
  await pilot.locator('circle').first().hover();
  await page.mouse.wheel(0, 100);
  await expect.poll(async () => (await place('pilot')).distance).toBe(0.9);
  // What the heights receive of it is shown.
  await expect(page.locator('[data-speaker=Ltf] [data-gain]')).toContainText('dB');

  const front = { azimuth: 0, distance: 1, width: 60, lfe: -100 };
  await editFrom(
    page,
    server.url,
    ...['pilot', 'apprentice'].map((track) => ({ type: 'placeTrack' as const, track, placement: front })),
    { type: 'placeTrack', track: 'narrator', placement: front },
  );
  await pilot.focus();
  await page.keyboard.press('n');
  await expect(page.locator('[data-dot=apprentice]')).toBeFocused();
  await page.keyboard.press('n');
  await expect(page.locator('[data-dot=boat]')).toBeFocused();
  // With Shift all that go to the dialogue turn; the narrator stays.
  await pilot.focus();
  const at = (await pilot.locator('circle').last().boundingBox())!;
  await page.mouse.move(at.x + at.width / 2, at.y + at.height / 2);
  await page.keyboard.down('Shift');
  await page.mouse.down();
  await page.mouse.move(at.x - 100, at.y + 30, { steps: 8 });
  await page.mouse.up();
  await page.keyboard.up('Shift');
  await expect.poll(async () => (await place('pilot')).azimuth).toBeGreaterThan(15);
  expect((await place('apprentice')).azimuth).toBe((await place('pilot')).azimuth);
  expect((await place('narrator')).azimuth).toBe(0);
  await page.keyboard.press('Control+z');
  await expect.poll(async () => (await place('apprentice')).azimuth).toBe(0);
});

test('what is heard narrower is measured beside the reference, through Lt/Rt, four in two and around a head', async ({
  page,
  server,
}) => {
  await open(page, server.url, 'room');
  await editFrom(page, server.url, { type: 'setFormat', layout: '5.1' });
  await lens(page, 'Listen');
  await page.getByRole('radio', { name: /^stereo/ }).click();
  await page.getByRole('button', { name: 'Play' }).click();
  await rolls(page, 'playing');
  const figures = page.locator('[data-figures^="heard"]');
  await expect(figures).toContainText('heard: stereo');
  await expect(figures.locator('td').nth(1)).toHaveText(/^-\d+\.\d$/);
  await expect(figures.locator('td').nth(4)).toHaveText(/^−?[01]\.\d\d$/);
  await expect(page.getByTestId('fold-loss')).toContainText('Nothing cancels.');
  // The monitor's level is not in them.
  const loudness = async (row: string) =>
    Number(await page.locator(`[data-figures^="${row}"] td`).nth(1).textContent());
  await expect
    .poll(async () => Math.abs((await loudness('heard')) - (await loudness('the reference'))))
    .toBeLessThan(3);
  for (const [name, way] of [
    [/^Lt\/Rt/, /^5.1 → Lt\/Rt → /],
    [/^Four in two encoded/, /^5.1 → four in two → /],
    [/^Decoded to four/, /^5.1 → decoded to four → /],
    [/^Four in two and back/, /^5.1 → four in two and back → /],
  ] as const) {
    await page.getByRole('radio', { name }).click();
    await expect(page.getByTestId('monitor-way')).toHaveText(way);
    await expect(figures.locator('td').nth(1)).toHaveText(/^-\d+\.\d$/);
  }
  const crosstalk = page.getByRole('table', { name: 'Crosstalk' });
  await expect(crosstalk.getByRole('row', { name: /^L / })).toHaveText('L0.0 dB−3.0 dB−3.0 dB–∞ dB');
  await page.getByRole('radio', { name: 'loudspeakers around a head' }).click();
  await expect(page.getByTestId('monitor-way')).toHaveText(/^5.1 → four in two and back → /);
  await rolls(page, 'playing');
});

test('coefficients of one’s own are kept in the session and asked of a file; a file is encoded into two channels', async ({
  page,
  server,
}) => {
  await open(page, server.url, 'room');
  await lens(page, 'Listen');
  await page.getByRole('radio', { name: /^stereo/ }).click();
  await page.getByLabel('surrounds and heights').focus();
  await page.keyboard.type('-6');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Keep in this session' }).click();
  await page.getByRole('textbox', { name: 'Name of these coefficients' }).fill('Soft surrounds');
  await page.keyboard.press('Enter');
  await expect.poll(async () => (await docOf(page, server.url)).folds?.[0]?.name).toBe('Soft surrounds');
  await page.keyboard.press('1');
  await page.waitForURL('**/brief');
  const layout = page
    .locator('[data-deliverable=print-ref-stereo]')
    .getByRole('combobox', { name: 'Layout of Fold-down' });
  await layout.click();
  await page.getByRole('option', { name: 'stereo, Soft surrounds' }).click();
  const file = async () => (await docOf(page, server.url)).deliverables.find((d) => d.id === 'print-ref-stereo')!;
  await expect.poll(async () => (await file()).fold).toMatch(/^fold-/);
  await layout.click();
  await page.getByRole('option', { name: 'stereo, Lt/Rt' }).click();
  await expect.poll(async () => (await file()).encode).toBe('lt-rt');
  await layout.click();
  await page.getByRole('option', { name: 'LCR', exact: true }).click();
  await expect.poll(async () => (await file()).layout).toBe('lcr');
  expect(await file()).not.toHaveProperty('encode');
});

/** A new session in a layout, made by hand; gives its id. */
async function newSessionIn(page: Page, url: string, layout: string, name: string, code: string): Promise<string> {
  await open(page, url, 'brief');
  await page.getByRole('button', { name: 'New session' }).click();
  const dialog = page.getByRole('dialog');
  await dialog.locator('#name').fill(name);
  await dialog.locator('#code').fill(code);
  await dialog.getByRole('combobox', { name: 'Mix in' }).click();
  await page.getByRole('option', { name: layout, exact: true }).click();
  await dialog.getByRole('button', { name: /Begin|Make|Start|Create/ }).click();
  await page.waitForURL((u) => /\/s\/(?!lamp)[^/]+\/brief$/.test(u.pathname));
  return /\/s\/([^/]+)\//.exec(page.url())![1]!;
}

async function editIn(page: Page, url: string, id: string, ...edits: EditJson[]): Promise<void> {
  const { revision } = await storedOf(page, url, id);
  const made = await page.request.post(`${url}/api/sessions/${id}/edits`, {
    headers: { cookie: '' },
    data: { id: `edits-${revision}`, base: revision, edits },
  });
  expect(made.ok(), await made.text()).toBe(true);
}

/** Prints all files of the brief, whatever is said before, and waits for the proof of this version. */
async function printAll(page: Page, version: number): Promise<void> {
  await page.getByRole('button', { name: /^Print \d+ files/ }).click();
  const shown = page.getByRole('combobox', { name: 'Print shown' });
  const anyway = page.getByRole('button', { name: 'Print anyway' });
  await expect(
    shown
      .filter({ hasText: `Print ${version}` })
      .or(anyway)
      .first(),
  ).toBeVisible({ timeout: 60_000 });
  if (await anyway.isVisible()) await anyway.click();
  await expect(shown).toContainText(`Print ${version}`, { timeout: 60_000 });
  await expect(page.getByTestId('archive')).toBeVisible({ timeout: 60_000 });
}

test('a quad job is encoded into two channels, brought back and decoded; what leaks is as published', async ({
  page,
  server,
}) => {
  test.setTimeout(150_000);
  const id = await newSessionIn(page, server.url, 'quad', 'The Gauge House', 'GH');
  const dir = mkdtempSync(path.join(tmpdir(), 'wide-room-quad-'));
  const k = newKernels();
  const N = 4 * 48_000;
  const left = Array.from({ length: 4 }, (_, c) => (c === 0 ? noise(N, 0.2, 5) : new Float32Array(N)));
  writeWav(k, path.join(dir, 'Left.wav'), left, { mask: 0x33 });
  await go(page, 'floor');
  await page.getByTestId('import').setInputFiles(path.join(dir, 'Left.wav'));
  await expect.poll(async () => (await docOf(page, server.url, id)).tracks.map((t) => t.layout)).toEqual(['quad']);
  const { tracks, deliverables } = await docOf(page, server.url, id);
  const only = deliverables.find((d) => d.bus === 'ref')!;
  await editIn(
    page,
    server.url,
    id,
    { type: 'sendTracks', tracks: [tracks[0]!.id], destination: 'amb' },
    { type: 'setRange', start: 0, end: N },
    ...deliverables.filter((d) => d !== only).map((d): EditJson => ({ type: 'removeDeliverable', deliverable: d.id })),
    { type: 'addDeliverable', id: 'two', bus: 'ref', layout: 'stereo', token: 'TWO' },
  );
  // Asked for in the brief, by hand.
  await go(page, 'brief');
  const form = page.locator('[data-deliverable=two]').getByRole('combobox', { name: 'Layout of Fold-down' });
  await form.click();
  await page.getByRole('option', { name: 'stereo, four in two' }).click();
  await go(page, 'print');
  await printAll(page, 1);
  await expect(page.getByRole('cell', { name: /stereo, four in two/ })).toBeVisible();
  await page.getByRole('button', { name: 'Back in' }).click();
  await expect.poll(async () => (await docOf(page, server.url, id)).tracks.length).toBe(3);
  const back = (await docOf(page, server.url, id)).tracks.find((t) => t.print === 1 && t.layout === 'stereo')!;

  // The two channels go to left and right of a quad stem that decodes them.
  await editIn(
    page,
    server.url,
    id,
    { type: 'setTrack', track: tracks[0]!.id, muted: true },
    { type: 'setTrack', track: back.id, muted: false },
    { type: 'placeTrack', track: back.id, placement: { azimuth: 0, distance: 1, width: 90, lfe: -100 } },
    { type: 'sendTracks', tracks: [back.id], destination: 'efx' },
    { type: 'addStage', owner: { kind: 'bus', id: 'efx' }, id: 'd', stage: 'fourDecoder' },
    { type: 'addDeliverable', id: 'four', bus: 'efx', layout: 'quad', token: 'EFX' },
  );
  await printAll(page, 2);
  const folder = path.join(server.data, 'sessions', id, 'prints/v02');
  const decoded = path.join(
    folder,
    readdirSync(folder).find((f) => f.includes('EFX'))!,
  );
  const level = (file: string, channel: number): number => {
    const sox = `sox "${file}" -n remix ${channel + 1} trim 0.5 -0.5 stats 2>&1 | grep "RMS lev"`;
    const said = execFileSync('sh', ['-c', sox], { encoding: 'utf8' }).trim();
    return /-inf/.test(said) ? -Infinity : Number(/-?[\d.]+\s*$/.exec(said)![0]);
  };
  const own = level(path.join(dir, 'Left.wav'), 0);
  // Regular matrix: itself, its neighbours 3 dB below, the opposite corner gone (from memory).
  expect(level(decoded, 0) - own).toBeCloseTo(0, 0);
  for (const neighbour of [1, 2]) expect(level(decoded, neighbour) - own).toBeCloseTo(-3, 0);
  expect(level(decoded, 3) - own).toBeLessThan(-40);
});

test('a job in 7.1.4 from a new session to a proven print, as other programs read it', async ({ page, server }) => {
  test.setTimeout(120_000);
  const id = await newSessionIn(page, server.url, '7.1.4', 'The Lamp Room', 'LR');
  // A bed of twelve channels, a tone in each, and a voice that stands overhead.
  const dir = mkdtempSync(path.join(tmpdir(), 'wide-room-dome-'));
  const tones = Array.from({ length: 12 }, (_, i) => ['sine', String(200 + 100 * i)]).flat();
  const bed = ['-n', '-r', '48000', '-c', '12', '-b', '24', path.join(dir, 'bed.wav')];
  run('sox', ...bed, 'synth', '6', ...tones, 'gain', '-20');
  run('sox', '-n', '-r', '48000', '-b', '24', path.join(dir, 'voice.wav'), 'synth', '6', 'sine', '550', 'gain', '-20');
  await go(page, 'floor');
  await page.getByTestId('import').setInputFiles(['bed.wav', 'voice.wav'].map((f) => path.join(dir, f)));
  await expect
    .poll(async () => (await docOf(page, server.url, id)).tracks.map((t) => t.layout).sort())
    .toEqual(['7.1.4', 'mono']);
  const doc = await docOf(page, server.url, id);
  const voice = doc.tracks.find((t) => t.layout === 'mono')!;
  await editIn(
    page,
    server.url,
    id,
    ...doc.tracks.map((t) => ({ type: 'sendTracks' as const, tracks: [t.id], destination: 'amb' })),
    { type: 'placeTrack', track: voice.id, placement: { azimuth: 0, distance: 1, width: 0, lfe: -100, elevation: 90 } },
    { type: 'setRange', start: 0, end: 5 * 48_000 },
    // A stage works on as many channels as its bus has.
    { type: 'addStage', owner: { kind: 'bus', id: 'amb' }, id: 'cut', stage: 'lowCut' },
  );
  await go(page, 'print');
  await page.getByRole('button', { name: /^Print \d files/ }).click();
  const anyway = page.getByRole('button', { name: 'Print anyway' });
  await expect(page.getByTestId('sum').or(anyway).first()).toBeVisible({ timeout: 60_000 });
  if (await anyway.isVisible()) await anyway.click();
  await expect(page.getByText('They add up to the reference.')).toBeVisible({ timeout: 60_000 });
  const folder = path.join(server.data, 'sessions', id, 'prints/v01');
  const reference = path.join(
    folder,
    readdirSync(folder).find((f) => f.startsWith('LR_REF_714'))!,
  );
  const stream = JSON.parse(run('ffprobe', '-v', 'error', '-of', 'json', '-show_streams', reference)).streams[0];
  expect(stream).toMatchObject({ channels: 12, duration: '5.000000' });
  expect(stream.channel_layout).toMatch(/^7\.1\.4$|FL\+FR\+FC\+LFE\+BL\+BR\+SL\+SR\+TFL\+TFR\+TBL\+TBR/);
  expect(run('mediainfo', '--Output=Audio;%Channels% %ChannelLayout%', reference).trim()).toMatch(
    /^12 L R C LFE Lb Rb Ls(s)? Rs(s)? (Tfl|Ltf) (Tfr|Rtf) (Tbl|Ltr) (Tbr|Rtr)$/,
  );
  // Each tone stands in its own channel, by another program: its neighbour's is not there.
  const inBand = (channel: number, hz: number): number => {
    const sox = `sox "${reference}" -n remix ${channel + 1} sinc -t 30 ${hz - 40}-${hz + 40} stats 2>&1 | grep "RMS lev"`;
    return Number(/-?[\d.]+\s*$/.exec(execFileSync('sh', ['-c', sox], { encoding: 'utf8' }).trim())![0]);
  };
  for (const c of [0, 2, 8, 11]) {
    const [own, next] = [200 + 100 * c, 200 + 100 * ((c + 2) % 12)];
    expect(inBand(c, own) - inBand(c, next)).toBeGreaterThan(15);
  }
});
