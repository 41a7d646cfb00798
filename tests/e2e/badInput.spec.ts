import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { DATA_OFFSET, wavHeader } from '@/core/files';
import { docOf, expect, open, test } from './support/studio';

test('a file of many megabytes arrives whole', async ({ request, server }) => {
  const frames = 12_000_000;
  const file = Buffer.alloc(DATA_OFFSET + frames * 3, 7);
  file.set(wavHeader({ format: 24, channels: 1, sampleRate: 48_000, frames, mask: 4 }));
  const answer = await request.post(`${server.url}/api/sessions/lamp/media?name=Long.wav`, { data: file });
  expect(await answer.json()).toMatchObject({ media: { frames }, notes: [] });
});

test.describe('bad input is answered clearly and loses nothing', () => {
  test('requests', async ({ request, server }) => {
    const url = (path: string) => `${server.url}/api/${path}`;
    const session = async (): Promise<number> =>
      ((await (await request.get(url('sessions/lamp'))).json()) as { revision: number }).revision;
    const before = await session();
    const said = async (response: Awaited<ReturnType<typeof request.get>>, status: number, message: RegExp) => {
      expect(response.status()).toBe(status);
      expect(((await response.json()) as { message: string }).message).toMatch(message);
    };
    await said(await request.get(url('sessions/nothing')), 404, /no session "nothing"/);
    await said(
      await request.post(url('sessions/lamp/edits'), {
        data: { id: 'x1', base: 0, edits: [{ type: 'setTrack', track: 'pilot', level: 900 }] },
      }),
      422,
      /level goes from -100 to 24 dB, not to 900/,
    );
    await said(
      await request.post(url('sessions/lamp/edits'), { data: { id: 'x2', base: 0, edits: [{ type: 'explode' }] } }),
      422,
      /no edit "explode"/,
    );
    await said(await request.post(url('sessions/lamp/edits'), { data: { edits: 'all' } }), 400, /nothing was changed/);
    await said(
      await request.post(url('sessions/lamp/edits'), {
        data: 'no json',
        headers: { 'Content-Type': 'application/json' },
      }),
      400,
      /JSON|holds/,
    );
    // One good and one bad edit: neither is applied.
    await said(
      await request.post(url('sessions/lamp/edits'), {
        data: {
          id: 'x3',
          base: 0,
          edits: [
            { type: 'setRange', start: 0, end: 9 },
            { type: 'setRange', start: 9, end: 0 },
          ],
        },
      }),
      422,
      /end must not be less than 1|must end after/,
    );
    await said(
      await request.post(url('sessions/lamp/media?name=letter.wav'), {
        data: Buffer.from('Dear engineer, this is a letter.'),
      }),
      422,
      /no sound that could be read/,
    );
    await said(
      await request.post(url('sessions'), {
        data: {
          name: '',
          code: 'A B',
          sampleRate: 1,
          wordLength: 12,
          frameRate: '25',
          startTimecode: '25:00:00:00',
          layout: '5.1',
        },
      }),
      422,
      /name: .*code: /,
    );
    await said(
      await request.put(url('recordings/none/chunks/processed?offset=0'), { data: Buffer.alloc(3) }),
      404,
      /no recording "none"/,
    );
    await said(await request.get(url('prints/none/archive')), 404, /no print "none"/);
    await said(
      await request.post(url('sessions/lamp/blocks'), { data: { items: [{ media: 'none', from: 0, frames: 10 }] } }),
      404,
      /no file "none"/,
    );
    await said(
      await request.post(url('sessions/lamp/history'), { data: { direction: 'redo' } }),
      409,
      /nothing to redo/,
    );
    expect(await session()).toBe(before);
  });

  test('a chunk at a wrong offset: what is there is kept, and the right offset is told', async ({
    request,
    server,
  }) => {
    const url = (path: string) => `${server.url}/api/${path}`;
    const begun = await request.post(url('sessions/lamp/recordings'), {
      data: { id: 'wrong-offset', track: 'pilot', start: 0, chains: [[]] },
    });
    expect(begun.status()).toBe(201);
    const chunk = Buffer.alloc(3000, 1);
    const put = (part: string, offset: number, data = chunk) =>
      request.put(url(`recordings/wrong-offset/chunks/${part}?offset=${offset}`), { data });
    expect((await put('processed', 0)).status()).toBe(200);
    const gap = await put('processed', 6000);
    expect(gap.status()).toBe(409);
    expect(await gap.json()).toMatchObject({ expected: 3000 });
    expect((await put('processed', 1)).status()).toBe(422);
    expect((await put('wet', 0)).status()).toBe(404);
    // A repeated chunk does no harm.
    expect(await (await put('processed', 0)).json()).toEqual({ received: 3000 });
    const early = await request.post(url('recordings/wrong-offset/finish'), { data: { frames: 1000 } });
    expect(early.status()).toBe(409);
    expect((await early.json()).message).toMatch(/still missing/);
    await put('dry', 0);
    expect((await request.post(url('recordings/wrong-offset/finish'), { data: { frames: 1000 } })).status()).toBe(200);
    expect((await put('processed', 3000)).status()).toBe(409);
  });

  test('the same edit sent twice is applied once', async ({ request, server }) => {
    const send = () =>
      request.post(`${server.url}/api/sessions/lamp/edits`, {
        data: {
          id: 'twice',
          base: 0,
          edits: [{ type: 'addTrack', id: 'twice', name: 'Twice', layout: 'mono', destination: null }],
        },
      });
    const first = await (await send()).json();
    expect((await (await send()).json()).revision).toBe(first.revision);
  });

  test('other names and sites are not answered', async ({ request, server }) => {
    expect((await request.get(`${server.url}/api/sessions`, { headers: { Host: 'elsewhere.example' } })).status()).toBe(
      421,
    );
    expect(
      (
        await request.post(`${server.url}/api/sessions`, { headers: { Origin: 'http://elsewhere.example' }, data: {} })
      ).status(),
    ).toBe(403);
  });

  test('in the interface: an unknown session, a file that is no audio, a timecode that does not exist', async ({
    page,
    server,
  }) => {
    await page.goto(`${server.url}/s/nothing/brief`);
    await expect(page.getByText('no session "nothing"')).toBeVisible();
    await expect(page.getByRole('button', { name: 'Open the newest session' })).toBeVisible();
    await open(page, server.url, 'floor');
    await page
      .getByTestId('import')
      .setInputFiles({ name: 'letter.wav', mimeType: 'audio/wav', buffer: Buffer.from('Dear engineer') });
    await expect(page.getByText(/letter.wav: .*holds no sound that could be read/)).toBeVisible();
    await page.getByLabel('Locate').fill('10:00:00:99');
    await page.keyboard.press('Enter');
    await expect(page.getByText(/frames count from 00 to 24/)).toBeVisible();
    await expect(page.getByLabel('Locate')).toHaveValue('10:00:00:00');
  });
});

test('a picture that the browser cannot play is told, with what to do, and never takes the place of one that plays', async ({
  page,
  server,
}) => {
  const dir = mkdtempSync(path.join(tmpdir(), 'wide-room-'));
  const file = path.join(dir, 'old-codec.mp4');
  const made = ['-f', 'lavfi', '-i', 'testsrc=d=1:s=320x180:r=25', '-c:v', 'mpeg4', file];
  execFileSync('ffmpeg', ['-v', 'error', ...made]);
  await open(page, server.url, 'floor');
  const frame = () => page.evaluate(() => document.querySelector('video')!.videoWidth);
  await expect.poll(frame).toBeGreaterThan(0);
  await page.getByRole('button', { name: 'Picture settings' }).click();
  const before = (await docOf(page, server.url)).picture;
  await page.getByLabel('Picture file').setInputFiles(file);
  await expect(page.getByText(/cannot show it.*H\.264 or VP9.*What was shown before stays/)).toBeVisible();
  expect((await docOf(page, server.url)).picture).toEqual(before);
  expect(await frame()).toBeGreaterThan(0);
  await page.keyboard.press('Escape');
  rmSync(dir, { recursive: true });
});

test('a picture stands where its timecode says, its rate is a check, and its sound comes in on request', async ({
  page,
  server,
}) => {
  const dir = mkdtempSync(path.join(tmpdir(), 'wide-room-'));
  const file = path.join(dir, 'harbour.mp4');
  const sources = ['testsrc=d=4:s=320x180:r=24', 'sine=frequency=440:sample_rate=44100:duration=4'];
  const made = ['-c:v', 'libx264', '-pix_fmt', 'yuv420p', '-c:a', 'aac', '-timecode', '10:00:05:00', file];
  execFileSync('ffmpeg', ['-v', 'error', ...sources.flatMap((s) => ['-f', 'lavfi', '-i', s]), ...made]);
  await open(page, server.url, 'floor');
  await page.getByRole('button', { name: 'Picture settings' }).click();
  await page.getByLabel('Picture file').setInputFiles(file);
  await expect(page.getByText(/harbour.mp4 is the picture now. It begins at 10:00:05:00, as its own/)).toBeVisible();
  const picture = async () => (await docOf(page, server.url)).picture;
  expect(await picture()).toMatchObject({ start: 5 * 48_000, rate: '24/1', timecode: '10:00:05:00', sound: true });
  // Outside of it there is nothing to be seen.
  await expect(page.locator('video')).toHaveCSS('visibility', 'hidden');
  await page.getByRole('button', { name: 'Bring its sound in' }).click();
  const asked = page.getByRole('dialog', { name: 'Another sample rate' });
  await expect(asked).toContainText('44.1 kHz');
  await asked.getByRole('button', { name: 'Convert it' }).click();
  const sound = async () => (await docOf(page, server.url)).tracks.find((t) => t.name === 'harbour sound');
  await expect.poll(async () => (await sound())?.clips[0]?.start, { timeout: 30_000 }).toBe(5 * 48_000);
  // A first frame that is typed keeps what the file says.
  await page.getByRole('button', { name: 'Picture settings' }).click();
  await page.getByLabel('First frame of the picture').fill('10:00:00:00');
  await page.keyboard.press('Enter');
  await expect.poll(picture).toMatchObject({ start: 0, rate: '24/1' });
  await expect(page.locator('video')).toHaveCSS('visibility', 'visible');
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: /checks?$/ }).click();
  await page.getByRole('button', { name: 'Count 24 fps' }).click();
  await expect.poll(async () => (await docOf(page, server.url)).format.frameRate).toBe('24');
  rmSync(dir, { recursive: true });
});
