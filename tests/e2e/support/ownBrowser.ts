import { spawn } from 'node:child_process';
import { chromium, type Page } from '@playwright/test';

/** A browser with a profile of its own, as a user has it, that can be killed as a power cut does. */
export interface OwnBrowser {
  page: Page;
  kill(): Promise<void>;
}

export async function ownBrowser(profile: string): Promise<OwnBrowser> {
  const child = spawn(
    process.env.CHROMIUM ?? '/usr/bin/chromium',
    [
      ...['--headless', '--no-sandbox', '--disable-gpu', '--disable-dev-shm-usage', '--mute-audio', '--no-first-run'],
      ...['--autoplay-policy=no-user-gesture-required', '--disable-background-networking', '--disable-sync'],
      `--user-data-dir=${profile}`,
      '--remote-debugging-port=0',
    ],
    { detached: true, stdio: ['ignore', 'ignore', 'pipe'] },
  );
  const ended = new Promise<void>((resolve) => child.once('exit', () => resolve()));
  // A test that fails before it ends its browser leaves none behind.
  const left = () => {
    if (child.exitCode === null && child.signalCode === null) process.kill(-child.pid!, 'SIGKILL');
  };
  process.once('exit', left);
  child.once('exit', () => process.off('exit', left));
  const endpoint = await new Promise<string>((resolve, reject) => {
    let text = '';
    child.stderr.on('data', (piece: Buffer) => {
      text += piece.toString();
      const found = /DevTools listening on (ws:\S+)/.exec(text);
      if (found) resolve(found[1]!);
    });
    child.once('exit', () => reject(new Error(`the browser did not start:\n${text}`)));
  });
  const browser = await chromium.connectOverCDP(endpoint);
  const page = await browser.contexts()[0]!.newPage();
  await page.emulateMedia({ reducedMotion: 'reduce' });
  return {
    page,
    kill: async () => {
      if (child.exitCode === null && child.signalCode === null) process.kill(-child.pid!, 'SIGKILL');
      await ended;
      await browser.close().catch(() => {});
    },
  };
}
