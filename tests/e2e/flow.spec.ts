import { expect, type Page } from '@playwright/test';
import { DEMO_PATHS } from '../../demo/paths';
import { docOf, editFrom, go, open, rolls, test } from './support/studio';

const row = (page: Page, id: string) => page.locator(`[data-flow-row="${id}"]`);
const actions = (page: Page) => page.getByRole('toolbar', { name: 'Actions on the picked rows' });
const undo = (page: Page) => page.keyboard.press('Control+z');

/** Middle of something once it stands still: the map is laid out when its size is known. */
async function centre(page: Page, selector: string) {
  let box = await page.locator(selector).boundingBox();
  await expect
    .poll(async () => {
      const before = JSON.stringify(box);
      box = await page.locator(selector).boundingBox();
      return box !== null && JSON.stringify(box) === before;
    })
    .toBe(true);
  if (!box) throw new Error(`${selector} is not there`);
  return { x: box.x + box.width / 2, y: box.y + box.height / 2 };
}

/** Pulls the band of a track or bus to a point of the page. */
async function pull(page: Page, id: string, to: { x: number; y: number }): Promise<void> {
  const from = await centre(page, `.react-flow__edge[data-id="band:${id}"] .react-flow__edgeupdater-target`);
  await page.mouse.move(from.x, from.y);
  await page.mouse.down();
  await page.mouse.move(to.x, to.y, { steps: 8 });
  await page.mouse.up();
}

test('a bus of any kind is made where it is needed: by pulling, from the list, by a command', async ({
  page,
  server,
}) => {
  await open(page, server.url, 'flow');
  const busOf = async (name: string) => (await docOf(page, server.url)).buses.find((b) => b.name === name);
  const trackOf = async (id: string) => (await docOf(page, server.url)).tracks.find((t) => t.id === id)!;
  // Let go on the ground: what is pulled there gets a bus of its own.
  const map = (await page.getByTestId('flow-map').boundingBox())!;
  await pull(page, 'foghorn', { x: map.x + map.width - 300, y: map.y + 40 });
  await page.getByRole('radio', { name: 'Group' }).click();
  await page.getByLabel('Name of the new bus').fill('Harbour');
  await page.keyboard.press('Enter');
  await expect.poll(async () => (await busOf('Harbour'))?.destination).toBe('efx');
  const harbour = (await busOf('Harbour'))!.id;
  expect((await trackOf('foghorn')).destination).toBe(harbour);
  // Anywhere on a box is good enough.
  const box = await centre(page, `[data-box="${harbour}"]`);
  await pull(page, 'ropes', { x: box.x + 40, y: box.y + 20 });
  await expect.poll(async () => (await trackOf('ropes')).destination).toBe(harbour);
  // From the list of destinations.
  await page.getByRole('button', { name: 'Track Boat', exact: true }).click();
  await page.getByRole('combobox', { name: 'Destination of Boat' }).click();
  await page.getByRole('option', { name: 'New bus…' }).click();
  await page.getByRole('radio', { name: 'Return' }).click();
  await page.getByLabel('Name of the new bus').fill('Harbour air');
  await page.keyboard.press('Enter');
  await expect.poll(async () => (await trackOf('boat')).sends.map((s) => s.level)).toEqual([-12]);
  // By a command, with a layout of its own.
  await page.keyboard.press('Control+k');
  await page.keyboard.type('new reference');
  await page.keyboard.press('Enter');
  await page.getByLabel('Name of the new bus').fill('For the hall');
  await page.getByRole('combobox', { name: 'Layout of the bus' }).click();
  await page.getByRole('option', { name: 'stereo', exact: true }).click();
  await page.getByRole('button', { name: 'Make', exact: true }).click();
  await expect.poll(async () => (await busOf('For the hall'))?.layout).toBe('stereo');
  for (const id of ['foghorn', 'ropes', 'boat'])
    await editFrom(page, server.url, { type: 'sendTracks', tracks: [id], destination: 'efx' });
  for (const b of (await docOf(page, server.url)).buses.filter((x) => /^(bus|return|reference)-/.test(x.id)))
    await editFrom(page, server.url, { type: 'removeBus', bus: b.id });
});

test('a sound is followed: only its ways are lit, with a level at each step', async ({ page, server }) => {
  await open(page, server.url, 'flow');
  await editFrom(page, server.url, {
    type: 'addBus',
    kind: 'return',
    id: 'air',
    name: 'Harbour air',
    sources: ['narrator', 'foghorn'],
  });
  await page.getByRole('button', { name: 'Track Narrator' }).focus();
  await page.keyboard.press('f');
  const lit = () =>
    page.locator('[data-band]').evaluateAll((all) => all.filter((p) => p.getAttribute('data-dim') === 'false').length);
  // To its stem, to the return, from there to its stem, on to the reference and the monitor.
  await expect.poll(lit).toBe(5);
  await page.keyboard.press('Space');
  await rolls(page, 'playing');
  const way = page.getByRole('region', { name: 'Way of Narrator' });
  await expect(way).toContainText('sent to Harbour air');
  await expect(way).toContainText('SP_NAR_51');
  const level = async () => Number(/arriving, after chain and level\s*(-?[\d.]+)/.exec(await way.innerText())?.[1]);
  await expect.poll(level).toBeGreaterThan(-40);
  await page.keyboard.press('Space');
  await page.getByRole('button', { name: 'Show all' }).first().click();
  await expect.poll(lit).toBeGreaterThan(12);
  await editFrom(page, server.url, { type: 'removeBus', bus: 'air' });
});

test('solo greys what it silences; boxes answer the keyboard', async ({ page, server }) => {
  await open(page, server.url, 'flow');
  await page.getByRole('button', { name: 'Track Narrator' }).focus();
  await page.keyboard.press('ArrowDown');
  await expect(page.getByRole('button', { name: 'Track Pilot' })).toBeFocused();
  await page.keyboard.press('ArrowRight');
  await expect(page.getByRole('button', { name: 'Bus Dialogue' })).toBeFocused();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('region', { name: 'Selected bus' })).toContainText('sources');
  await page.getByRole('button', { name: 'Solo Dialogue' }).click();
  const dim = page.locator('.react-flow__node.is-dim');
  await expect(dim.locator('[data-track=surf]')).toHaveCount(1);
  await expect(dim.locator('[data-track=pilot]')).toHaveCount(0);
  await expect(dim.locator('[data-bus=dia]')).toHaveCount(0);
  await page.getByRole('button', { name: 'Solo Dialogue' }).click();
  await expect(dim).toHaveCount(0);
  await page.getByLabel('Find a row').fill('gul');
  await expect(dim.locator('[data-track=gulls]')).toHaveCount(0);
  await expect(dim.locator('[data-track=surf]')).toHaveCount(1);
  await page.keyboard.press('Escape');
  await expect(dim).toHaveCount(0);
});

test('many rows at once: picked, changed in one step of undo each, told to how many', async ({ page, server }) => {
  await open(page, server.url, 'flow');
  await page.getByRole('radio', { name: 'Table' }).click();
  const doc = () => docOf(page, server.url);
  const before = await doc();
  const levels = async (...ids: string[]) => (await doc()).tracks.filter((t) => ids.includes(t.id)).map((t) => t.level);
  await row(page, 'surf').click();
  await row(page, 'gulls').click({ modifiers: ['Shift'] });
  await expect(actions(page)).toContainText('3 rows picked');
  await actions(page).getByRole('button', { name: 'Level…' }).click();
  await page.getByLabel('dB', { exact: true }).fill('-3');
  await page.getByRole('button', { name: 'For 3' }).click();
  await expect.poll(() => levels('surf', 'wind', 'gulls')).toEqual([-9, -8, -9]);
  await undo(page);
  await expect.poll(() => levels('surf', 'wind', 'gulls')).toEqual([-6, -5, -6]);
  await row(page, 'wind').click({ modifiers: ['Control'] });
  await actions(page).getByRole('button', { name: 'Rename…' }).click();
  await page.getByLabel('Pattern of the names').fill('A{nn} {name}');
  await page.getByRole('button', { name: 'Rename 2' }).click();
  await expect(row(page, 'surf')).toContainText('A01 Surf');
  await expect(row(page, 'gulls')).toContainText('A02 Gulls');
  await undo(page);
  await expect(row(page, 'gulls')).not.toContainText('A02');
  await actions(page).getByRole('button', { name: 'Group 2…' }).click();
  await page.getByLabel('Name of the new bus').fill('Shore');
  await page.keyboard.press('Enter');
  await expect(row(page, 'surf')).toContainText('Shore');
  await undo(page);
  await expect.poll(async () => (await doc()).buses.length).toBe(before.buses.length);
  await page.keyboard.press('Escape');
  expect((await doc()).tracks).toEqual(before.tracks);
});

test('a wide bus is split into mono buses, each in its speaker; mono buses are joined to a layout', async ({
  page,
  server,
}) => {
  await open(page, server.url, 'flow');
  const doc = () => docOf(page, server.url);
  const before = await doc();
  const efx = before.buses.find((b) => b.id === 'efx')!;
  await page.locator('[data-box=efx]').click();
  await page.getByRole('button', { name: 'Split into mono buses' }).click();
  const mono = async () => (await doc()).buses.filter((b) => b.placement?.speaker && b.destination === 'efx');
  await expect
    .poll(async () => (await mono()).map((b) => b.name))
    .toEqual(['L', 'R', 'C', 'LFE', 'Ls', 'Rs'].map((l) => `${efx.name} ${l}`));
  const made = await mono();
  await page.getByRole('radio', { name: 'Table' }).click();
  await row(page, made[4]!.id).click();
  await row(page, made[5]!.id).click({ modifiers: ['Control'] });
  await actions(page).getByRole('button', { name: 'Join 2…' }).click();
  await page.getByLabel('Name of the joined bus').fill('Behind');
  await page.getByLabel('Layout of the joined bus').click();
  await page.getByRole('option', { name: 'quad' }).click();
  await expect(page.getByRole('list', { name: 'Speakers of the joined buses' })).toContainText(/Ls\s*Ls.*Rs\s*Rs/);
  await page.getByRole('button', { name: 'Join 2', exact: true }).click();
  await expect
    .poll(async () => (await doc()).buses.find((b) => b.name === 'Behind'))
    .toMatchObject({ layout: 'quad', destination: 'efx' });
  for (const _ of ['join', 'split']) await undo(page);
  await expect.poll(async () => (await doc()).buses).toEqual(before.buses);
});

test('a limiter at -0.2 on all stems and the reference is one action; so is taking it out', async ({
  page,
  server,
}) => {
  await open(page, server.url, 'flow');
  await page.getByRole('radio', { name: 'Table' }).click();
  await page.getByRole('button', { name: 'all stems and references' }).click();
  await actions(page).getByRole('button', { name: 'Chain…' }).click();
  await page.getByRole('textbox', { name: /^Ceiling/ }).fill('-0.2');
  await page.getByRole('button', { name: 'Add to 6' }).click();
  const ceilings = async () =>
    (await docOf(page, server.url)).buses.map((b) => b.chain.map((s) => [s.type, s.values.ceiling]));
  await expect.poll(ceilings).toEqual(Array(6).fill([['limiter', -0.2]]));
  await undo(page);
  await expect.poll(ceilings).toEqual(Array(6).fill([]));
  await page.keyboard.press('Escape');
});

test('stems against the reference, now: they add up, until the reference has something of its own', async ({
  page,
  server,
}) => {
  await open(page, server.url, 'flow');
  await page.getByRole('radio', { name: 'Table' }).click();
  const sum = page.locator('[data-difference=ref]').first();
  await expect(sum).toContainText('nothing sounds');
  await page.getByRole('button', { name: 'Play' }).click();
  await rolls(page, 'playing');
  await expect(sum).toContainText('they add up');
  await editFrom(page, server.url, { type: 'setBus', bus: 'ref', level: -1 });
  await expect(sum).toContainText('do not add up');
  await editFrom(page, server.url, { type: 'setBus', bus: 'ref', level: 0 });
  await expect(sum).toContainText('they add up');
});

test('what goes over before a chain is counted, held, told with its trim, and cleared', async ({ page, server }) => {
  await open(page, server.url, 'flow');
  await editFrom(page, server.url, { type: 'setTrack', track: 'narrator', level: 20 });
  await page.getByRole('button', { name: 'Play' }).click();
  await rolls(page, 'playing');
  const check = page.locator('[data-check="overs/nar"]');
  await expect(check).toContainText(/Narration went over \d+ times before its chain/, { timeout: 30_000 });
  await page.getByRole('button', { name: 'Stop' }).click();
  await rolls(page, 'stopped');
  await page.getByRole('radio', { name: 'Table' }).click();
  await expect(row(page, 'nar').getByRole('button', { name: /^Clear \d+ overs/ })).toBeVisible();
  await page.getByRole('radio', { name: 'Map' }).click();
  await check.getByRole('button', { name: /^Trim -/ }).click();
  await expect(check).toHaveCount(0);
  const { trim } = (await docOf(page, server.url)).buses.find((b) => b.id === 'nar')!;
  expect(trim).toBeLessThan(-1);
  await editFrom(
    page,
    server.url,
    { type: 'setBus', bus: 'nar', trim: 0 },
    { type: 'setTrack', track: 'narrator', level: -2.9 },
  );
});

test('a fold-down is limited for itself: its file stays under the ceiling, its mix as it was', async ({
  page,
  server,
}) => {
  test.setTimeout(180_000);
  await open(page, server.url, 'flow');
  await page.getByRole('button', { name: 'Bus Reference', exact: true }).click();
  await page.getByRole('button', { name: 'Limit REF stereo' }).click();
  await page.getByRole('spinbutton', { name: 'Ceiling of REF stereo' }).focus();
  await page.keyboard.type('-18');
  await page.keyboard.press('Enter');
  const file = async () => (await docOf(page, server.url)).deliverables.find((d) => d.id === 'print-ref-stereo');
  await expect.poll(async () => (await file())?.ceiling).toBe(-18);
  await go(page, 'print');
  await page.getByLabel('Print to').fill('10:00:08:00');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: /^Print \d+ files/ }).click();
  await expect(page.getByTestId('sum')).toContainText('They add up to the reference.', { timeout: 60_000 });
  const [print] = (await (await page.request.get(`${server.url}/api/sessions/lamp/prints`)).json()) as {
    proof: { files: { deliverable: string; facts: { truePeak: number } }[] };
  }[];
  const peak = (id: string) => print!.proof.files.find((f) => f.deliverable === id)!.facts.truePeak;
  expect(peak('print-ref-stereo')).toBeLessThanOrEqual(-18);
  expect(peak('print-ref')).toBeGreaterThan(-18);
  await go(page, 'flow');
  await page.getByRole('button', { name: 'Bus Reference', exact: true }).click();
  await page.getByRole('button', { name: 'Limit REF stereo' }).click();
  await expect.poll(async () => (await file())?.ceiling).toBeUndefined();
});

test('the paths of the demo: group, return, lanes, two references; its stems add up to both', async ({
  page,
  server,
}) => {
  await open(page, server.url, 'flow');
  await editFrom(page, server.url, ...DEMO_PATHS);
  for (const name of ['Harbour', 'Harbour air', 'Without narration'])
    await expect(page.getByRole('button', { name: `Bus ${name}`, exact: true })).toBeVisible();
  await expect(page.locator('[data-brace=ref]')).toContainText('limited alike');
  await expect(page.locator('[data-send]')).toHaveCount(4);
  // What a sound on the left alone wakes in the room, and how long that sounds.
  await page.getByRole('button', { name: 'Bus Harbour air', exact: true }).click();
  await page.locator('[data-stage=reverb] button[aria-expanded]').click();
  await expect(page.getByTestId('room-facts')).toContainText('wakes 6 of 6 channels');
  await expect(page.getByTestId('room-facts')).toContainText(/measured decay 1\.\d\d s/);
  await page.getByRole('combobox', { name: 'Reverb Channels' }).click();
  await page.getByRole('option', { name: 'each alone' }).click();
  await expect(page.getByTestId('room-facts')).toContainText('wakes only L');
  await page.getByRole('button', { name: 'Play' }).click();
  await rolls(page, 'playing');
  await page.getByRole('radio', { name: 'Table' }).click();
  for (const id of ['ref', 'mne'])
    await expect(page.locator(`[data-difference=${id}]`).first()).toContainText('they add up');
  await expect(row(page, 'surf')).toContainText('level');
});

test('the sources of a stem fold, by mouse and keys; a return gets a ready room and a second one behind', async ({
  page,
  server,
}) => {
  await open(page, server.url, 'flow');
  const folded = page.getByRole('button', { name: /sources of Ambience, folded/ });
  await page.getByRole('button', { name: 'Fold the sources of Ambience' }).click();
  await expect(folded).toHaveText(/\d sources/);
  await expect(page.getByRole('button', { name: 'Track Surf' })).toBeHidden();
  await folded.press('Enter');
  await expect(page.getByRole('button', { name: 'Track Surf' })).toBeVisible();

  await editFrom(
    page,
    server.url,
    { type: 'addBus', id: 'loft', name: 'Loft', kind: 'return', layout: 'stereo', sources: ['gulls', 'boat'] },
    { type: 'addStage', owner: { kind: 'bus', id: 'loft' }, id: 'loft-room', stage: 'reverb' },
  );
  await page.getByRole('button', { name: 'Bus Loft', exact: true }).click();
  const details = page.getByRole('region', { name: 'Selected bus' });
  await details.locator('[data-stage=reverb] button[aria-expanded]').click();
  await details.getByRole('button', { name: 'phone box' }).click();
  const decay = async () => (await docOf(page, server.url)).buses.find((b) => b.id === 'loft')!.chain[0]!.values.decay;
  await expect.poll(decay).toBe(0.3);
  await expect(page.getByTestId('room-facts')).toContainText(/measured decay 0\.[23]\d s/);

  await details.getByRole('button', { name: 'Another room behind' }).click();
  await expect(page.getByRole('button', { name: 'Bus Loft behind', exact: true })).toBeVisible();
  const behind = (await docOf(page, server.url)).buses.find((b) => b.name === 'Loft behind')!;
  expect(behind.placement).toMatchObject({ azimuth: 180 });
  expect(behind.chain[0]!.values.seed).not.toBe(1);
  for (const id of ['gulls', 'boat']) {
    const { sends } = (await docOf(page, server.url)).tracks.find((t) => t.id === id)!;
    for (const to of ['loft', behind.id]) expect(sends.map((s) => s.to)).toContain(to);
  }
  // One undo takes it back.
  await undo(page);
  await expect(page.getByRole('button', { name: 'Bus Loft behind', exact: true })).toHaveCount(0);
});
