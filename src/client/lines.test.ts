import { afterEach, expect, it, vi } from 'vitest';
import { ServerRefusal } from './http';
import { askInLines } from './lines';

/** A server that sends these pieces, one after the other, whatever the lines are. */
function answers(status: number, ...pieces: string[]): void {
  const body = new ReadableStream<Uint8Array>({
    start(controller) {
      for (const piece of pieces) controller.enqueue(new TextEncoder().encode(piece));
      controller.close();
    },
  });
  vi.stubGlobal('fetch', () => Promise.resolve(new Response(body, { status })));
}
afterEach(() => vi.unstubAllGlobals());

const asked = (onLine: (line: object) => void = () => {}) =>
  askInLines<{ id: string }>('/api/x', {}, onLine, new AbortController().signal);

it('hears every line but the last, wherever the pieces are cut, and gives the last', async () => {
  answers(200, '{"done":0,"to', 'tal":2}\n{"done":1,"total":2}\n{"i', 'd":"made"}\n');
  const heard: object[] = [];
  expect(await asked((line) => heard.push(line))).toEqual({ id: 'made' });
  expect(heard).toEqual([
    { done: 0, total: 2 },
    { done: 1, total: 2 },
  ]);
});

it('throws what the server refused, said on the way or at once', async () => {
  answers(200, '{"done":0,"total":2}\n{"message":"The disk is full."}\n');
  await expect(asked()).rejects.toThrow('The disk is full.');
  answers(404, '{"message":"There is no template."}');
  await expect(asked()).rejects.toBeInstanceOf(ServerRefusal);
});

it('a server that ends in the middle is no answer', async () => {
  answers(200, '{"done":0,"total":2}\n');
  await expect(asked()).rejects.toThrow(/ended before it had answered/);
});
