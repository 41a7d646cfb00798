import { readdirSync, readFileSync } from 'node:fs';
import { chromium, type Page } from '@playwright/test';

/** A browser with a profile of its own, as a user has it, that can be killed as a power cut does. */
export interface OwnBrowser {
  page: Page;
  kill(): Promise<void>;
}

/** Processes that were started on a profile. */
function processesOf(profile: string): number[] {
  return readdirSync('/proc')
    .filter((name) => /^\d+$/.test(name))
    .map(Number)
    .filter((pid) => {
      try {
        return readFileSync(`/proc/${pid}/cmdline`, 'utf8').split('\0').includes(`--user-data-dir=${profile}`);
      } catch {
        // It ended meanwhile.
        return false;
      }
    });
}

export async function ownBrowser(profile: string, more: readonly string[] = []): Promise<OwnBrowser> {
  const context = await chromium.launchPersistentContext(profile, {
    executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium-headless-shell',
    reducedMotion: 'reduce',
    // A test's certificate is signed by nobody.
    ignoreHTTPSErrors: true,
    // As a user's: wide enough for everything.
    viewport: { width: 1280, height: 800 },
    args: [
      ...['--headless', '--no-sandbox', '--disable-gpu', '--disable-dev-shm-usage', '--mute-audio', '--no-first-run'],
      ...['--autoplay-policy=no-user-gesture-required', '--disable-background-networking', '--disable-sync'],
      ...more,
    ],
  });
  const closed = new Promise<void>((resolve) => context.once('close', () => resolve()));
  return {
    page: context.pages()[0] ?? (await context.newPage()),
    kill: async () => {
      for (const pid of processesOf(profile)) {
        try {
          process.kill(pid, 'SIGKILL');
        } catch {
          // It went with the one before.
        }
      }
      await closed;
    },
  };
}
