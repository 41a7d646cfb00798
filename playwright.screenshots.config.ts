import { defineConfig } from '@playwright/test';
import base from './playwright.config';

// Pictures show the demo as it is laid out for everybody.
process.env.WHOLE_DEMO = 'yes';

/** Takes the pictures in docs/screenshots from the demo data: npm run screenshots. */
export default defineConfig({
  ...base,
  testDir: 'docs/screenshots',
  testMatch: 'take.ts',
  reporter: 'list',
  snapshotPathTemplate: 'docs/screenshots/{arg}{ext}',
  // As most people see it: everything that moves is drawn at every repaint.
  use: {
    ...base.use,
    contextOptions: {},
    launchOptions: { ...base.use?.launchOptions, executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium' },
  },
});
