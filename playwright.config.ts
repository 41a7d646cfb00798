import { defineConfig } from '@playwright/test';

export default defineConfig({
  testDir: 'tests/e2e',
  outputDir: 'test-results/e2e',
  globalSetup: './tests/e2e/support/globalSetup.ts',
  // One at a time: sound runs in real time, and a server, a browser and its drawing fill two processors at times.
  workers: 1,
  timeout: 180_000,
  expect: { timeout: 20_000 },
  forbidOnly: process.env.CI !== undefined,
  reporter: [['list'], ['json', { outputFile: 'test-results/e2e.json' }]],
  use: {
    viewport: { width: 1280, height: 800 },
    colorScheme: 'dark',
    // Levels are drawn ten times a second: two browsers without a graphics processor leave the sound no time otherwise.
    contextOptions: { reducedMotion: 'reduce' },
    acceptDownloads: true,
    // A trace films every frame and copies every page: the sound in these tests would stutter from it.
    trace: 'off',
    screenshot: 'only-on-failure',
    // Debian's Chromium without a window of its own: the same engine, a quarter less work for the processors.
    launchOptions: {
      executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium-headless-shell',
      args: [
        '--headless',
        '--no-sandbox',
        '--disable-gpu',
        '--disable-dev-shm-usage',
        '--mute-audio',
        '--autoplay-policy=no-user-gesture-required',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
        '--no-first-run',
        '--use-fake-ui-for-media-stream',
        '--use-fake-device-for-media-stream',
      ],
    },
  },
});
