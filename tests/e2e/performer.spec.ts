// The performer's window: in this browser, and through the door to the network as another machine would open it.
import type { Page } from '@playwright/test';
import { docOf, editFrom, expect, open, rolls, test } from './support/studio';

/** Frames of a timecode at 25 frames a second. */
const framesOf = (text: string): number => {
  const [h, m, s, f] = text.split(/[:;]/).map(Number) as [number, number, number, number];
  return ((h * 60 + m) * 60 + s) * 25 + f;
};
const TIMECODE = '[data-testid=prompt-timecode]';
/** A frame at 25 frames a second (ms). */
const FRAME = 40;
/** Changes of a clock that are looked at. */
const CHANGES = 15;

/**
 * By how much (ms) the clock at `selector` is behind this machine's, the middle of several: taken just when it is written,
 * for a busy machine writes seldom, and what stands there between is old.
 */
async function behindTime(page: Page, selector: string): Promise<number> {
  const written = await page.evaluate(
    ([where, changes]) =>
      new Promise<[at: number, text: string][]>((resolve) => {
        const seen: [number, string][] = [];
        const element = document.querySelector(where)!;
        const [kind, name] =
          element instanceof HTMLInputElement
            ? [HTMLInputElement.prototype, 'value' as const]
            : [Node.prototype, 'textContent' as const];
        const { get, set } = Object.getOwnPropertyDescriptor(kind, name)!;
        Object.defineProperty(element, name, {
          configurable: true,
          get,
          set(this: Element, text: string) {
            if (text !== seen.at(-1)?.[1]) seen.push([Date.now(), text]);
            set!.call(this, text);
            if (seen.length < changes) return;
            Reflect.deleteProperty(element, name);
            resolve(seen);
          },
        });
      }),
    [selector, CHANGES] as const,
  );
  const behind = written.map(([at, text]) => at - framesOf(text) * FRAME).sort((a, b) => a - b);
  return behind[Math.floor(behind.length / 2)]!;
}

const shown = async (page: Page) => framesOf((await page.locator(TIMECODE).textContent())!);

test('it shows picture, words and timecode in a window of any size', async ({ page, server, context }) => {
  await open(page, server.url, 'floor');
  await page.locator('[data-cue="2"] button').first().click();
  const prompt = await context.newPage();
  await prompt.goto(`${server.url}/prompt/lamp`);
  for (const size of [
    { width: 320, height: 480 },
    { width: 1920, height: 400 },
    { width: 1280, height: 800 },
  ]) {
    await prompt.setViewportSize(size);
    await expect(prompt.getByTestId('prompt-timecode')).toBeInViewport({ ratio: 1 });
    await expect(prompt.locator('video')).toBeInViewport();
    await expect(prompt.locator('p').first()).toBeInViewport();
    const over = await prompt.evaluate(() => [
      document.documentElement.scrollWidth - innerWidth,
      document.documentElement.scrollHeight - innerHeight,
    ]);
    expect(Math.max(...over), JSON.stringify(size)).toBeLessThanOrEqual(0);
  }
  await prompt.mouse.move(600, 400);
  await prompt.getByRole('button', { name: 'picture' }).click();
  await expect(prompt.locator('video')).toHaveCount(0);
  await expect(prompt.locator('p').first()).toBeVisible();
});

test('on another machine it follows within a frame while it is allowed, and nothing else is open', async ({
  page,
  server,
  browser,
}) => {
  test.setTimeout(120_000);
  await open(page, server.url, 'floor');
  await page.getByRole('button', { name: 'Open the prompt for the performer' }).click();
  await page.getByRole('menuitem', { name: 'On another machine…' }).click();
  const dialog = page.getByRole('dialog', { name: /performer’s window/ });
  await dialog.getByRole('button', { name: 'Open it to the network' }).click();
  await expect(dialog.getByRole('img', { name: /pattern for a camera/ })).toBeVisible();
  const link = (await dialog.getByRole('link').first().getAttribute('href'))!;
  expect(new URL(link).hostname).not.toBe('127.0.0.1');

  const elsewhere = await browser.newContext();
  const prompt = await elsewhere.newPage();
  const faults: string[] = [];
  prompt.on('pageerror', (e) => faults.push(e.message));
  await prompt.goto(link);
  await expect(prompt.getByTestId('prompt-timecode')).toBeVisible();
  await expect(dialog.getByRole('status')).toContainText('1 window is open');
  await page.keyboard.press('Escape');
  const base = new URL(link).origin;
  for (const path of ['/', '/s/lamp/brief', '/prompt/lamp', '/api/sessions', '/api/sessions/lamp/share'])
    expect((await prompt.request.get(base + path)).status(), path).toBe(404);

  await test.step('it goes where the engineer goes, and sees what is changed', async () => {
    await page.locator('[data-cue="4"] button').first().click();
    const engineer = async () => framesOf(await page.getByLabel('Locate').inputValue());
    await expect.poll(() => shown(prompt)).toBe(await engineer());
    const cue = (await docOf(page, server.url)).cues.find((c) => c.number === '4')!.id;
    await editFrom(page, server.url, { type: 'setCue', cue, text: 'Lamp out.' });
    await expect(prompt.locator('p').first()).toHaveText('Lamp out.');
  });

  await test.step('while it plays both clocks agree within a frame', async () => {
    await page.keyboard.press('Space');
    await rolls(page, 'playing');
    const apart = async () => {
      const [here, there] = await Promise.all([
        behindTime(page, '[aria-label=Timecode]'),
        behindTime(prompt, TIMECODE),
      ]);
      return Math.abs(here - there);
    };
    // Where the machine holds the sound up, the other window follows with the next word.
    await expect.poll(apart).toBeLessThanOrEqual(FRAME);
    await page.keyboard.press('Space');
    await rolls(page, 'stopped');
  });

  await test.step('withdrawn, it is closed at once', async () => {
    await page.getByRole('button', { name: 'Open the prompt for the performer' }).click();
    await page.getByRole('menuitem', { name: 'On another machine…' }).click();
    await dialog.getByRole('button', { name: 'Withdraw it' }).click();
    await expect(dialog.getByRole('button', { name: 'Open it to the network' })).toBeVisible();
    await expect(prompt.getByTestId('prompt-timecode')).toHaveCount(0);
    await expect(prompt.locator('main')).toContainText(/not open any more|does not answer/);
    await expect(prompt.request.get(link)).rejects.toThrow();
    expect(faults).toEqual([]);
    await page.keyboard.press('Escape');
  });
  await elsewhere.close();
});
