// What is heard is what is printed: the worklet in Chromium and the print in Node give the same samples.
import { readFileSync } from 'node:fs';
import path from 'node:path';
import { DATA_OFFSET, FrameCodec } from '@/core/files';
import { newKernels, put } from '../support/kernels';
import { expect, open, rolls, test } from './support/studio';

const SECONDS = 4;
const FRAMES = SECONDS * 48000;

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
  await page.evaluate(
    ([frames]) => {
      const w = window as unknown as {
        wideRoom: { capture(node: string, frames: number): Promise<Float32Array[]> };
        captured: Promise<string[]>;
      };
      // As text, since a million numbers take long to pass over one by one.
      const text = (samples: Float32Array) => {
        const bytes = new Uint8Array(samples.buffer, samples.byteOffset, samples.byteLength);
        let all = '';
        for (let i = 0; i < bytes.length; i += 32768) all += String.fromCharCode(...bytes.subarray(i, i + 32768));
        return btoa(all);
      };
      w.captured = w.wideRoom.capture('ref', frames!).then((channels) => channels.map(text));
    },
    [FRAMES],
  );
  await play();
  const captured = await page.evaluate(() => (window as unknown as { captured: Promise<string[]> }).captured);
  const live = captured.map((text) => {
    const bytes = Uint8Array.from(Buffer.from(text, 'base64'));
    return new Float32Array(bytes.buffer);
  });
  await page.getByRole('button', { name: 'Stop' }).click();

  // As much as was heard is enough to compare.
  const edits = [{ type: 'setRange', start: 0, end: FRAMES }];
  await page.request.post(`${server.url}/api/sessions/lamp/edits`, { data: { id: 'range-1', base: 0, edits } });
  const printed = await page.request.post(`${server.url}/api/sessions/lamp/prints`, { data: { knowingly: true } });
  const { id } = await printed.json();
  await expect
    .poll(async () => (await (await page.request.get(`${server.url}/api/prints/${id}`)).json()).state, {
      timeout: 120_000,
    })
    .toBe('done');
  const file = readFileSync(path.join(server.data, 'sessions/lamp/prints/v01/SP_REF_51_100000_v01.wav'));

  // The reference comes 71 samples late (the limiter); the print has taken that out.
  const late = 71;
  const k = newKernels();
  const codec = new FrameCodec(k, 24, 6, FRAMES);
  const set = put(
    k,
    live.map((c) => c.slice(late)),
  );
  const frames = FRAMES - late;
  const heard = codec.encode(set.table, frames).bytes;
  const disk = file.subarray(DATA_OFFSET, DATA_OFFSET + frames * 18);
  expect(live[2]!.reduce((top, v) => Math.max(top, Math.abs(v)), 0)).toBeGreaterThan(0.05);
  expect(Buffer.compare(Buffer.from(heard), disk)).toBe(0);
});
