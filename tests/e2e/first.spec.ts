import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { expect, test } from '@playwright/test';
import { startServer } from './support/server';

test('without any session: what is no archive is refused in words, the first session is made, and it is there', async ({
  page,
}) => {
  const dir = mkdtempSync(path.join(tmpdir(), 'wide-room-first-'));
  const server = await startServer({ data: path.join(dir, 'data'), args: ['--no-demo'] });
  try {
    await page.goto(server.url);
    await expect(page.getByText('There is no session yet.')).toBeVisible();
    const text = path.join(dir, 'notes.zip');
    writeFileSync(text, 'no archive');
    await page.getByLabel('Archive of a session').setInputFiles(text);
    await expect(page.getByText(/notes\.zip: This file is no ZIP archive/)).toBeVisible();
    await page.getByLabel('Name').fill('First film');
    await page.getByLabel('Short form').fill('FF');
    await page.getByRole('combobox', { name: 'Sample rate' }).click();
    await page.getByRole('option', { name: '96 kHz' }).click();
    await page.getByRole('button', { name: 'Make the session' }).click();
    await page.waitForURL(/\/s\/[^/]+\/brief/);
    await expect(page.getByRole('combobox', { name: 'Sample rate' })).toContainText('96 kHz');
    await page.goto(server.url);
    await expect(page.getByText('First film').first()).toBeVisible();
  } finally {
    await server.stop();
    rmSync(dir, { recursive: true, force: true });
  }
});
