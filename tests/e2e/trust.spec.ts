// What is altered while sound runs, while the server is away, in other windows, behind our back.
import { appendFileSync, readFileSync, readdirSync, renameSync, rmSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import type { Page } from '@playwright/test';
import type { Stage } from '@/core/session';
import {
  docOf,
  storedOf,
  editFrom,
  expect,
  go,
  open,
  recordFor,
  recorded,
  rolls,
  switchOnLines,
  test,
} from './support/studio';

const pilotTakes = async (page: Page, url: string) =>
  (await docOf(page, url)).tracks.find((t) => t.id === 'pilot')!.takes.filter((t) => !t.imported);

async function armPilot(page: Page, url: string): Promise<void> {
  await open(page, url, 'lineup');
  await switchOnLines(page);
  await editFrom(page, url, { type: 'seatTrack', track: 'pilot', armed: true, hearing: 'never' });
  await go(page, 'floor');
  await expect(page.getByText('signal', { exact: true })).toBeVisible();
}
async function stopAndTake(page: Page, url: string, before: number) {
  await page.getByRole('button', { name: 'Stop recording' }).click();
  await expect.poll(async () => (await pilotTakes(page, url)).length, { timeout: 60_000 }).toBe(before + 1);
  await editFrom(page, url, { type: 'seatTrack', track: 'pilot', armed: false });
  return (await pilotTakes(page, url)).at(-1)!;
}

test('a chain that is changed while it is recorded: asked once, kept with its sample, and redo is offered', async ({
  page,
  server,
}) => {
  test.setTimeout(120_000);
  const { url } = server;
  await armPilot(page, url);
  const before = (await pilotTakes(page, url)).length;
  await recordFor(page, 2);
  const { lines, tracks } = await docOf(page, url);
  const line = tracks.find((t) => t.id === 'pilot')!.inputs[0]!;
  const stage = lines.find((l) => l.id === line)!.chain.find((s) => s.type === 'lowCut')!;
  await go(page, 'lineup');
  await page.locator(`[data-line="${line}"]`).click();
  const power = page
    .getByRole('button', { name: /low cut.*(on|off)|Bypass Low cut|Switch (on|off) Low cut/i })
    .or(page.getByRole('switch', { name: /Low cut/i }))
    .first();
  await power.click();
  await expect(page.getByText('being recorded through this chain')).toBeVisible();
  await page.getByRole('button', { name: 'Leave the chain' }).click();
  const chainOf = async (): Promise<Stage> =>
    (await docOf(page, url)).lines.find((l) => l.id === line)!.chain.find((s) => s.id === stage.id)!;
  expect((await chainOf()).on).toBe(stage.on);
  await power.click();
  await page.getByRole('button', { name: 'Change it' }).click();
  await expect.poll(async () => (await chainOf()).on).toBe(!stage.on);
  // From now on nothing is asked any more in this roll.
  await power.click();
  await expect.poll(async () => (await chainOf()).on).toBe(stage.on);
  await go(page, 'floor');
  const take = await stopAndTake(page, url, before);
  expect(take.chainChanges!.length).toBeGreaterThanOrEqual(1);
  expect(take.chainChanges![0]!.at).toBeGreaterThan(48_000);
  expect(take.chains[0]!.find((s) => s.id === stage.id)!.on).toBe(stage.on);
  await page
    .locator('[data-row=pilot]')
    .getByRole('button', { name: /^Pilot/ })
    .click();
  await page.getByRole('radio', { name: 'Takes', exact: true }).click();
  await expect(page.getByText('chain changed on the way').first()).toBeVisible();
  await expect(page.getByRole('button', { name: 'Redo the chain' }).first()).toBeVisible();
});

test('the word length stays while something is recorded, and a look-ahead stage is refused', async ({
  page,
  server,
}) => {
  test.setTimeout(120_000);
  const { url } = server;
  await armPilot(page, url);
  const before = (await pilotTakes(page, url)).length;
  await recordFor(page, 2);
  const { revision } = await storedOf(page, url);
  const refused = await page.request.post(`${url}/api/sessions/lamp/edits`, {
    data: { id: 'word-length', base: revision, edits: [{ type: 'setFormat', wordLength: 16 }] },
  });
  expect(refused.status()).toBe(409);
  expect(await refused.text()).toMatch(/is being recorded.*format stays/);
  // Leaving meanwhile is asked about.
  const asked = page.waitForEvent('dialog');
  void page.reload().catch(() => {});
  const dialog = await asked;
  expect(dialog.type()).toBe('beforeunload');
  await dialog.dismiss();
  await rolls(page, 'recording');
  const take = await stopAndTake(page, url, before);
  expect(take.faults).toBeUndefined();
});

test('a track that is sent elsewhere while it plays is heard there', async ({ page, server }) => {
  const { url } = server;
  await open(page, url, 'floor');
  await page.getByLabel('Locate').fill('10:00:03:05');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Play' }).click();
  await rolls(page, 'playing');
  const top = (node: string) =>
    page.evaluate(async (id) => {
      const { capture } = (
        globalThis as unknown as { wideRoom: { capture(n: string, f: number): Promise<Float32Array[]> } }
      ).wideRoom;
      return Math.max(...(await capture(id, 24_000)).map((c) => c.reduce((m, v) => Math.max(m, Math.abs(v)), 0)));
    }, node);
  expect(await top('nar')).toBeGreaterThan(0.01);
  await editFrom(page, url, { type: 'sendTracks', tracks: ['narrator'], destination: 'mus' });
  await expect.poll(() => top('nar')).toBe(0);
  expect(await top('mus')).toBeGreaterThan(0.01);
  // A limiter on one stem delays it; the others go on into the reference.
  await editFrom(page, url, { type: 'addStage', owner: { kind: 'bus', id: 'efx' }, id: 'trust-lim', stage: 'limiter' });
  expect(await top('ref')).toBeGreaterThan(0.01);
  await page.getByRole('button', { name: 'Stop', exact: true }).click();
  await editFrom(
    page,
    url,
    { type: 'sendTracks', tracks: ['narrator'], destination: 'nar' },
    { type: 'removeStage', owner: { kind: 'bus', id: 'efx' }, stage: 'trust-lim' },
  );
});

test('a figure that is typed is a figure, and no key changes the place', async ({ page, server }) => {
  const { url } = server;
  await open(page, url, 'floor');
  for (const figure of ['-1', '-2.5', '-3', '-4', '-5', '-6', '1', '2', '3', '4', '5']) {
    const field = page.getByRole('spinbutton', { name: 'Level of Foghorn' });
    await field.focus();
    await page.keyboard.type(figure);
    await page.keyboard.press('Enter');
    await expect
      .poll(async () => (await docOf(page, url)).tracks.find((t) => t.name === 'Foghorn')!.level)
      .toBe(Number(figure));
    expect(new URL(page.url()).pathname).toMatch(/floor$/);
  }
});

test('a cord is taken out by key, by letting it go and by typing; what is replaced is told', async ({
  page,
  server,
}) => {
  const { url } = server;
  await open(page, url, 'lineup');
  const input = async (track: string) => (await docOf(page, url)).tracks.find((t) => t.id === track)!.inputs[0];
  await editFrom(page, url, { type: 'patch', track: 'pilot', channel: 0, line: 'standin-eight/2' });
  await page.getByLabel('Patch by typing').fill('7 > Pilot');
  await page.getByRole('button', { name: 'Patch', exact: true }).click();
  await expect(page.getByText(/Pilot: .* in the place of .*Undo brings it back/)).toBeVisible();
  await page.getByLabel('Patch by typing').fill('none > Pilot');
  await page.getByRole('button', { name: 'Patch', exact: true }).click();
  await expect.poll(() => input('pilot')).toBeNull();
  await editFrom(page, url, { type: 'patch', track: 'pilot', channel: 0, line: 'standin-eight/2' });
  const cord = page.locator('.react-flow__edge[data-id="pilot:0"]');
  await cord.locator('.react-flow__edge-interaction').click({ force: true });
  await page.keyboard.press('Delete');
  await expect.poll(() => input('pilot')).toBeNull();
  await editFrom(page, url, { type: 'patch', track: 'pilot', channel: 0, line: 'standin-eight/2' });
  const end = cord.locator('.react-flow__edgeupdater-target');
  const box = (await end.boundingBox())!;
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
  await page.mouse.down();
  await page.mouse.move(box.x - 60, box.y + 25, { steps: 6 });
  await page.mouse.up();
  await expect.poll(() => input('pilot')).toBeNull();
  await editFrom(page, url, { type: 'patch', track: 'pilot', channel: 0, line: 'standin-eight/2' });
});

test('twenty windows, and one of them records', async ({ page, server, context }) => {
  test.setTimeout(240_000);
  const { url } = server;
  // Performers' windows listen to the same events and are light on a machine of two processors.
  const windows: Page[] = [];
  for (let i = 0; i < 19; i++) {
    const other = await context.newPage();
    await other.goto(`${url}${i < 3 ? '/s/lamp/brief' : '/prompt/lamp'}`);
    await expect(other.getByText('Opening the session')).toHaveCount(0);
    windows.push(other);
  }
  const { cues, name } = await docOf(page, url);
  const say = async (text: string) => {
    await editFrom(
      page,
      url,
      { type: 'setSession', name: text },
      ...cues.map((c) => ({ type: 'setCue' as const, cue: c.id, text })),
    );
    for (const w of windows) await expect(w.getByText(text).first()).toBeVisible();
  };
  await armPilot(page, url);
  const before = (await pilotTakes(page, url)).length;
  await recordFor(page, 3);
  const told = windows[0]!.getByText('another window of yours records');
  await expect(told).toBeVisible();
  // An edit is seen in all windows, while one of them records.
  await say('Twenty windows');
  const take = await stopAndTake(page, url, before);
  await expect(told).toHaveCount(0);
  expect(take.length).toBeGreaterThan(3 * 48_000);
  // The window that held the stream goes: another takes its place.
  for (const w of windows.splice(0, 10)) await w.close();
  await say('Ten windows');
  await editFrom(
    page,
    url,
    { type: 'setSession', name },
    ...cues.map((c) => ({ type: 'setCue' as const, cue: c.id, text: c.text })),
  );
});

test('files that were changed behind our back are named: missing ones, and a print that was altered', async ({
  page,
  server,
}) => {
  test.setTimeout(200_000);
  const { url, data } = server;
  const media = path.join(data, 'sessions/lamp/media');
  const victim = path.join(
    media,
    readdirSync(media).find((f) => /Foghorn.*\.wav$/.test(f))!,
  );
  renameSync(victim, `${victim}.away`);
  await open(page, url, 'floor');
  await expect(page.getByText(/missing from the session's folder/).first()).toBeVisible();
  await go(page, 'print');
  await page.getByRole('button', { name: /^Print \d+ files$/ }).click();
  await expect(page.getByText(new RegExp(`${path.basename(victim)} is missing`)).first()).toBeVisible();
  await go(page, 'floor');
  await page.getByRole('radio', { name: 'Files', exact: true }).click();
  await page
    .getByLabel(/^Bring .*Foghorn.* back$/)
    .setInputFiles({ name: 'x.wav', mimeType: 'audio/wav', buffer: readFileSync(`${victim}.away`) });
  await expect(page.getByText(/is back\./)).toBeVisible();
  rmSync(`${victim}.away`);
  await go(page, 'print');
  await page.getByRole('button', { name: /^Print \d+ files$/ }).click();
  await expect(page.getByTestId('archive')).toBeVisible({ timeout: 120_000 });
  const prints = path.join(data, 'sessions/lamp/prints');
  const dir = path.join(prints, readdirSync(prints).sort().at(-1)!);
  const file = path.join(dir, readdirSync(dir).sort()[0]!);
  const whole = readFileSync(file);
  appendFileSync(file, 'x');
  await page.getByTestId('archive').click();
  await expect(page.getByText(/It is not handed over; print again/)).toBeVisible();
  writeFileSync(file, whole);
  const download = page.waitForEvent('download');
  await page.getByTestId('archive').click();
  expect((await download).suggestedFilename()).toMatch(/\.zip$/);
});

test('what lies below a place is guarded like the place', async ({ page, server }) => {
  const answer = await page.request.get(`${server.url}/s/lamp/anything.png`);
  expect(answer.headers()['content-security-policy']).toContain("default-src 'self'");
  const other = await page.request.get(`${server.url}/s/lamp/anything.png`, { headers: { Host: 'rebound.example' } });
  expect(other.status()).toBe(421);
});

test('the server is away: arming and recording go on, and it is said', async ({ browser, machine }) => {
  test.setTimeout(200_000);
  let server = await machine.start();
  const port = Number(new URL(server.url).port);
  const page = await (await browser.newContext()).newPage();
  await open(page, server.url, 'lineup');
  await switchOnLines(page);
  await go(page, 'floor');
  await expect(page.getByRole('button', { name: 'Arm Pilot', exact: true })).toBeVisible();
  await server.kill();
  // Places change without the server; the page that records is never left.
  await go(page, 'flow');
  await expect(page.locator('.react-flow')).toBeVisible();
  await page.goBack();
  await page.getByRole('button', { name: 'Arm Pilot', exact: true }).click();
  await page.getByRole('button', { name: 'Record', exact: true }).click();
  await expect(page.getByText(/The server is away. The take is kept in this browser/)).toBeVisible();
  await rolls(page, 'recording');
  await recorded(page, 3.2);
  server = await machine.start(port);
  await page.getByRole('button', { name: 'Stop recording' }).click();
  await expect
    .poll(async () => (await pilotTakes(page, server.url)).at(-1)?.length ?? 0, { timeout: 90_000 })
    .toBeGreaterThan(3 * 48_000);
});
