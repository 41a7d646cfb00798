import { crc32 } from 'node:zlib';
import { afterEach, describe, expect, it, vi } from 'vitest';
import { Delivery, Undeliverable } from './delivery';
import type { Part, TakeFiles } from './takeStore';

const BLOCK = 3;

/** Files of a take in memory, and a server that behaves like ours. */
function studio(frames: number) {
  const data = Uint8Array.from({ length: frames * BLOCK }, (_, i) => i % 251);
  /** What the browser's disk holds so far; by default the whole take. */
  const there = { bytes: data.length, grows: 0 };
  const files = {
    journal: { id: 'take-1', session: 's', track: 't', start: 0, block: BLOCK, chains: [[]] },
    size: () => there.bytes,
    read: (_part: Part, at: number, n: number) => data.slice(at, at + n),
    sum: (_part: Part, bytes: number) => crc32(data.subarray(0, bytes)),
  } as unknown as TakeFiles;
  const server = {
    processed: new Uint8Array(0),
    dry: new Uint8Array(0),
    away: 0,
    /** Answers that break off in the middle, as of a server that is killed. */
    cut: 0,
    gone: false,
    full: false,
    finished: 0,
    begun: 0,
  };
  const answer = (status: number, body: object) => {
    const text = JSON.stringify(body);
    return new Response(server.cut-- > 0 ? text.slice(0, -2) : text, { status });
  };
  vi.stubGlobal('fetch', async (url: string, init: RequestInit) => {
    if (server.away > 0) {
      server.away--;
      throw new TypeError('Failed to fetch');
    }
    if (server.gone) return answer(404, { message: 'There is no recording' });
    if (url.endsWith('/recordings')) {
      server.begun++;
      return answer(201, {
        take: 1,
        file: 'T01.wav',
        received: { processed: server.processed.length, dry: server.dry.length },
      });
    }
    if (url.endsWith('/finish')) {
      const told = JSON.parse(init.body as string) as { frames: number; sums: Record<Part, number>; last: boolean };
      const wanted = told.frames * BLOCK;
      const have = Math.min(server.processed.length, server.dry.length);
      if (have < wanted) return answer(409, { message: 'missing', expected: have });
      for (const part of ['processed', 'dry'] as const) {
        if (crc32(server[part]) === told.sums[part] || told.last) continue;
        server[part] = new Uint8Array(0);
        return answer(409, { message: 'differs', expected: 0 });
      }
      server.finished++;
      return answer(200, { faults: told.last ? ['differs'] : [] });
    }
    const [, part, offset, crc] = /chunks\/(\w+)\?offset=(\d+)&crc=(\d+)/.exec(url)!;
    // CRC-32 as Node's zlib has it.
    expect(Number(crc)).toBe(crc32(init.body as Uint8Array));
    const at = Number(offset);
    const name = part as Part;
    if (server.full) return answer(409, { message: 'This recording is finished', expected: at });
    if (at > server[name].length) return answer(409, { expected: server[name].length });
    const bytes = init.body as Uint8Array;
    const grown = new Uint8Array(Math.max(server[name].length, at + bytes.length));
    grown.set(server[name]);
    grown.set(bytes, at);
    server[name] = grown;
    there.bytes = Math.min(data.length, there.bytes + there.grows);
    return answer(200, { received: grown.length });
  });
  return { data, files, server, there };
}

afterEach(() => vi.unstubAllGlobals());

describe('delivery', () => {
  it('brings both parts over whole', async () => {
    const { data, files, server } = studio(5000);
    const d = new Delivery(files);
    await d.finish(5000);
    expect(server.processed).toEqual(data);
    expect(server.dry).toEqual(data);
    expect(server.finished).toBe(1);
    expect(d.delivered).toBe(5000);
  });
  it('sends everything once more when the file there is another, and tells it when it stays so', async () => {
    const { data, files, server } = studio(500);
    const d = new Delivery(files);
    await d.push();
    server.dry[700]! ^= 1;
    expect(await d.finish(500)).toEqual({ faults: [] });
    expect(server.dry).toEqual(data);
    const other = studio(500);
    // A disk that keeps other bytes than it was given.
    (other.files as unknown as { sum: () => number }).sum = () => 1;
    expect(await new Delivery(other.files).finish(500)).toEqual({ faults: ['differs'] });
  });
  it('lets neither part wait while a recording grows faster than it is sent', async () => {
    const { files, server, there } = studio(5000);
    Object.assign(there, { bytes: 300, grows: 600 });
    const d = new Delivery(files);
    await d.push();
    expect(d.delivered).toBe(100);
    expect(server.dry.length).toBe(server.processed.length);
  });
  it('gives up when the server takes nothing more', async () => {
    const { files, server } = studio(100);
    const d = new Delivery(files);
    await d.begin();
    server.full = true;
    await expect(d.push()).rejects.toThrow('finished');
  });
  it('throws while the server is away, and goes on from there afterwards', async () => {
    const { data, files, server } = studio(3000);
    const d = new Delivery(files);
    server.away = 1;
    await expect(d.push()).rejects.toThrow('Failed to fetch');
    await d.finish(3000);
    expect(server.processed).toEqual(data);
    expect(server.begun).toBe(1);
  });
  it('takes an answer that breaks off for none, and goes on from where the server is', async () => {
    const { data, files, server } = studio(3000);
    const d = new Delivery(files);
    for (const when of ['begin', 'chunk', 'finish']) {
      if (when === 'chunk') await d.begin();
      if (when === 'finish') await d.push();
      server.cut = 1;
      await expect(d.finish(3000), when).rejects.toThrow('cut off');
    }
    await d.finish(3000);
    expect(server.processed).toEqual(data);
    expect(server.dry).toEqual(data);
  });
  it('sends again what a server lost when it was cut off', async () => {
    const { data, files, server } = studio(3000);
    const d = new Delivery(files);
    await d.push();
    server.processed = server.processed.slice(0, 900);
    server.dry = server.dry.slice(0, 300);
    await d.finish(3000);
    expect(server.processed).toEqual(data);
    expect(server.dry).toEqual(data);
  });
  it('begins where a server already is', async () => {
    const { data, files, server } = studio(1000);
    server.processed = data.slice(0, 1500);
    await new Delivery(files).finish(1000);
    expect(server.processed).toEqual(data);
  });
  it('keeps a take that the server does not know', async () => {
    const { files, server } = studio(10);
    server.gone = true;
    await expect(new Delivery(files).finish(10)).rejects.toThrow(Undeliverable);
  });
});
