// Other machines: nobody comes in without a seat, a listener changes nothing, and what is no request is told so.
import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { connect } from 'node:net';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { ownBrowser } from './support/ownBrowser';
import { freshData, startServer } from './support/server';
import type { SessionDoc } from '@/core/session';
import { expect, test } from './support/studio';

const ROOT = path.resolve(import.meta.dirname, '../..');

const seat = (data: string, args: string[], phrase = '') =>
  execFileSync(process.execPath, ['dist/workers/cli.mjs', 'seat', ...args], {
    cwd: ROOT,
    env: { ...process.env, WIDE_ROOM_DATA: data, WIDE_ROOM_APP: ROOT },
    input: `${phrase}\n`,
  }).toString();

/** The first line of the answer to what is sent byte by byte. */
const rawly = (port: number, text: string): Promise<string> =>
  new Promise((resolve, reject) => {
    const socket = connect(port, '127.0.0.1', () => socket.write(text));
    socket.once('data', (bytes) => {
      resolve(bytes.toString('latin1').split('\r\n')[0]!);
      socket.destroy();
    });
    socket.once('error', reject);
    socket.once('close', () => resolve('closed'));
  });

test('what is no request that anybody should send is answered, and nothing falls over', async ({ server, page }) => {
  const port = Number(new URL(server.url).port);
  const lines: [string, RegExp][] = [
    ['TRACE /api/sessions HTTP/1.1\r\nHost: localhost\r\n\r\n', / 405 /],
    ['PATCH /api/sessions HTTP/1.1\r\nHost: localhost\r\n\r\n', / 405 /],
    ['GET /api/sessions/%ff HTTP/1.1\r\nHost: localhost\r\n\r\n', / 400 /],
    ['GET /api/sessions/%00 HTTP/1.1\r\nHost: localhost\r\n\r\n', / 400 /],
    ['GET /api/../../etc/passwd HTTP/1.1\r\nHost: localhost\r\n\r\n', / 400 /],
    ['GET http://elsewhere/api/sessions HTTP/1.1\r\nHost: elsewhere\r\n\r\n', / 421 /],
    ['GET http://elsewhere/api/sessions HTTP/1.1\r\nHost: localhost\r\n\r\n', / 400 /],
    ['GET /api/sessions HTTP/1.1\r\nHost: elsewhere\r\n\r\n', / 421 /],
    ['GET /api/sessions HTTP/1.1\r\nHost: localhost\r\nOrigin: http://elsewhere\r\n\r\n', / 403 /],
    ['GET /api/sessions HTTP/1.1\r\nHost: localhost\r\nX-Forwarded-For: 1.2.3.4\r\n\r\n', / 401 /],
    ['GET /api/me HTTP/1.1\r\nHost: elsewhere\r\nX-Wide-Room-Role: engineer\r\n\r\n', / 421 /],
    ['POST /api/sessions HTTP/1.1\r\nHost: localhost\r\nContent-Length: 4\r\n\r\nnull', / 400 /],
    ['\0\0\0\r\n\r\n', / 400 |closed/],
    ['CONNECT elsewhere:80 HTTP/1.1\r\nHost: elsewhere\r\n\r\n', / 40\d |closed/],
  ];
  for (const [text, answer] of lines) expect(await rawly(port, text), text).toMatch(answer);
  await page.goto(server.url);
  await expect(page).toHaveURL(/\/s\/lamp\/brief/);
});

test('another machine signs in by TLS; an engineer changes, a listener hears, a seat that is taken away is out', async () => {
  test.setTimeout(240_000);
  const data = freshData('lan');
  const own = mkdtempSync(path.join(tmpdir(), 'wide-room-lan-'));
  const [cert, key] = [path.join(own, 'cert.pem'), path.join(own, 'key.pem')];
  execFileSync(
    'openssl',
    [
      'req',
      '-x509',
      '-newkey',
      'rsa:2048',
      '-nodes',
      '-days',
      '2',
      '-subj',
      '/CN=studio.lan',
      '-keyout',
      key,
      '-out',
      cert,
    ],
    { stdio: 'ignore' },
  );
  const args = ['--lan', '--name', 'studio.lan', '--cert', cert, '--key', key];
  // Nobody could come in: it says so before it opens.
  await expect(startServer({ data, args })).rejects.toThrow(/no seat yet. Make one first/);
  expect(seat(data, ['add', 'Ada'], 'a lamp in the fog')).toContain('may sign in as engineer');
  seat(data, ['add', 'Ben', '--role', 'listener'], 'the bell buoy at night');
  const server = await startServer({ data, args });
  const at = `https://studio.lan:${new URL(server.url).port}`;
  // This machine by a name that others use: it is asked like them.
  const browser = await ownBrowser(path.join(own, 'profile'), ['--host-resolver-rules=MAP studio.lan 127.0.0.1']);
  const { page } = browser;
  const signIn = async (name: string, phrase: string) => {
    await page.goto(`${at}/s/lamp/floor`);
    await expect(page).toHaveURL(`${at}/sign-in`);
    await page.getByLabel('Seat').fill(name);
    await page.getByLabel('Pass phrase').fill(phrase);
    await page.getByRole('button', { name: 'Sign in' }).click();
  };
  const signOut = async (as = '') => {
    await page.getByRole('button', { name: 'Who is here' }).click();
    await expect(page.getByText(new RegExp(`Signed in as \\w+${as}$`))).toBeVisible();
    await page.getByRole('button', { name: 'Sign out' }).click();
    await expect(page).toHaveURL(`${at}/sign-in`);
  };
  const asked = (url: string, method = 'GET', body?: object) =>
    page.evaluate(
      async ([to, how, what]) =>
        (
          await fetch(to, {
            method: how,
            ...(what ? { headers: { 'Content-Type': 'application/json' }, body: JSON.stringify(what) } : {}),
          })
        ).status,
      [url, method, body] as const,
    );
  const docIn = () =>
    page.evaluate(async () => ((await (await fetch('/api/sessions/lamp')).json()) as { doc: SessionDoc }).doc);
  const change = { id: `lan-${Date.now()}`, base: 0, edits: [{ type: 'setTrack', track: 'pilot', level: -7 }] };
  try {
    await signIn('Ada', 'a lamp in the dark');
    await expect(page.locator('#sign-in-fault')).toContainText('do not belong together');
    expect(await asked('/api/sessions')).toBe(401);
    await signIn('Ada', 'a lamp in the fog');
    await expect(page).toHaveURL(`${at}/s/lamp/brief`);
    // A page by TLS may use sound and share memory.
    expect(await page.evaluate(() => [window.isSecureContext, window.crossOriginIsolated])).toEqual([true, true]);
    const login = (await page.context().cookies()).find((c) => c.name === 'wide-room-login')!;
    expect(login).toMatchObject({ httpOnly: true, secure: true, sameSite: 'Strict' });
    expect(await asked('/api/sessions/lamp/edits', 'POST', change)).toBe(200);

    // Out while at work, as when the server starts anew: the page stays, and what is changed is sent after one is in again.
    await page.goto(`${at}/s/lamp/floor`);
    await expect(page.getByRole('button', { name: 'Play' })).toBeVisible();
    await expect(page.getByRole('button', { name: 'Who is here' })).toBeVisible();
    const ada = await page.context().cookies();
    await page.context().clearCookies({ name: 'wide-room-login' });
    await page.getByRole('button', { name: 'Mute Pilot', exact: true }).click();
    await expect(page.getByText(/You are signed out. What you changed is kept/)).toBeVisible();
    await expect(page).toHaveURL(`${at}/s/lamp/floor`);
    await page.context().addCookies(ada);
    await expect.poll(async () => (await docIn()).tracks.find((t) => t.id === 'pilot')!.muted).toBe(true);
    await expect(page.getByText(/You are signed out/)).toHaveCount(0);
    await page.getByRole('button', { name: 'Mute Pilot', exact: true }).click();
    await expect.poll(async () => (await docIn()).tracks.find((t) => t.id === 'pilot')!.muted).toBe(false);

    await signOut();
    await signIn('Ben', 'the bell buoy at night');
    await expect(page).toHaveURL(`${at}/s/lamp/brief`);
    const level = async () => (await docIn()).tracks.find((t) => t.id === 'pilot')!.level;
    expect(await level()).toBe(-7);
    expect(await asked('/api/sessions/lamp/edits', 'POST', { ...change, id: 'by-ben' })).toBe(403);
    expect(await asked('/api/sessions/lamp/bin', 'POST', {})).toBe(403);
    expect(await asked('/api/sessions/lamp/prints', 'POST', {})).toBe(403);
    await page.goto(`${at}/s/lamp/floor`);
    await expect(page.getByRole('button', { name: 'Play' })).toBeVisible();
    await page.getByRole('button', { name: 'Mute Pilot', exact: true }).click();
    await expect(page.getByText(/listener’s seat: it hears and sees everything/)).toBeVisible();

    await signOut(', who listens and changes nothing');
    await signIn('Ben', 'the bell buoy at night');
    await expect(page).toHaveURL(`${at}/s/lamp/brief`);

    seat(data, ['remove', 'Ben']);
    expect(await asked('/api/sessions/lamp')).toBe(401);
  } finally {
    await browser.kill();
    await server.stop();
    rmSync(own, { recursive: true, force: true });
  }
});
