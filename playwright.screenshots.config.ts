import { defineConfig } from '@playwright/test';
import base from './playwright.config';

/** Takes the pictures in docs/screenshots from the demo data: npm run screenshots. */
export default defineConfig({
  ...base,
  testDir: 'docs/screenshots',
  testMatch: 'take.ts',
  reporter: 'list',
  // As most people see it: everything that moves is drawn at every repaint.
  use: { ...base.use, contextOptions: {} },
});
