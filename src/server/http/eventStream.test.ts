import { describe, expect, it } from 'vitest';
import { eventStream, type Events } from './eventStream';

function begun(): { stream: ReadableStream<Uint8Array>; events: Events; ended: () => number; abort: () => void } {
  const signal = new AbortController();
  let events!: Events;
  let ended = 0;
  const stream = eventStream(signal.signal, (given) => {
    events = given;
    return () => ended++;
  });
  return { stream, events, ended: () => ended, abort: () => signal.abort() };
}

async function all(stream: ReadableStream<Uint8Array>): Promise<string[]> {
  const pieces: string[] = [];
  const decoder = new TextDecoder();
  for await (const piece of stream as unknown as AsyncIterable<Uint8Array>) pieces.push(decoder.decode(piece));
  return pieces;
}

describe('a stream of events', () => {
  it('brings all in order; what came while nobody took anything comes together', async () => {
    const { stream, events, ended } = begun();
    for (let i = 0; i < 100; i++) events.send(`data: ${i}`);
    events.close();
    const pieces = await all(stream);
    expect(pieces.join('')).toBe(`: open\n\n${Array.from({ length: 100 }, (_, i) => `data: ${i}\n\n`).join('')}`);
    expect(pieces.length).toBeLessThan(5);
    expect(ended()).toBe(1);
  });
  it('ends once, whoever ends it', async () => {
    const { stream, events, ended, abort } = begun();
    abort();
    events.send('data: late');
    events.close();
    expect((await all(stream)).join('')).toBe(': open\n\n');
    expect(ended()).toBe(1);
  });
  it('is cut off where nobody takes anything, before it takes all memory', () => {
    const { events, ended } = begun();
    const line = `data: ${'x'.repeat(100_000)}`;
    for (let i = 0; i < 200 && ended() === 0; i++) events.send(line);
    expect(ended()).toBe(1);
  });
});
