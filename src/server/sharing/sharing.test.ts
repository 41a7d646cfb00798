import { createServer, type Server, type ServerResponse } from 'node:http';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { PromptNews } from '@/core/prompt';
import { closeDoor, isOpen, openDoor } from './listener';
import { anyShared, beginShare, endShare, followShare, shareBy, tellShare } from './shares';

const NEWS: PromptNews = { state: 'playing', position: 1, at: 2, cue: null, lineAt: null };

describe('a link', () => {
  it('is one for each session, long enough not to be guessed, and gone once it is withdrawn', () => {
    const one = beginShare('lamp');
    expect(beginShare('lamp')).toBe(one);
    expect(beginShare('other').token).not.toBe(one.token);
    expect(one.token.length).toBeGreaterThanOrEqual(24);
    const heard: (PromptNews | null)[] = [];
    const leave = followShare(one.token, (news) => heard.push(news));
    tellShare('lamp', NEWS);
    tellShare('other', { ...NEWS, position: 9 });
    endShare('lamp');
    expect(heard).toEqual([NEWS, null]);
    expect(() => shareBy(one.token)).toThrow(/not open any more/);
    leave();
    endShare('other');
    expect(anyShared()).toBe(false);
  });
});

describe('the door to the network', () => {
  it.each([
    ['GET', '/prompt/shared/abc_DEF-123', true],
    ['GET', '/api/shared/abc/events', true],
    ['GET', '/api/shared/abc/picture?x=1', true],
    ['HEAD', '/api/shared/abc/time', true],
    ['GET', '/_next/static/chunks/app/page-1a2b.js', true],
    ['GET', '/demo/picture.mp4', true],
    ['POST', '/api/shared/abc', false],
    ['PUT', '/prompt/shared/abc', false],
    ['GET', '/', false],
    ['GET', '/s/lamp/brief', false],
    ['GET', '/prompt/lamp', false],
    ['GET', '/api/sessions', false],
    ['GET', '/api/sessions/lamp/share', false],
    ['GET', '/api/shared/abc/other', false],
    ['GET', '/api/shared/../sessions', false],
    ['GET', '/_next/static/../../api/sessions', false],
    ['GET', '/_next/static/%2e%2e/%2e%2e/api/sessions', false],
    ['GET', '/api/shared/abc%2f..%2f..%2fsessions', false],
    ['GET', '/_next/static/%', false],
  ])('%s %s: %s', (method, url, open) => expect(isOpen(method, url)).toBe(open));

  let inner: Server;
  let talking: ServerResponse;
  const asked: { url: string; headers: Record<string, unknown> }[] = [];
  beforeAll(async () => {
    inner = createServer((from, to) => {
      asked.push({ url: from.url!, headers: from.headers });
      if (from.url!.endsWith('/events')) {
        to.writeHead(200);
        to.write('first, ');
        talking = to;
        return;
      }
      to.writeHead(206, { 'Content-Range': 'bytes 0-3/9' });
      to.end('lamp');
    });
    await new Promise<void>((done) => inner.listen(0, '127.0.0.1', done));
  });
  afterAll(async () => {
    await closeDoor();
    await new Promise((done) => inner.close(done));
  });

  it('passes on what is open, without what would speak for somebody, and nothing else', async () => {
    const { port } = inner.address() as { port: number };
    const door = await openDoor(port);
    expect(await openDoor(port)).toBe(door);
    const base = `http://127.0.0.1:${door}`;
    const answer = await fetch(`${base}/api/shared/abc/picture`, {
      headers: { Cookie: 'seat=mine', Range: 'bytes=0-3', 'X-Other': '1' },
    });
    expect([answer.status, answer.headers.get('content-range'), await answer.text()]).toEqual([
      206,
      'bytes 0-3/9',
      'lamp',
    ]);
    expect(asked).toHaveLength(1);
    expect(asked[0]!.headers).toMatchObject({ host: `127.0.0.1:${port}`, range: 'bytes=0-3' });
    expect(Object.keys(asked[0]!.headers)).not.toContain('cookie');
    expect(Object.keys(asked[0]!.headers)).not.toContain('x-other');
    for (const [path, init] of [
      ['/api/sessions', {}],
      ['/s/lamp/brief', {}],
      ['/api/shared/abc', { method: 'POST', body: '{}' }],
    ] as const)
      expect((await fetch(base + path, init)).status).toBe(404);
    expect(asked).toHaveLength(1);
    await closeDoor();
    await expect(fetch(`${base}/api/shared/abc/time`)).rejects.toThrow();
  });

  it('closed, what is being said in it is said to its end, and what has no end is cut', async () => {
    const { port } = inner.address() as { port: number };
    for (const [word, ends] of [
      ['first, last', true],
      ['', false],
    ] as const) {
      const base = `http://127.0.0.1:${await openDoor(port)}`;
      const answer = await fetch(`${base}/api/shared/abc/events`);
      const closed = closeDoor();
      if (ends) talking.end('last');
      await (ends ? expect(answer.text()).resolves.toBe(word) : expect(answer.text()).rejects.toThrow());
      await closed;
      await expect(fetch(`${base}/api/shared/abc/time`)).rejects.toThrow();
    }
  });
});
