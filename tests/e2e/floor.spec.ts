// Recording to the script, punching, looping, many channels, and choosing among takes, in the real interface.
import { readFileSync } from 'node:fs';
import path from 'node:path';
import type { Page } from '@playwright/test';
import { parseWav } from '@/core/files';
import { samplesOf as samplesIn } from '../support/files';
import { newKernels } from '../support/kernels';
import {
  docOf,
  editFrom,
  expect,
  go,
  open,
  recorded,
  recordedOn,
  rolls,
  safe,
  switchOnDevice,
  switchOnLines,
  test,
} from './support/studio';
import { largestBreak } from './support/tone';
import { MemorySource } from '../support/memorySource';

const RATE = 48_000;
const HANDLE = RATE / 4;
const k = newKernels();
const CUES = [4, 8, 12, 16, 20].map((s, i) => ({ number: i + 1, start: s * RATE, end: Math.round((s + 0.4) * RATE) }));
const timecode = (samples: number) => {
  const frames = Math.round((samples / RATE) * 25);
  return `10:00:${String(Math.floor(frames / 25)).padStart(2, '0')}:${String(frames % 25).padStart(2, '0')}`;
};
const LIST = [
  'number,in,out,character,text',
  ...CUES.map((c) => `${c.number},${timecode(c.start)},${timecode(c.end)},Pilot,Line ${c.number}`),
].join('\n');

const mode = async (page: Page, name: string) => {
  await page.getByRole('combobox', { name: 'What the record key records' }).click();
  await page.getByRole('option', { name }).click();
};

/** Planar samples of a file of the session. */
const samplesOf = (data: string, file: string): Promise<Float32Array[]> =>
  samplesIn(k, new MemorySource(new Uint8Array(readFileSync(path.join(data, 'sessions/lamp/media', file)))));

test('five cues, three takes each: recorded to the script, circled, comped, nudged, and there after a reload', async ({
  page,
  server,
}) => {
  test.setTimeout(240_000);
  const { url, data } = server;
  await open(page, url, 'floor');
  await editFrom(
    page,
    url,
    { type: 'setSession', preRoll: 0.3, postRoll: 0 },
    // Beeps are counted in the tests of the plan; here they would only take time.
    { type: 'setWork', beeps: false },
    { type: 'seatTrack', track: 'pilot', hearing: 'never' },
  );

  await test.step('a script takes the place of the old one', async () => {
    await page.getByRole('button', { name: 'Bring in a script' }).click();
    await page.getByRole('textbox', { name: 'Script', exact: true }).fill(LIST);
    await expect(page.getByRole('button', { name: 'Add 5 cues' })).toBeEnabled();
    await page.getByRole('button', { name: 'In the place of the script' }).click();
    await expect(page.locator('[data-cue]')).toHaveCount(5);
  });

  await switchOnLines(page);
  await go(page, 'floor');
  await page.getByRole('button', { name: 'Arm Pilot', exact: true }).click();
  await expect(page.getByText('signal', { exact: true })).toBeVisible();
  await mode(page, 'the cue');
  // However much the roll bar has to say, the page is no wider than the window.
  expect(
    await page.evaluate(() => [document.documentElement.scrollWidth, document.querySelector('footer')!.scrollWidth]),
  ).toEqual([1280, 1280]);
  await page.locator('[data-cue="1"] button').first().click();

  await test.step('each take is one key: it begins, ends and is kept by itself', async () => {
    for (const cue of CUES) {
      await expect(page.locator(`[data-cue="${cue.number}"][aria-current="true"]`)).toBeVisible();
      for (let take = 1; take <= 3; take++) {
        await page.keyboard.press('r');
        await rolls(page, 'recording');
        await rolls(page, 'stopped');
        await expect(page.locator(`[data-cue="${cue.number}"]`)).toContainText(`${take} take`);
      }
      await page.keyboard.press('c');
      await expect(page.locator(`[data-cue="${cue.number}"]`)).toHaveAttribute('data-state', 'circled');
      await page.keyboard.press('n');
    }
  });

  await test.step('every take stands on its cue to the sample, with sound around it for crossfades', async () => {
    const doc = await docOf(page, url);
    const pilot = recordedOn(doc, 'pilot');
    expect(pilot.takes).toHaveLength(15);
    for (const [i, take] of pilot.takes.entries()) {
      const cue = CUES[Math.floor(i / 3)]!;
      expect(take).toMatchObject({
        number: i + 1,
        start: cue.start - HANDLE,
        length: cue.end - cue.start + 2 * HANDLE,
      });
      expect(doc.cues.find((c) => c.id === take.cue)!.number).toBe(String(cue.number));
      expect(take.circled ?? false).toBe(i % 3 === 2);
      const clip = pilot.clips.find((c) => c.media === take.media);
      if (i % 3 === 2) expect(clip).toMatchObject({ start: cue.start, offset: HANDLE, length: cue.end - cue.start });
      else expect(clip).toBeUndefined();
    }
    const first = await parseWav(
      new MemorySource(
        new Uint8Array(readFileSync(path.join(data, 'sessions/lamp/media', doc.media[pilot.takes[0].media]!.name))),
      ),
    );
    expect(first.bext!.timeReference).toBe(36_000 * RATE + CUES[0]!.start - HANDLE);
  });

  const canvas = page.getByTestId('clips');
  const inLast = (c: { start: number }) => c.start >= CUES[4]!.start && c.start < CUES[4]!.end;
  const pilotClips = async () => (await docOf(page, url)).tracks.find((t) => t.id === 'pilot')!.clips;
  await test.step('a part of the second take is drawn into the comp, with crossfades at both joints', async () => {
    await page.locator('[data-cue="5"] button').first().click();
    for (let i = 0; i < 8; i++) await page.keyboard.press('=');
    await page.getByRole('button', { name: /^Choose cue 5, take 2 of Pilot/ }).click();
    const row = (await page.locator('[data-take-row="14"]').boundingBox())!;
    const head = (await page.getByTestId('playhead').boundingBox())!;
    // The playhead stands at the start of the cue.
    await page.mouse.move(head.x + 30, row.y + 12);
    await page.mouse.down();
    await page.mouse.move(head.x + 60, row.y + 12, { steps: 4 });
    await page.mouse.move(head.x + 90, row.y + 12, { steps: 4 });
    await page.mouse.up();
    await expect.poll(async () => (await pilotClips()).filter(inLast).length).toBe(3);
    const { takes } = recordedOn(await docOf(page, url), 'pilot');
    const [left, chosen, right] = (await pilotClips()).filter(inLast);
    expect([left, chosen, right].map((c) => takes.find((t) => t.media === c!.media)!.number)).toEqual([15, 14, 15]);
    expect([chosen!.joint?.frames, right!.joint?.frames]).toEqual([480, 480]);
    expect([chosen!.start, right!.start]).toEqual([left!.start + left!.length, chosen!.start + chosen!.length]);
    // All of it lies in time where it was spoken.
    for (const c of [left, chosen, right]) expect(c!.start - c!.offset).toBe(CUES[4]!.start - HANDLE);
  });

  await test.step('a clip is nudged by a frame and a millisecond', async () => {
    const before = (await pilotClips()).find((c) => c.start === CUES[3]!.start)!;
    await page.locator('[data-cue="4"] button').first().click();
    await page.keyboard.press('f');
    for (let i = 0; i < 8; i++) await page.keyboard.press('=');
    const head = (await page.getByTestId('playhead').boundingBox())!;
    const box = (await canvas.boundingBox())!;
    const row = (await page.locator('[data-row="pilot"]').boundingBox())!;
    await page.mouse.click(Math.max(box.x, head.x) + 40, row.y + 24);
    await expect(page.getByRole('region', { name: 'Clip', exact: true })).toContainText('Pilot');
    await page.keyboard.press('ArrowRight');
    await page.keyboard.press('Shift+ArrowRight');
    await expect
      .poll(async () => (await pilotClips()).find((c) => c.id === before.id)!.start)
      .toBe(before.start + 1920 + 48);
  });

  await test.step('all of it is there after a reload', async () => {
    const before = await docOf(page, url);
    await page.reload();
    await page.waitForSelector('[data-roll]');
    expect(await docOf(page, url)).toEqual(before);
    // The desk is as it was left: with what is told of clips.
    await page.getByRole('radio', { name: 'Script' }).click();
    await expect(page.locator('[data-state="circled"]')).toHaveCount(5);
  });
  await page.getByRole('button', { name: 'Arm Pilot', exact: true }).click();
});

test('punched by hand and by stretch: exact, and what was there goes on around it', async ({ page, server }) => {
  test.setTimeout(120_000);
  const { url } = server;
  await open(page, url, 'lineup');
  await switchOnLines(page);
  await go(page, 'floor');
  await editFrom(
    page,
    url,
    { type: 'setSession', preRoll: 0.5, postRoll: 0.3 },
    { type: 'seatTrack', track: 'narrator', armed: true },
  );
  await page.getByLabel('Locate').fill('10:00:21:00');
  await page.keyboard.press('Enter');
  await expect(page.getByText('signal', { exact: true })).toBeVisible();
  const narrator = async () => recordedOn(await docOf(page, url), 'narrator');
  const before = await narrator();

  await test.step('in and out while playing', async () => {
    await page.getByRole('button', { name: 'Play' }).click();
    await rolls(page, 'playing');
    await page.waitForFunction(
      () =>
        Number(
          /10:00:2(\d)/.exec((document.querySelector('[aria-label=Timecode]') as HTMLInputElement)?.value)?.[1] ?? 0,
        ) >= 2,
    );
    await page.keyboard.press('r');
    await rolls(page, 'recording');
    await recorded(page, 0.8);
    await page.keyboard.press('r');
    await rolls(page, 'playing');
    await expect.poll(async () => (await narrator()).takes.length).toBe(before.takes.length + 1);
    await page.keyboard.press(' ');
    await rolls(page, 'stopped');
    const { takes, clips } = await narrator();
    const take = takes.at(-1)!;
    // The long clip under it was cut at both ends, to the sample, and keeps its sound.
    const at = clips.findIndex((c) => c.media === take.media);
    const [left, fresh, right] = clips.slice(at - 1, at + 2);
    expect(fresh!.start).toBeGreaterThan(22 * RATE);
    expect(left!.start + left!.length).toBe(fresh!.start);
    expect(right!.start).toBe(fresh!.start + fresh!.length);
    // The take reaches beyond where one came in and went out: both joints are crossfades.
    expect(take.start).toBeLessThanOrEqual(fresh!.start - HANDLE);
    expect(take.start + take.length).toBeGreaterThanOrEqual(fresh!.start + fresh!.length + HANDLE);
    for (const clip of [fresh, right]) expect(clip!.joint!.frames).toBeGreaterThan(0);
    expect(right!.start - right!.offset).toBe(left!.start - left!.offset);
  });

  await test.step('exactly the chosen stretch, with pre-roll and post-roll', async () => {
    const ruler = (await page.getByTestId('ruler').boundingBox())!;
    await page.mouse.move(ruler.x + 380, ruler.y + 15);
    await page.mouse.down();
    await page.mouse.move(ruler.x + 386, ruler.y + 15, { steps: 3 });
    await page.mouse.up();
    await expect(page.getByTestId('stretch')).toBeVisible();
    await mode(page, 'the stretch');
    await page.keyboard.press('r');
    await rolls(page, 'recording');
    await rolls(page, 'stopped');
    await expect.poll(async () => (await narrator()).takes.length).toBe(before.takes.length + 2);
    const { takes, clips } = await narrator();
    const take = takes.at(-1)!;
    const clip = clips.find((c) => c.media === take.media)!;
    expect(clip.start % 1920).toBe(0);
    expect(take.start).toBe(clip.start - HANDLE);
    expect(take.length).toBe(clip.length + 2 * HANDLE);
  });
  await editFrom(page, url, { type: 'seatTrack', track: 'narrator', armed: false });
});

test('round and round: a take per round, without a sample between them', async ({ page, server }) => {
  test.setTimeout(120_000);
  const { url, data } = server;
  await open(page, url, 'lineup');
  await switchOnDevice(page, 'Networked console (stand-in)');
  await page.getByLabel('Patch by typing').fill('16 > Ropes');
  await page.getByRole('button', { name: 'Patch', exact: true }).click();
  await go(page, 'floor');
  await editFrom(
    page,
    url,
    { type: 'setLine', line: 'standin-console/16', record: 'dry' },
    { type: 'seatTrack', track: 'ropes', armed: true, hearing: 'never' },
    { type: 'setSession', preRoll: 0.3, postRoll: 0 },
    {
      type: 'addCues',
      cues: [{ id: 'loop', number: '99', start: 70 * RATE, end: 71.2 * RATE, character: '', text: 'Round' }],
    },
  );
  await page.locator('[data-cue="99"] button').first().click();
  await page.keyboard.press('u');
  await mode(page, 'round and round');
  await expect(page.getByText('signal', { exact: true })).toBeVisible();
  await page.keyboard.press('r');
  await rolls(page, 'recording');
  // The line is not heard, so whatever the track plays would be a take of an earlier round: three rounds are listened to.
  const played = page.evaluate(async () => {
    const { capture } = (
      globalThis as unknown as { wideRoom: { capture(node: string, frames: number): Promise<Float32Array[]> } }
    ).wideRoom;
    const [samples] = await capture('ropes', 160_000);
    return samples!.reduce((most, v) => Math.max(most, Math.abs(v)), 0);
  });
  const ropes = async () => recordedOn(await docOf(page, url), 'ropes');
  await expect.poll(async () => (await ropes()).takes.length, { timeout: 30_000 }).toBeGreaterThanOrEqual(3);
  expect(await played).toBe(0);
  await page.keyboard.press('r');
  await rolls(page, 'stopped');
  await expect(page.getByText('finishing take…')).toHaveCount(0);
  const doc = await docOf(page, url);
  const { takes } = await ropes();
  const whole = takes.slice(0, 3);
  for (const take of whole) expect(take).toMatchObject({ start: 70 * RATE, length: 1.2 * RATE });
  // A steady tone, recorded round after round: put together it is one unbroken tone.
  const rounds = await Promise.all(whole.map((t) => samplesOf(data, doc.media[t.media]!.name)));
  const together = Float32Array.from(rounds.flatMap((r) => [...r[0]!]));
  expect(largestBreak(together, 1000)).toBeLessThan(1e-5);
  await editFrom(page, url, { type: 'seatTrack', track: 'ropes', armed: false });
});

test('a link that is cut while recording costs no sample', async ({ page, server }) => {
  test.setTimeout(120_000);
  const { url, data } = server;
  await open(page, url, 'lineup');
  await switchOnDevice(page, 'Networked console (stand-in)');
  await editFrom(page, url, { type: 'seatTrack', track: 'ropes', armed: true });
  await go(page, 'floor');
  await mode(page, 'from the playhead');
  await page.getByLabel('Locate').fill('10:01:20:00');
  await page.keyboard.press('Enter');
  await expect(page.getByText('signal', { exact: true })).toBeVisible();
  const taken = recordedOn(await docOf(page, url), 'ropes').takes.length;
  await page.keyboard.press('r');
  await rolls(page, 'recording');
  await go(page, 'lineup');
  await page.getByRole('button', { name: '2 links, one clock' }).click();
  await page.getByRole('button', { name: 'Cut', exact: true }).first().click();
  await expect(page.getByText('First link is cut')).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(page.getByText(/One of the two links to Networked console/).first()).toBeVisible();
  await go(page, 'floor');
  await safe(page, 3);
  await page.keyboard.press('r');
  await rolls(page, 'stopped');
  await expect(page.getByText('finishing take…')).toHaveCount(0);
  const doc = await docOf(page, url);
  const { takes } = recordedOn(doc, 'ropes');
  expect(takes).toHaveLength(taken + 1);
  const [tone] = await samplesOf(data, doc.media[takes.at(-1)!.media]!.name);
  expect(tone!.length).toBeGreaterThan(3 * RATE);
  expect(largestBreak(tone!, 1000)).toBeLessThan(1e-5);
  await editFrom(page, url, { type: 'seatTrack', track: 'ropes', armed: false });
});

test('six channels as one interleaved file and three tracks beside it, from the same sample', async ({
  page,
  server,
}) => {
  test.setTimeout(120_000);
  const { url, data } = server;
  await open(page, url, 'lineup');
  await switchOnLines(page);
  await page.getByLabel('Patch by typing').fill('1-6 > Surf');
  await page.getByRole('button', { name: 'Patch', exact: true }).click();
  const armed = ['surf', 'narrator', 'pilot'];
  await editFrom(
    page,
    url,
    ...armed.map((track) => ({ type: 'seatTrack' as const, track, armed: true, hearing: 'never' as const })),
    ...[4, 5, 6].map((n) => ({ type: 'setLine' as const, line: `standin-eight/${n}`, phantom: true })),
  );
  await go(page, 'floor');
  await page.getByLabel('Locate').fill('10:00:50:00');
  await page.keyboard.press('Enter');
  await expect(page.getByText('signal', { exact: true })).toBeVisible();
  await page.getByRole('button', { name: 'Record', exact: true }).click();
  const anyway = page.getByRole('button', { name: 'Record anyway' });
  await expect(page.locator('[data-roll=recording]').or(anyway)).toBeVisible();
  if (await anyway.isVisible()) await anyway.click();
  await rolls(page, 'recording');
  await safe(page, 2);
  await page.getByRole('button', { name: 'Stop recording' }).click();
  await rolls(page, 'stopped');
  await expect(page.getByText('finishing take…')).toHaveCount(0);
  const doc = await docOf(page, url);
  const takes = armed.map((id) => doc.tracks.find((t) => t.id === id)!.takes.at(-1)!);
  expect(new Set(takes.map((t) => t.start)).size).toBe(1);
  expect(new Set(takes.map((t) => t.length)).size).toBe(1);
  expect(doc.media[takes[0]!.media]!.channels).toBe(6);
  const dry = async (i: number) => samplesOf(data, doc.media[takes[i]!.dryMedia!]!.name);
  const [surf, narrator, pilot] = [await dry(0), await dry(1), await dry(2)];
  // The same lines in the wide file and in the narrow ones: the same samples.
  expect(surf[0]).toEqual(narrator[0]);
  expect(surf[1]).toEqual(pilot[0]);
  expect(new Set(surf.map((c) => c.slice(4800, 4900).join())).size).toBe(6);
  await editFrom(page, url, ...armed.map((track) => ({ type: 'seatTrack' as const, track, armed: false })));
});

test('the performer’s window follows: words, countdown, red while the line is spoken', async ({
  page,
  server,
  context,
}) => {
  test.setTimeout(120_000);
  const { url } = server;
  await open(page, url, 'lineup');
  await switchOnLines(page);
  await editFrom(
    page,
    url,
    { type: 'seatTrack', track: 'pilot', armed: true, hearing: 'never' },
    { type: 'setSession', preRoll: 2 },
  );
  await go(page, 'floor');
  await page.locator('[data-cue="2"] button').first().click();
  const prompt = await context.newPage();
  await prompt.goto(`${url}/prompt/lamp`);
  const words = (await docOf(page, url)).cues.find((c) => c.number === '2')!.text;
  await expect(prompt.locator('[data-prompt=still]')).toContainText(words);
  // Nothing of the session can be changed there: only what of it is shown.
  await expect(prompt.getByRole('button')).toHaveText(['picture', 'words', 'whole screen']);
  await page.bringToFront();
  await mode(page, 'the cue');
  await expect(page.getByText('signal', { exact: true })).toBeVisible();
  // Each lasts a moment only: all are waited for from the beginning.
  const seen = [
    prompt.locator('[data-prompt=ready]').waitFor(),
    prompt.getByLabel('Countdown').waitFor(),
    prompt.locator('[data-prompt=speak]').waitFor({ timeout: 60_000 }),
  ];
  await page.keyboard.press('r');
  await Promise.all(seen);
  await rolls(page, 'stopped');
  await expect(prompt.locator('[data-prompt=still]')).toBeVisible();
  await prompt.close();
  await editFrom(page, url, { type: 'seatTrack', track: 'pilot', armed: false });
});

/**
 * The timecode that stands in the picture, and which of the frames around `near` it shows: found by decoding each beside
 * it. Null where it is none of them, or where two of them look alike.
 */
const shownFrame = (page: Page, near: number) =>
  page.evaluate(async (wanted) => {
    const video = document.querySelector('video')!;
    const timecode = video.parentElement!.lastElementChild!.textContent;
    if (video.readyState < video.HAVE_CURRENT_DATA || video.seeking) return { timecode, frame: null };
    const pixels = (of: HTMLVideoElement) => {
      const canvas = new OffscreenCanvas(of.videoWidth, of.videoHeight);
      const context = canvas.getContext('2d', { willReadFrequently: true })!;
      context.drawImage(of, 0, 0);
      return context.getImageData(0, 0, of.videoWidth, of.videoHeight).data;
    };
    const beside = document.createElement('video');
    beside.muted = true;
    beside.src = video.currentSrc;
    await new Promise((resolve) => beside.addEventListener('loadeddata', resolve, { once: true }));
    const shown = pixels(video);
    const alike: number[] = [];
    for (const frame of [wanted - 1, wanted, wanted + 1]) {
      beside.currentTime = (frame + 0.5) / 25;
      await new Promise((resolve) => beside.addEventListener('seeked', resolve, { once: true }));
      const other = pixels(beside);
      if (shown.every((value, i) => value === other[i])) alike.push(frame);
    }
    beside.removeAttribute('src');
    return { timecode, frame: alike.length === 1 ? alike[0]! : null };
  }, near);

test('the picture shows the frame of the timecode: exactly when stopped, within one when it runs', async ({
  page,
  server,
}) => {
  test.setTimeout(180_000);
  // Every repaint is looked at here.
  await page.emulateMedia({ reducedMotion: 'no-preference' });
  await open(page, server.url, 'floor');
  // What the browser puts on the screen, frame by frame, beside the timecode that is heard then.
  await page.evaluate(() => {
    const video = document.querySelector('video')!;
    const seen = ((window as unknown as { seen: unknown[] }).seen = [] as { picture: number; heard: number }[]);
    const look: VideoFrameRequestCallback = (_, { mediaTime }) => {
      video.requestVideoFrameCallback(look);
      // The timecode is written anew for the same repaint, a moment later.
      requestAnimationFrame(() => {
        const [h, m, s, f] = (video.parentElement!.lastElementChild!.textContent ?? '').split(':').map(Number);
        seen.push({ picture: Math.round(mediaTime * 25), heard: (((h! - 10) * 60 + m!) * 60 + s!) * 25 + f! });
      });
    };
    video.requestVideoFrameCallback(look);
  });
  const seen = () => page.evaluate(() => (window as unknown as { seen: { picture: number; heard: number }[] }).seen);
  for (const [code, frame] of [
    ['10:00:05:01', 126],
    ['10:00:41:24', 1049],
    ['10:01:12:13', 1813],
    ['10:00:00:07', 7],
  ] as const) {
    await page.getByLabel('Locate').fill(code);
    await page.keyboard.press('Enter');
    // A busy browser shows a frame now and then without telling of it: what is on the screen counts, pixel by pixel.
    await expect.poll(() => shownFrame(page, frame)).toEqual({ timecode: code, frame });
  }
  // The first second is for starting. A machine that is held up stops the sound's own clock too: then it is tried again.
  await expect(async () => {
    const before = (await seen()).length;
    await page.getByRole('button', { name: 'Play' }).click();
    await rolls(page, 'playing');
    await expect.poll(async () => (await seen()).length, { timeout: 30_000 }).toBeGreaterThan(before + 120);
    await page.getByRole('button', { name: 'Stop', exact: true }).click();
    await rolls(page, 'stopped');
    const ran = (await seen()).slice(before + 25, before + 120);
    const near = ran.filter(({ picture, heard }) => Math.abs(picture - heard) <= 1);
    expect(near.length, JSON.stringify(ran)).toBeGreaterThan(0.95 * ran.length);
  }).toPass({ timeout: 120_000 });
});

test('back from a mistake: the take ends, and a new one goes on from before it, after a pre-roll', async ({
  page,
  server,
}) => {
  test.setTimeout(90_000);
  const { url } = server;
  await open(page, url, 'lineup');
  await switchOnLines(page);
  await go(page, 'floor');
  await mode(page, 'from the playhead');
  await editFrom(
    page,
    url,
    { type: 'setSession', preRoll: 0.5 },
    { type: 'setWork', rollBack: 1 },
    { type: 'seatTrack', track: 'pilot', armed: true },
  );
  await page.getByLabel('Locate').fill('10:01:16:00');
  await page.keyboard.press('Enter');
  await expect(page.getByText('signal', { exact: true })).toBeVisible();
  const pilot = async () => recordedOn(await docOf(page, url), 'pilot');
  const had = (await pilot()).takes.length;
  await page.keyboard.press('r');
  await rolls(page, 'recording');
  await safe(page, 2);
  await page.keyboard.press('b');
  await expect.poll(async () => (await pilot()).takes.length).toBe(had + 1);
  await rolls(page, 'recording');
  const number = Math.max(...(await pilot()).takes.map((t) => t.number)) + 1;
  await recorded(page, 2, number);
  await page.keyboard.press('r');
  await rolls(page, 'stopped');
  await expect.poll(async () => (await pilot()).takes.length).toBe(had + 2);
  const [first, second] = (await pilot()).takes.slice(-2);
  // It goes on a second before the mistake, as far as a busy machine's sound was heard when the key was pressed; both
  // takes stay whole, the newer one is heard from there.
  const mistake = first!.start + first!.length;
  expect(Math.abs(second!.start - (mistake - RATE))).toBeLessThan(0.8 * RATE);
  const clips = (await pilot()).clips.filter((c) => [first!.media, second!.media].includes(c.media));
  expect(clips.map((c) => c.media)).toEqual([first!.media, second!.media]);
  expect(clips[0]!.start + clips[0]!.length).toBe(clips[1]!.start);
  // What led in was recorded too: the joint is a crossfade, not a cut.
  expect(clips[1]!.joint!.frames).toBeGreaterThan(0);
  await editFrom(page, url, { type: 'seatTrack', track: 'pilot', armed: false });
});

test('takes are heard in their place by key, one after the other, without touching solo', async ({ page, server }) => {
  const { url } = server;
  await open(page, url, 'floor');
  await page.getByRole('radio', { name: 'Takes' }).click();
  const before = (await docOf(page, url)).tracks.map((t) => [t.soloed, t.muted, t.clips]);
  await page.getByRole('button', { name: 'Takes of Apprentice' }).click();
  const ear = (take: number) =>
    page.getByRole('button', { name: new RegExp(`^Listen to (cue \\d+, )?take ${take} of Apprentice`, 'i') });
  const loud = () =>
    page.waitForFunction(
      () =>
        Number(
          document.querySelector('[role=meter][aria-label="Level of Apprentice"]')!.getAttribute('aria-valuenow'),
        ) > -40,
    );
  await page.getByRole('button', { name: /^Choose (cue \d+, )?take 1 of Apprentice/i }).click();
  await page.keyboard.press('h');
  await rolls(page, 'playing');
  await expect(ear(1)).toHaveAttribute('aria-pressed', 'true');
  await loud();
  await page.keyboard.press('Shift+ArrowUp');
  await expect(ear(2)).toHaveAttribute('aria-pressed', 'true');
  await expect(ear(1)).toHaveAttribute('aria-pressed', 'false');
  await loud();
  // The key works from wherever one clicked last.
  await page.getByRole('radio', { name: 'Script' }).click();
  await page.keyboard.press('h');
  await rolls(page, 'stopped');
  await expect(ear(2)).toHaveAttribute('aria-pressed', 'false');
  expect((await docOf(page, url)).tracks.map((t) => [t.soloed, t.muted, t.clips])).toEqual(before);
});

test('what is recorded through a cable of known delay stands where it was heard, to the sample', async ({
  page,
  server,
}) => {
  test.setTimeout(120_000);
  const { url, data } = server;
  await open(page, url, 'lineup');
  await switchOnDevice(page, 'Loop cable (stand-in)');
  await test.step('the delay is measured', async () => {
    await page.getByRole('button', { name: 'Measure delay' }).click();
    await page.getByRole('button', { name: 'Measure', exact: true }).click();
    await expect(page.getByRole('dialog').getByRole('status')).toContainText('1234 samples');
    await page.keyboard.press('Escape');
  });
  await test.step('ropes, played and recorded at once, lie on themselves', async () => {
    await page.getByLabel('Patch by typing').fill('1 > Bell');
    await page.getByRole('button', { name: 'Patch', exact: true }).click();
    await editFrom(
      page,
      url,
      { type: 'seatTrack', track: 'bell', armed: true, hearing: 'never' },
      { type: 'setLine', line: 'standin-loop/1', record: 'dry' },
      { type: 'setTrack', track: 'ropes', level: 0 },
      { type: 'seatTrack', track: 'ropes', soloed: true },
      { type: 'placeTrack', track: 'ropes', placement: { azimuth: 0, distance: 1, width: 0, lfe: -100 } },
    );
    await go(page, 'floor');
    await mode(page, 'from the playhead');
    await page.getByLabel('Locate').fill('10:00:11:12');
    await page.keyboard.press('Enter');
    await page.keyboard.press('r');
    const anyway = page.getByRole('button', { name: 'Record anyway' });
    await expect(page.locator('[data-roll=recording]').or(anyway)).toBeVisible();
    if (await anyway.isVisible()) await anyway.click();
    await rolls(page, 'recording');
    await safe(page, 4);
    await page.keyboard.press('r');
    await rolls(page, 'stopped');
    await expect(page.getByText('finishing take…')).toHaveCount(0);
    const doc = await docOf(page, url);
    const take = doc.tracks.find((t) => t.id === 'bell')!.takes.at(-1)!;
    const ropes = doc.tracks.find((t) => t.id === 'ropes')!.clips[0]!;
    const [heard] = await samplesOf(data, doc.media[take.media]!.name);
    const [given] = await samplesOf(data, doc.media[ropes.media]!.name);
    // Cross-correlation of two seconds of it around where it should be.
    const at = ropes.start + RATE / 4 - take.start;
    let best = { lag: 0, sum: -Infinity };
    for (let lag = -300; lag <= 300; lag++) {
      let sum = 0;
      for (let i = 0; i < 2 * RATE; i++) sum += given![RATE / 4 + i]! * heard![at + lag + i]!;
      if (sum > best.sum) best = { lag, sum };
    }
    expect(best.lag).toBe(0);
  });
});
