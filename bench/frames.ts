import { chromium, type Browser, type Page } from '@playwright/test';

const SECONDS = 3;
const TURNS = 3;

export const VIEWPORT = { width: 1280, height: 800 };

export const startChromium = (): Promise<Browser> =>
  chromium.launch({
    executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium',
    args: ['--no-sandbox', '--disable-gpu', '--mute-audio', '--autoplay-policy=no-user-gesture-required'],
  });

/** Frames a second while `step` (source text; `n` counts frames) is done before each of them. */
const rate = (page: Page, step: string): Promise<number> =>
  page.evaluate(`new Promise((resolve) => {
    const began = performance.now();
    let n = 0;
    requestAnimationFrame(function loop() {
      ${step};
      n++;
      const seconds = (performance.now() - began) / 1000;
      if (seconds >= ${SECONDS}) resolve(n / seconds);
      else requestAnimationFrame(loop);
    });
  })`);

/**
 * Frames a second of a page, in turn with a page that does nothing: that is what can be had of this machine at that
 * moment. The middle one of three turns, by their ratio.
 */
export async function framesOf(
  page: Page,
  blank: Page,
  step: string,
  /** Done again and again from outside meanwhile. */
  meanwhile?: () => Promise<void>,
): Promise<{ fps: number; most: number }> {
  const turns = [];
  for (let turn = 0; turn < TURNS; turn++) {
    await blank.bringToFront();
    const most = await rate(blank, 'document.title = String(n)');
    await page.bringToFront();
    let over = false;
    const work = (async () => {
      while (meanwhile && !over) await meanwhile();
    })();
    const fps = await rate(page, step);
    over = true;
    await work;
    turns.push({ most, fps });
  }
  return turns.sort((a, b) => a.fps / a.most - b.fps / b.most)[1]!;
}
