// The page and its workers are held up while seven tracks record: nothing is altered, and what is missing is told.
import { readFileSync, readdirSync, statSync } from 'node:fs';
import path from 'node:path';
import type { Page } from '@playwright/test';
import type { EditJson, TakeGap } from '@/core/session';
import { newKernels } from '../support/kernels';
import { samplesOf } from '../support/files';
import { docOf, editFrom, expect, go, open, recordFor, rolls, switchOnLines, test } from './support/studio';
import { MemorySource } from '../support/memorySource';

const DEVICE = 'standin-eight';

/** Keeps the page busy for so long (ms); comes back at once. */
const busy = (ms: number) => {
  setTimeout(() => {
    for (const until = performance.now() + ms; performance.now() < until;);
  }, 0);
};

/** Holds a worker up for so long (ms) without taking a processor from the sound; comes back at once. */
const held = (ms: number) => {
  setTimeout(() => Atomics.wait(new Int32Array(new SharedArrayBuffer(4)), 0, 0, ms), 0);
};

async function arm(page: Page, url: string): Promise<void> {
  const line = (i: number) => `${DEVICE}/${i + 1}`;
  const six = Array.from({ length: 6 }, (_, i) => i);
  const known = new Set((await docOf(page, url)).lines.map((l) => l.id));
  await editFrom(
    page,
    url,
    ...six.flatMap((i): EditJson[] => [
      ...(known.has(line(i))
        ? []
        : [{ type: 'addLine', device: DEVICE, channel: i, name: `Line ${i + 1}` } as EditJson]),
      { type: 'setChain', owner: { kind: 'line', id: line(i) }, chain: [] },
      { type: 'addTrack', id: `mono${i}`, name: `Mono${i + 1}`, layout: 'mono', destination: null },
      { type: 'patch', track: `mono${i}`, channel: 0, line: line(i) },
      { type: 'seatTrack', track: `mono${i}`, armed: true },
    ]),
    { type: 'addTrack', id: 'wide', name: 'Wide', layout: '5.1', destination: null },
    ...six.map((i): EditJson => ({ type: 'patch', track: 'wide', channel: i, line: line(i) })),
    { type: 'seatTrack', track: 'wide', armed: true },
  );
}

test('seven tracks, the page and its workers held up twice for nine seconds', async ({ page, server }) => {
  test.setTimeout(300_000);
  await open(page, server.url, 'lineup');
  await switchOnLines(page);
  await arm(page, server.url);
  await go(page, 'floor');
  await page.getByRole('button', { name: 'Record', exact: true }).click();
  const anyway = page.getByRole('button', { name: 'Record anyway' });
  await Promise.race([rolls(page, 'recording'), anyway.waitFor().then(() => anyway.click())]);
  await rolls(page, 'recording');
  const dir = path.join(server.data, 'sessions/lamp/media');
  // Where no timeline is drawn the machine has time for what is tested here; what arrived is looked up on the disk.
  await go(page, 'print');
  const seconds = (): number => {
    const takes = readdirSync(dir).filter((f) => /^SP_(Wide|Mono\d)_T01.*\.wav$/.test(f));
    if (takes.length < 14) return 0;
    const frames = takes.map((f) => statSync(path.join(dir, f)).size / (f.includes('Wide') ? 18 : 3));
    return Math.min(...frames) / 48_000;
  };
  await expect.poll(seconds, { timeout: 60_000 }).toBeGreaterThan(2);
  const kept = async () => Number(/([\d.]+) s/.exec(await page.getByText(/^Recording take/).innerText())![1]);
  for (let round = 0; round < 2; round++) {
    const before = await kept();
    await Promise.all([page.evaluate(busy, 9_000), ...page.workers().map((w) => w.evaluate(held, 9_000))]);
    await expect.poll(kept, { timeout: 120_000 }).toBeGreaterThan(before + 9);
  }
  await page.getByRole('button', { name: 'Stop recording' }).click();
  await expect
    .poll(
      // Each track's take is entered for itself, in whatever order they are delivered.
      async () =>
        (await docOf(page, server.url)).tracks.filter((t) => /^wide$|^mono\d$/.test(t.id) && t.takes.length === 1)
          .length,
      { timeout: 120_000 },
    )
    .toBe(7);
  const { tracks } = await docOf(page, server.url);
  const k = newKernels();
  const read = async (name: string) =>
    samplesOf(
      k,
      new MemorySource(
        new Uint8Array(
          readFileSync(
            path.join(
              dir,
              readdirSync(dir).find((f) => f === name)!,
            ),
          ),
        ),
      ),
    );
  const wide = await read('SP_Wide_T01.wav');
  const gapsOf = (id: string): TakeGap[] => tracks.find((t) => t.id === id)!.takes[0]!.gaps ?? [];
  const lost = (gaps: readonly TakeGap[], i: number) => gaps.some((g) => i >= g.at && i < g.at + g.frames);
  for (let i = 0; i < 6; i++) {
    const [mono] = await read(`SP_Mono${i + 1}_T01.wav`);
    expect(mono!.length).toBe(wide[i]!.length);
    const holes = [...gapsOf('wide'), ...gapsOf(`mono${i}`)];
    const other = mono!.findIndex((v, at) => v !== wide[i]![at] && !lost(holes, at));
    expect(other, `line ${i + 1}`).toBe(-1);
    expect(tracks.find((t) => t.id === `mono${i}`)!.takes[0]!.faults).toBeUndefined();
  }
  await editFrom(
    page,
    server.url,
    ...['wide', ...Array.from({ length: 6 }, (_, i) => `mono${i}`)].map((track): EditJson => ({
      type: 'seatTrack',
      track,
      armed: false,
    })),
  );
  // More than twenty seconds are held: nine are no reason to lose anything, unless the machine is busy besides.
  const lostSeconds = gapsOf('wide').reduce((sum, g) => sum + g.frames, 0) / 48_000;
  expect(lostSeconds).toBeLessThan(9);
});

test('longer than anything is held: the gap is told in the message, the list and the file', async ({
  page,
  server,
}) => {
  test.setTimeout(300_000);
  await open(page, server.url, 'lineup');
  await switchOnLines(page);
  await go(page, 'floor');
  await page.getByRole('button', { name: 'Arm Pilot', exact: true }).click();
  const takes = async () =>
    (await docOf(page, server.url)).tracks.find((t) => t.id === 'pilot')!.takes.filter((k) => !k.imported);
  const before = (await takes()).length;
  await recordFor(page, 2);
  for (const w of page.workers()) await w.evaluate(held, 40_000);
  await expect(page.getByText(/held up and sound was lost/).first()).toBeVisible({ timeout: 120_000 });
  await page.getByRole('button', { name: 'Stop recording' }).click();
  await expect.poll(async () => (await takes()).length, { timeout: 120_000 }).toBe(before + 1);
  const take = (await takes()).at(-1);
  expect(take!.gaps).toHaveLength(1);
  expect(take!.gaps![0]!.frames / 48_000).toBeGreaterThan(1);
  await page.getByRole('radio', { name: 'Takes', exact: true }).click();
  await page
    .locator('[data-row=pilot]')
    .getByRole('button', { name: /^Pilot/ })
    .click();
  await expect(page.getByText(/sound missing, [\d.]+ s at/)).toBeVisible();
});
