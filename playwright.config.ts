import { defineConfig } from '@playwright/test';

export default defineConfig({
  testDir: 'tests/e2e',
  outputDir: 'test-results/e2e',
  globalSetup: './tests/e2e/support/globalSetup.ts',
  // Two files at a time, each with a server and a browser of its own. The tests wait for sound in real time and mostly
  // idle; recorded and captured samples are the same however busy the machine is.
  workers: 2,
  timeout: 120_000,
  expect: { timeout: 20_000 },
  forbidOnly: process.env.CI !== undefined,
  reporter: [['list'], ['json', { outputFile: 'test-results/e2e.json' }]],
  use: {
    viewport: { width: 1280, height: 800 },
    colorScheme: 'dark',
    acceptDownloads: true,
    // A trace films every frame and copies every page: the sound in these tests would stutter from it.
    trace: 'off',
    screenshot: 'only-on-failure',
    launchOptions: {
      executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium',
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
