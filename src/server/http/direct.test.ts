// @vitest-environment node
import { createServer, request as ask, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { afterAll, beforeAll, expect, it, vi } from 'vitest';
import { json } from './answers';
import { answerDirectly } from './direct';
import { directListener } from './directListener';

let server: Server;
let port = 0;
const taken = vi.fn<(id: string, bytes: number) => void>();

beforeAll(async () => {
  answerDirectly<{ id: string }>('PUT', /^\/api\/pieces\/(?<id>[^/]+)$/, async (asked, { id }, body) => {
    const bytes = await body(1_000, 'A piece may hold 1000 bytes.');
    taken(id, bytes.length);
    return json({ id, at: asked.get('at'), sum: bytes.reduce((a, b) => a + b, 0) });
  });
  server = createServer((request, response) => {
    if (!directListener().answer!(request, response)) response.writeHead(299).end('the pages');
  });
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  port = (server.address() as AddressInfo).port;
});
afterAll(() => new Promise((resolve) => server.close(resolve)));

async function put(way: string, body: Uint8Array<ArrayBuffer> | ReadableStream, method = 'PUT') {
  const sent = await fetch(`http://127.0.0.1:${port}${way}`, { method, body, duplex: 'half' } as RequestInit);
  return { status: sent.status, text: await sent.text() };
}

const streamed = (pieces: number, size: number) =>
  new ReadableStream({
    start(controller) {
      for (let i = 0; i < pieces; i++) controller.enqueue(new Uint8Array(size));
      controller.close();
    },
  });

it('its own requests are answered, with their way, question and body', async () => {
  const { status, text } = await put('/api/pieces/one?at=7', new Uint8Array(900).fill(2));
  expect([status, JSON.parse(text)]).toEqual([200, { id: 'one', at: '7', sum: 1800 }]);
});

it.each([
  ['/api/pieces/one/two', 'PUT'],
  ['/api/pieces/one', 'POST'],
  ['/api/piecesone', 'PUT'],
])('%s by %s is left to the pages', async (way, method) => {
  expect(await put(way, new Uint8Array(3), method)).toEqual({ status: 299, text: 'the pages' });
});

it('a body that says that it is too large, and one that turns out to be, are refused in words', async () => {
  taken.mockClear();
  for (const body of [new Uint8Array(2_000_000), streamed(4, 700)])
    expect(await put('/api/pieces/one', body)).toEqual({
      status: 413,
      text: '{"message":"A piece may hold 1000 bytes."}',
    });
  expect(taken).not.toHaveBeenCalled();
});

it('names that are none, and halves of characters, reach no handler', async () => {
  taken.mockClear();
  expect((await put('/api/pieces/..%2Fone', new Uint8Array(1))).status).toBe(404);
  expect((await put('/api/pieces/one?at=%00', new Uint8Array(1))).status).toBe(400);
  expect(taken).not.toHaveBeenCalled();
});

it('a body that is cut off is not taken, and the listener goes on', async () => {
  taken.mockClear();
  const begun = ask({ port, method: 'PUT', path: '/api/pieces/cut', headers: { 'Content-Length': 800 } });
  const ended = new Promise((resolve) => begun.once('error', resolve));
  begun.write(new Uint8Array(100), () => begun.destroy(new Error('cut')));
  await ended;
  expect((await put('/api/pieces/next', new Uint8Array(2))).status).toBe(200);
  expect(taken.mock.calls).toEqual([['next', 2]]);
});
