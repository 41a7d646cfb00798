// What is heard is what is printed: the worklet in Chromium and the print in Node give the same samples.
import { readFileSync } from 'node:fs';
import path from 'node:path';
import type { Page } from '@playwright/test';
import type { EditJson, LaneTarget } from '@/core/session';
import { DATA_OFFSET, FrameCodec } from '@/core/files';
import { newKernels, put } from '../support/kernels';
import type { TestServer } from './support/server';
import { editFrom, expect, open, rolls, test } from './support/studio';

const SECONDS = 4;
const FRAMES = SECONDS * 48000;

interface Heard {
  wideRoom: { capture(node: string, frames: number): Promise<Float32Array[]> };
  captured: Promise<string[]>;
}

/** Catches so many samples of a node from now on, or from where sound begins. */
const beginCapture = (page: Page, node: string, frames: number): Promise<void> =>
  page.evaluate(
    ([id, n]) => {
      const w = window as unknown as Heard;
      // As text, since a million numbers take long to pass over one by one.
      const text = (samples: Float32Array) => {
        const bytes = new Uint8Array(samples.buffer, samples.byteOffset, samples.byteLength);
        let all = '';
        for (let i = 0; i < bytes.length; i += 32768) all += String.fromCharCode(...bytes.subarray(i, i + 32768));
        return btoa(all);
      };
      w.captured = w.wideRoom.capture(id, n).then((channels) => channels.map(text));
    },
    [node, frames] as const,
  );

async function captured(page: Page): Promise<Float32Array[]> {
  const texts = await page.evaluate(() => (window as unknown as Heard).captured);
  return texts.map((text) => new Float32Array(Uint8Array.from(Buffer.from(text, 'base64')).buffer));
}

/** Sound starts with the first play. */
async function soundOn(page: Page): Promise<void> {
  await page.getByRole('button', { name: 'Play' }).click();
  await rolls(page, 'playing');
  await page.getByRole('button', { name: 'Stop' }).click();
  await rolls(page, 'stopped');
}

/** So many samples of a node from the start of the range on. */
async function heardFromStart(page: Page, node: string, frames: number): Promise<Float32Array[]> {
  await page.getByRole('button', { name: 'To the start' }).click();
  await beginCapture(page, node, frames);
  await page.getByRole('button', { name: 'Play' }).click();
  await rolls(page, 'playing');
  const sound = await captured(page);
  await page.getByRole('button', { name: 'Stop' }).click();
  await rolls(page, 'stopped');
  return sound;
}

/** Prints the session up to a sample; the bytes of the reference. */
async function printedReference(page: Page, server: TestServer, end: number): Promise<Buffer> {
  await editFrom(page, server.url, { type: 'setRange', start: 0, end });
  const begun = await page.request.post(`${server.url}/api/sessions/lamp/prints`, { data: { knowingly: true } });
  const { id, version } = (await begun.json()) as { id: string; version: number };
  await expect
    .poll(async () => (await (await page.request.get(`${server.url}/api/prints/${id}`)).json()).state, {
      timeout: 120_000,
    })
    .toBe('done');
  const v = `v${String(version).padStart(2, '0')}`;
  return readFileSync(path.join(server.data, 'sessions/lamp/prints', v, `SP_REF_51_100000_${v}.wav`));
}

const bytesOf = (samples: Float32Array): Buffer => Buffer.from(samples.buffer, samples.byteOffset, samples.byteLength);

/** Samples as a file of 24 bits holds them. */
function encoded(channels: readonly Float32Array[]): Buffer {
  const k = newKernels();
  const codec = new FrameCodec(k, 24, channels.length, channels[0]!.length);
  return Buffer.from(codec.encode(put(k, channels).table, channels[0]!.length).bytes);
}

test('live and printed sound are bit-identical', async ({ page, server }) => {
  await open(page, server.url, 'flow');
  // A limiter that works, so that more than sums is compared.
  await page.getByRole('button', { name: 'Bus Narration' }).click();
  await page.getByRole('button', { name: 'Stage' }).click();
  await page.getByRole('menuitem', { name: 'Limiter' }).click();
  await page.locator('[data-stage=limiter] button[aria-expanded]').click();
  await page.getByRole('spinbutton', { name: /Ceiling/ }).focus();
  await page.keyboard.press('Enter');
  await page.keyboard.type('-16');
  await page.keyboard.press('Enter');
  await expect(page.locator('[data-stage=limiter]')).toContainText('-16 dBFS');

  // Sound starts with the first play; then the reference is captured from the very first sample.
  const play = async () => {
    await page.getByRole('button', { name: 'Play' }).click();
    await rolls(page, 'playing');
  };
  await play();
  await page.getByRole('button', { name: 'Stop' }).click();
  await rolls(page, 'stopped');
  await page.getByRole('button', { name: 'To the start' }).click();
  await beginCapture(page, 'ref', FRAMES);
  await play();
  const live = await captured(page);
  await page.getByRole('button', { name: 'Stop' }).click();

  // As much as was heard is enough to compare.
  const file = await printedReference(page, server, FRAMES);

  // The reference comes 71 samples late (the limiter); the print has taken that out.
  const late = 71;
  const frames = FRAMES - late;
  const heard = encoded(live.map((c) => c.slice(late)));
  const disk = file.subarray(DATA_OFFSET, DATA_OFFSET + frames * 18);
  expect(live[2]!.reduce((top, v) => Math.max(top, Math.abs(v)), 0)).toBeGreaterThan(0.05);
  expect(Buffer.compare(heard, disk)).toBe(0);
});

test('what is changed while it plays is heard as if it had always been so', async ({ page, server }) => {
  test.setTimeout(200_000);
  const { url } = server;
  await open(page, url, 'flow');
  await page.getByRole('button', { name: 'Play' }).click();
  await rolls(page, 'playing');
  // A destination, an arming, a limiter, stems limited together, sends to a return, a bus removed and brought back.
  await editFrom(page, url, { type: 'sendTracks', tracks: ['gulls'], destination: 'mus' });
  await editFrom(page, url, { type: 'seatTrack', track: 'pilot', armed: true });
  await editFrom(page, url, { type: 'addStage', owner: { kind: 'bus', id: 'amb' }, id: 'amb-lim', stage: 'limiter' });
  await editFrom(page, url, {
    type: 'setReference',
    bus: 'ref',
    linked: { on: true, ceiling: -1, release: 80, peaks: 'sample' },
  });
  await editFrom(
    page,
    url,
    { type: 'addTracks', tracks: [{ id: 'quay', name: 'Quay', layout: '5.1', kind: 'return', destination: 'amb' }] },
    { type: 'addStage', owner: { kind: 'bus', id: 'quay' }, id: 'quay-late', stage: 'delay' },
    { type: 'addSend', owner: 'surf', id: 'surf-quay', to: 'quay', level: -6 },
    { type: 'addSend', owner: 'wind', id: 'wind-quay', to: 'quay', level: -9, tap: 'before' },
    { type: 'setBus', bus: 'quay', rooms: 'each stem' },
  );
  // A level, a place and a send that follow the timeline.
  const follow = (target: LaneTarget, from: number, to: number): EditJson => ({
    type: 'writeLane',
    target,
    from: 0,
    to: 60 * 48_000,
    points: [
      { at: 0, value: from, shape: 'line' },
      { at: 60 * 48_000, value: to, shape: 'smooth' },
    ],
  });
  await editFrom(
    page,
    url,
    follow({ node: 'surf', param: 'level' }, -18, 3),
    follow({ node: 'gulls', param: 'azimuth' }, -170, 170),
    follow({ node: 'wind', send: 'wind-quay', param: 'level' }, -30, 0),
    follow({ node: 'amb', param: 'level' }, 0, -12),
  );
  await editFrom(page, url, { type: 'removeBus', bus: 'efx' });
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByRole('button', { name: 'Bus Effects' })).toBeVisible();
  await editFrom(page, url, { type: 'seatTrack', track: 'pilot', armed: false });
  await expect(page.getByRole('button', { name: 'Bus Quay' })).toBeVisible();
  // Once what the delays hold has passed.
  const position = async () =>
    Number(
      await page
        .getByLabel('Timecode')
        .inputValue()
        .then((t) => t.slice(6, 8)),
    );
  const changed = await position();
  await expect.poll(position).toBeGreaterThan(changed + 2);
  await beginCapture(page, 'ref', 48_000);
  const heard = encoded(await captured(page));
  const end = ((await position()) + 5) * 48_000;
  await page.getByRole('button', { name: 'Stop', exact: true }).click();
  const file = await printedReference(page, server, end);
  // The very samples stand somewhere in the printed file.
  const at = file.indexOf(heard, DATA_OFFSET);
  expect(at).toBeGreaterThan(0);
  expect((at - DATA_OFFSET) % 18).toBe(0);
});

test('a frozen track gives the same bits, and gives way to its chain when that is changed while it plays', async ({
  page,
  server,
}) => {
  test.setTimeout(120_000);
  const { url } = server;
  await open(page, url, 'flow');
  await page.getByRole('button', { name: 'Track Surf' }).click();
  const surf = { kind: 'track', id: 'surf' } as const;
  await editFrom(
    page,
    url,
    { type: 'addStage', owner: surf, id: 'surf-comp', stage: 'compressor' },
    { type: 'switchStage', owner: surf, stage: 'surf-comp', on: true },
    { type: 'addStage', owner: surf, id: 'surf-lim', stage: 'limiter' },
  );
  const fromTheStart = () => heardFromStart(page, 'surf', 96_000);
  await soundOn(page);
  const thawed = await fromTheStart();
  await page.getByRole('button', { name: 'Freeze', exact: true }).click();
  await expect(page.getByText('plays from its file')).toBeVisible();
  const frozen = await fromTheStart();
  // The limiter looks ahead by 71 samples, which the file has taken out.
  const late = 71;
  expect(thawed[0]!.reduce((top, v) => Math.max(top, Math.abs(v)), 0)).toBeGreaterThan(0.01);
  for (const [c, sound] of thawed.entries())
    expect(
      sound.slice(late).every((v, n) => v === frozen[c]![n]),
      `channel ${c + 1}`,
    ).toBe(true);

  // Its chain is changed while it plays: it goes on with that, and says so.
  await page.getByRole('button', { name: 'Play' }).click();
  await rolls(page, 'playing');
  await editFrom(page, url, { type: 'switchStage', owner: surf, stage: 'surf-comp', on: false });
  await expect(page.getByText('changed since')).toBeVisible();
  await rolls(page, 'playing');
  await page.getByRole('button', { name: 'Stop' }).click();
  await rolls(page, 'stopped');
  const changed = await fromTheStart();
  expect(changed[0]!.some((v, n) => v !== thawed[0]![n])).toBe(true);
  await page.getByRole('button', { name: 'Thaw', exact: true }).click();
  await expect(page.getByRole('button', { name: 'Freeze', exact: true })).toBeVisible();
  expect(await fromTheStart()).toEqual(changed);
});

test('a frozen stem gives the same bits, from its file, and gives way while one of its sources is soloed', async ({
  page,
  server,
}) => {
  test.setTimeout(120_000);
  const { url } = server;
  await open(page, url, 'flow');
  await page.getByRole('button', { name: 'Bus Ambience', exact: true }).click();
  const details = page.getByRole('region', { name: 'Selected bus' });
  await editFrom(page, url, { type: 'setBus', bus: 'amb', trim: -2 });
  const fromTheStart = () => heardFromStart(page, 'amb', 48_000);
  await soundOn(page);
  const thawed = await fromTheStart();
  await details.getByRole('button', { name: 'Freeze', exact: true }).click();
  await expect(details.getByText(/^being made, \d+ %$/)).toBeVisible();
  await expect(details.getByText('plays from its file')).toBeVisible({ timeout: 60_000 });
  const frozen = await fromTheStart();
  expect(thawed[0]!.some((v) => Math.abs(v) > 1e-3)).toBe(true);
  // What looks ahead on the way is taken out of the file.
  const late = Array.from({ length: 400 }, (_, lag) => lag).find((lag) =>
    thawed[0]!.slice(lag).every((v, n) => v === frozen[0]![n]),
  );
  expect(late).toBeDefined();
  for (const [c, sound] of thawed.entries())
    expect(Buffer.compare(bytesOf(sound.slice(late)), bytesOf(frozen[c]!.slice(0, sound.length - late!))), `${c}`).toBe(
      0,
    );
  await page.getByRole('button', { name: 'Track Surf' }).click();
  await expect(page.getByText('within Ambience')).toBeVisible();

  // Soloed, a source is heard alone: the file holds the others as well.
  await page.getByRole('button', { name: 'Play' }).click();
  await rolls(page, 'playing');
  await page.getByRole('button', { name: 'Track Gulls' }).click();
  await page.getByRole('button', { name: 'Solo Gulls' }).click();
  await rolls(page, 'playing');
  await page.getByRole('button', { name: 'Stop' }).click();
  await rolls(page, 'stopped');
  // Gulls come in after five seconds; the surf of before them is not in what is heard.
  const soloed = await fromTheStart();
  expect(soloed[0]!.every((v) => v === 0)).toBe(true);
});
